"use client";

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto max-w-[560px] px-6 py-20">
      <h1 className="title">Something went wrong on our side.</h1>
      <p className="lead">
        What you had saved is kept. Try again; if it happens once more, tell whoever runs Estima for you.
      </p>
      <p className="mt-6">
        <button type="button" className="button-main" onClick={reset}>
          Try again
        </button>
      </p>
    </main>
  );
}
