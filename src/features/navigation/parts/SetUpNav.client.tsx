"use client";

import Link from "next/link";
import { usePathname } from "next/navigation";

/** The way back from a part of Set-up to its overview. */
export function SetUpNav({ slug }: { slug: string }) {
  const base = `/c/${slug}/set-up`;
  if (usePathname() === base) return null;
  return (
    <nav aria-label="Set-up" className="mx-auto w-full max-w-[1280px] px-4 pt-4 sm:px-8">
      <Link href={base} className="text-second hover:text-ink inline-flex min-h-[28px] items-center gap-1.5">
        <span aria-hidden="true">‹</span> Back to Set-up
      </Link>
    </nav>
  );
}
