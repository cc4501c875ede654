import Link from "next/link";
import type { ReactNode } from "react";

/** A filter that is a link; `here` where it is the one that holds. */
export function chip(href: string, here: boolean, words: ReactNode) {
  return (
    <Link href={href} className="chip" aria-current={here ? "true" : undefined}>
      {words}
    </Link>
  );
}
