"use client";

import { Popover } from "radix-ui";
import { useState, useTransition } from "react";
import type { OutsideProblem, OutsideRequest } from "@/core/replies/outsideDraft";
import { askOutside, showOutside } from "../outsideActions";
import { GUARD_WORDS } from "./guardWords";

const PROBLEMS: Record<OutsideProblem, string> = {
  "not set up": "The writing service is no longer set up.",
  "refused key": "The service rejected its key. Whoever set it up can add a new one under Rules.",
  busy: "The service is busy. Try again shortly.",
  "not reached": "We couldn’t reach the service.",
  "not readable": "The service sent back something that isn’t a draft.",
};

/** A draft from an outside text service: first what would be sent is shown, and only then it is. */
export function OutsideDraft({
  slug,
  reviewId,
  onDraft,
}: {
  slug: string;
  reviewId: string;
  onDraft: (text: string) => void;
}) {
  const [open, setOpen] = useState(false);
  const [shown, setShown] = useState<OutsideRequest | null>(null);
  const [says, setSays] = useState<string[]>([]);
  const [pending, start] = useTransition();
  const send = () =>
    start(async () => {
      const got = await askOutside(slug, reviewId).catch(() => ({ problem: "not reached" as const }));
      if ("problem" in got) setSays([PROBLEMS[got.problem]]);
      else if ("refused" in got)
        setSays([
          "What it wrote isn’t suitable for a public reply:",
          ...got.refused.map(({ guard, words }) => `“${words}” ${GUARD_WORDS[guard]}.`),
        ]);
      else {
        onDraft(got.text);
        setOpen(false);
      }
    });
  return (
    <Popover.Root
      open={open}
      onOpenChange={(isOpen) => {
        setOpen(isOpen);
        setSays([]);
        if (isOpen) start(async () => setShown(await showOutside(slug, reviewId).catch(() => null)));
      }}
    >
      <Popover.Trigger className="button" type="button">
        Ask the writing service
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          sideOffset={6}
          collisionPadding={12}
          className="border-edge bg-sheet text-ink z-40 max-h-[min(460px,var(--radix-popover-content-available-height))] w-[min(460px,94vw)] overflow-y-auto rounded-[12px] border p-5"
        >
          <p className="font-title mb-2 text-[16px] font-semibold">We’ll send only this</p>
          {shown ? (
            <dl className="grid grid-cols-[96px_1fr] gap-x-3 gap-y-1.5">
              <dt className="text-second">Words</dt>
              <dd className="said !text-[16px] [overflow-wrap:anywhere]">{shown.review.words || "(none)"}</dd>
              <dt className="text-second">Rating</dt>
              <dd>{shown.review.rating} of 5</dd>
              <dt className="text-second">Language</dt>
              <dd>{shown.review.language}</dd>
              <dt className="text-second">Business</dt>
              <dd>{shown.reply.business}</dd>
              <dt className="text-second">Tone</dt>
              <dd>
                {shown.reply.tone}, at most {shown.reply.longest.toLocaleString("en-GB")} characters
              </dd>
            </dl>
          ) : (
            <p className="text-second">{pending ? "Checking…" : "This review no longer exists."}</p>
          )}
          {says.length > 0 ? (
            <div role="alert" className="bg-ochre-tint text-ochre-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
              {says.map((line) => (
                <p key={line}>{line}</p>
              ))}
            </div>
          ) : null}
          <div className="mt-4 flex gap-2">
            <button type="button" className="button-main" disabled={pending || !shown} onClick={send}>
              {pending && shown ? "Asking…" : "Send it"}
            </button>
            <Popover.Close className="button" type="button">
              Cancel
            </Popover.Close>
          </div>
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
