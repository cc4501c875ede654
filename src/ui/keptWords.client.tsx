"use client";

import { useSyncExternalStore } from "react";

/**
 * What someone was writing when its form went from the page, because a colleague was quicker or the page was read anew:
 * shown until they have done with it. Leaving the page oneself is no such case.
 */

type Kept = { key: string; words: string; why: string };

let kept: readonly Kept[] = [];
const listeners = new Set<() => void>();

const change = (to: readonly Kept[]) => {
  kept = to;
  for (const listener of listeners) listener();
};

/** When someone last pressed something, or Escape: a form that goes right after it was closed by themselves. */
let pressedAt = 0;
if (typeof document !== "undefined")
  for (const kind of ["pointerdown", "keydown"] as const)
    document.addEventListener(
      kind,
      (event) => {
        if (!(event instanceof KeyboardEvent) || event.key === "Escape") pressedAt = event.timeStamp;
      },
      true,
    );

/**
 * Keeps the words of a form that is no longer there. `refused` is why they were not taken; null where nobody sent them,
 * who may have closed the form themselves.
 */
export function keepWords(words: string, refused: string | null): void {
  if (refused === null && performance.now() - pressedAt < 1000) return;
  change([...kept, { key: crypto.randomUUID(), words, why: refused ?? "Someone got there first." }]);
}

const subscribe = (listener: () => void) => {
  listeners.add(listener);
  return () => void listeners.delete(listener);
};

const NONE: readonly Kept[] = [];

/** The words that are kept, each to copy or to discard. */
export function KeptWords() {
  const all = useSyncExternalStore(
    subscribe,
    () => kept,
    () => NONE,
  );
  if (all.length === 0) return null;
  return (
    <section
      aria-label="Your words"
      className="border-ochre bg-ochre-tint fixed inset-x-3 bottom-[72px] z-40 mx-auto max-w-[640px] space-y-3 rounded-[12px] border p-4 shadow-lg wide:bottom-4"
    >
      {all.map(({ key, words, why }) => (
        <div key={key} role="status">
          <p className="font-semibold">{why} Your words are safe here.</p>
          <p className="bg-sheet mt-2 max-h-[180px] overflow-y-auto rounded-[8px] p-3 whitespace-pre-wrap [overflow-wrap:anywhere]">
            {words}
          </p>
          <p className="mt-2 flex gap-2">
            <button type="button" className="button" onClick={() => void navigator.clipboard.writeText(words)}>
              Copy them
            </button>
            <button
              type="button"
              className="button-quiet"
              onClick={() => change(kept.filter((one) => one.key !== key))}
            >
              Discard
            </button>
          </p>
        </div>
      ))}
    </section>
  );
}
