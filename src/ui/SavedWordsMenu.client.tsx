"use client";

import { Popover } from "radix-ui";
import { type ReactNode, useId, useState } from "react";

export type SavedWords = {
  id: string;
  purpose: string;
  words: string;
  uses: number;
  of: "agency" | "client" | "own";
};

const OF = { agency: "the agency’s · ", client: "", own: "your own · " } as const;

/** Saved words to choose from, found by typing; each stands there as it would be said. */
export function SavedWordsMenu<Saved extends SavedWords>({
  saved,
  isLooking = false,
  empty,
  onOpen,
  onChoose,
  below,
}: {
  /** Null until they are there. */
  saved: Saved[] | null;
  isLooking?: boolean;
  /** Said where nothing is saved. */
  empty: string;
  onOpen?: () => void;
  onChoose: (words: Saved) => void;
  /** What else is said of one. */
  below?: (words: Saved) => ReactNode;
}) {
  const [open, setOpen] = useState(false);
  const [typed, setTyped] = useState("");
  const id = useId();
  const wanted = typed.trim().toLowerCase();
  const shown = (saved ?? []).filter(({ purpose, words }) => `${purpose} ${words}`.toLowerCase().includes(wanted));
  return (
    <Popover.Root
      open={open}
      onOpenChange={(isOpen) => {
        setOpen(isOpen);
        if (isOpen) onOpen?.();
      }}
    >
      <Popover.Trigger className="button" type="button">
        Saved replies
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          className="border-edge bg-sheet text-ink z-40 max-h-[min(420px,var(--radix-popover-content-available-height))] w-[min(460px,94vw)] overflow-y-auto rounded-[12px] border p-4"
        >
          <label className="label" htmlFor={id}>
            Search saved replies
          </label>
          <input id={id} className="field" value={typed} onChange={(event) => setTyped(event.target.value)} />
          {isLooking && saved === null ? <p className="text-second mt-3">Searching…</p> : null}
          {saved?.length === 0 ? <p className="text-second mt-3">{empty}</p> : null}
          <ul className="mt-2">
            {shown.map((each) => (
              <li key={each.id} className="border-rule border-t first:border-t-0">
                <button
                  type="button"
                  className="hover:bg-mulberry-tint focus-visible:bg-mulberry-tint w-full rounded-[7px] px-2 py-2.5 text-left"
                  onClick={() => {
                    onChoose(each);
                    setOpen(false);
                  }}
                >
                  <span className="flex flex-wrap justify-between gap-x-3">
                    <b>{each.purpose}</b>
                    <span className="text-second text-[14px]">
                      {OF[each.of]}
                      {usedWords(each.uses)}
                    </span>
                  </span>
                  <span className="line-clamp-3 whitespace-pre-wrap">{each.words}</span>
                  {below?.(each)}
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

/** How often something was used: "not used yet", "used once", "used 7 times". */
export const usedWords = (uses: number): string =>
  uses === 0 ? "not used yet" : uses === 1 ? "used once" : `used ${uses} times`;
