"use client";

import { useRouter } from "next/navigation";
import { type ReactNode, useEffect, useRef } from "react";
import { onSingleKey } from "@/ui/singleKeys.client";

/** A list whose names the keys `j` and `k` or the arrow keys walk through; `/` goes to the search. */
export function Walk({ children, search }: { children: ReactNode; search: string }) {
  const box = useRef<HTMLDivElement>(null);
  const router = useRouter();
  useEffect(() => {
    const onKey = (command: string, event: KeyboardEvent) => {
      if (command === "/") {
        event.preventDefault();
        document.getElementById(search)?.focus();
        return;
      }
      const by = { j: 1, k: -1, ArrowDown: 1, ArrowUp: -1 }[command];
      const links = [...(box.current?.querySelectorAll<HTMLAnchorElement>("a[data-client]") ?? [])];
      const at = links.indexOf(document.activeElement as HTMLAnchorElement);
      if (!by || links.length === 0 || (command.startsWith("Arrow") && at < 0)) return;
      event.preventDefault();
      links[Math.max(0, Math.min(links.length - 1, at + by))].focus();
    };
    return onSingleKey(onKey);
  }, [search]);
  // What needs somebody changes by itself.
  useEffect(() => {
    const timer = setInterval(() => document.visibilityState === "visible" && router.refresh(), 30_000);
    return () => clearInterval(timer);
  }, [router]);
  return <div ref={box}>{children}</div>;
}
