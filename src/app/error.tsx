"use client";

export default function ErrorPage({ reset }: { error: Error; reset: () => void }) {
  return (
    <main className="mx-auto max-w-[560px] px-6 py-20">
      <h1 className="title">Something went wrong on our side.</h1>
      <p className="lead">
        Anything you’d saved is safe. Try again; if it keeps happening, tell whoever runs Estima for you.
      </p>
      <p className="mt-6">
        <button type="button" className="button-main" onClick={reset}>
          Try again
        </button>
      </p>
    </main>
  );
}
