import Link from "next/link";

export default function NotFound() {
  return (
    <main className="mx-auto max-w-[560px] px-6 py-20">
      <h1 className="title">Not found.</h1>
      <p className="lead">There’s no page here, or you don’t have access to it.</p>
      <p className="mt-6">
        <Link href="/" className="button">
          Go to your start page
        </Link>
      </p>
    </main>
  );
}
