"use client";

import { type ReactNode, useEffect, useRef } from "react";
import { onSingleKey } from "@/ui/singleKeys.client";

const ENTRY = "article[data-entry]";

/** The entry that is being read: where the keyboard is, or the first that is seen. */
const entryOf = (box: HTMLElement): HTMLElement | null =>
  document.activeElement?.closest<HTMLElement>(ENTRY) ?? box.querySelector<HTMLElement>(ENTRY);

/** Opens the place for a reply, as a click would. */
function openPlace(entry: HTMLElement): void {
  entry.querySelector<HTMLElement>("details:not([open]) > summary")?.click();
}

/** Opens the place for a reply, and puts the cursor there; of an entry without one, its page. */
function open(entry: HTMLElement): void {
  openPlace(entry);
  const field = entry.querySelector<HTMLElement>("textarea");
  if (field) field.focus();
  else entry.querySelector<HTMLAnchorElement>("a.button")?.click();
}

const DO: Record<string, (entry: HTMLElement) => void> = {
  Enter: open,
  r: open,
  d: (entry) => {
    openPlace(entry);
    entry.querySelector<HTMLButtonElement>("button[data-key=d]")?.click();
  },
  e: (entry) => entry.querySelector<HTMLButtonElement>("button[data-key=e]")?.click(),
};

/** What was heard, walked with `j` and `k`, opened with `Enter` or `r`, drafted anew with `d`, set aside with `e`. */
export function HeardKeys({ children }: { children: ReactNode }) {
  const box = useRef<HTMLDivElement>(null);
  useEffect(
    () =>
      onSingleKey((command, event) => {
        const list = box.current;
        if (!list) return;
        const entries = [...list.querySelectorAll<HTMLElement>(ENTRY)];
        const current = document.activeElement?.closest<HTMLElement>(ENTRY) ?? null;
        const by = { j: 1, k: -1 }[command];
        if (by) {
          const at = current ? entries.indexOf(current) + by : 0;
          entries[Math.max(0, Math.min(entries.length - 1, at))]?.focus();
        } else if (DO[command]) {
          // A button or link under the cursor answers to Enter itself.
          if (command === "Enter" && document.activeElement !== current) return;
          const entry = entryOf(list);
          if (!entry) return;
          DO[command](entry);
        } else return;
        event.preventDefault();
      }),
    [],
  );
  return (
    <div ref={box} className="space-y-4">
      {children}
    </div>
  );
}
