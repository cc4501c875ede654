"use client";

import { Popover } from "radix-ui";
import { useId, useState, useTransition } from "react";
import { type SavedForReview, savedFor } from "../actions";
import { GUARD_WORDS } from "./guardWords";

/** Saved replies to choose from, found by typing; each stands there as it would be posted. */
export function SavedMenu({
  slug,
  reviewId,
  onChoose,
}: {
  slug: string;
  reviewId: string;
  onChoose: (reply: { id: string; words: string }) => void;
}) {
  const [open, setOpen] = useState(false);
  const [list, setList] = useState<SavedForReview[] | null>(null);
  const [typed, setTyped] = useState("");
  const [pending, start] = useTransition();
  const id = useId();
  const wanted = typed.trim().toLowerCase();
  const shown = (list ?? []).filter(({ purpose, words }) => `${purpose} ${words}`.toLowerCase().includes(wanted));
  return (
    <Popover.Root
      open={open}
      onOpenChange={(isOpen) => {
        setOpen(isOpen);
        if (isOpen) start(async () => setList(await savedFor(slug, reviewId).catch(() => [])));
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
            Find a saved reply
          </label>
          <input id={id} className="field" value={typed} onChange={(event) => setTyped(event.target.value)} />
          {pending && list === null ? <p className="text-second mt-3">Looking ...</p> : null}
          {list?.length === 0 ? (
            <p className="text-second mt-3">Nothing is saved yet. Replies are saved under Heard, Rules.</p>
          ) : null}
          <ul className="mt-2">
            {shown.map((reply) => (
              <li key={reply.id} className="border-rule border-t first:border-t-0">
                <button
                  type="button"
                  className="hover:bg-mulberry-tint focus-visible:bg-mulberry-tint w-full rounded-[7px] px-2 py-2.5 text-left"
                  onClick={() => {
                    onChoose(reply);
                    setOpen(false);
                  }}
                >
                  <span className="flex flex-wrap justify-between gap-x-3">
                    <b>{reply.purpose}</b>
                    <span className="text-second text-[14px]">
                      {reply.of === "own" ? "your own · " : reply.of === "agency" ? "the agency’s · " : ""}
                      {reply.uses === 0 ? "not used yet" : `used ${reply.uses === 1 ? "once" : `${reply.uses} times`}`}
                    </span>
                  </span>
                  <span className="line-clamp-3 whitespace-pre-wrap">{reply.words}</span>
                  {reply.refused.map(({ guard, words }) => (
                    <span key={`${guard} ${words}`} className="text-ochre-deep block text-[14px]">
                      “{words}” {GUARD_WORDS[guard]}.
                    </span>
                  ))}
                </button>
              </li>
            ))}
          </ul>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
