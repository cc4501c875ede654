"use client";

import Link from "next/link";
import { usePathname } from "next/navigation";
import { may, type Rights } from "@/core/access/permissions";

const PARTS = [
  ["", "Feeds"],
  ["business", "The business"],
  ["answering", "Answering"],
  ["services", "Services and team"],
  ["pages", "Review pages"],
  ["tags", "Tags"],
  ["names", "Names to match"],
  ["keys", "API keys"],
  ["phones", "Shared phones"],
  ["changes", "Who did what"],
] as const;

/** The parts of Set-up, as far as somebody may go there. */
export function SetUpNav({ slug, rights }: { slug: string; rights: Rights }) {
  const path = usePathname();
  const base = `/c/${slug}/set-up`;
  return (
    <nav aria-label="Set-up" className="mx-auto flex w-full max-w-[1280px] flex-wrap gap-x-6 px-4 pt-4 sm:px-8">
      {PARTS.filter(([part]) => may(rights, part === "names" ? "edit people" : "set up")).map(([part, words]) => {
        const href = part ? `${base}/${part}` : base;
        const here = part ? path.startsWith(href) : path === base || path.startsWith(`${base}/feeds`);
        return (
          <Link key={part} href={href} className="tab" aria-current={here ? "page" : undefined}>
            {words}
          </Link>
        );
      })}
    </nav>
  );
}
