"use client";

import { useEffect, useRef, useState, useTransition } from "react";
import { TOO_ALIKE } from "@/core/replies/guards";
import { sayCount } from "@/core/time/say";
import { ActionForm } from "@/ui/ActionForm.client";
import { lookOver, redraft, reply, type Warning } from "../actions";

/** The draft that stands in the form at first; null where somebody's own words stand there. */
export type FormDraft = { alike: number; turn: number; unlike: number } | null;

const GUARD_WORDS: Record<Warning["guard"], string> = {
  "private fact": "says what the review does not, and others should not know",
  money: "promises money or a gift",
  blame: "blames whoever wrote",
  "asks to change it": "asks for another review",
  admission: "may be read as an admission of liability",
  "contact data": "holds somebody’s address or number",
  "repeats a reply": "is nearly the words of another reply",
};

/** The reply to a review: a draft of ours, or somebody's own words, looked over while they write. */
export function ReplyForm({
  slug,
  reviewId,
  site,
  words: first,
  draft,
  again,
}: {
  slug: string;
  reviewId: string;
  site: string;
  words: string;
  draft: FormDraft;
  again: boolean;
}) {
  const [words, setWords] = useState(first);
  const [drafted, setDrafted] = useState<{ text: string; turn: number; alike: number } | null>(
    draft && { text: first, ...draft },
  );
  const [warnings, setWarnings] = useState<Warning[]>([]);
  const [says, setSays] = useState("");
  const [pendingDraft, start] = useTransition();
  const field = useRef<HTMLTextAreaElement>(null);
  const id = `reply-${reviewId}`;
  const isDraft = drafted !== null && words === drafted.text;
  // What somebody types is looked over once they rest; a draft was before it came.
  useEffect(() => {
    if (isDraft || words.trim().length < 8) {
      setWarnings([]);
      return;
    }
    let isOver = false;
    const wait = setTimeout(() => {
      lookOver(slug, reviewId, words)
        .then((found) => !isOver && setWarnings(found))
        .catch(() => {});
    }, 700);
    return () => {
      isOver = true;
      clearTimeout(wait);
    };
  }, [slug, reviewId, words, isDraft]);
  const another = () =>
    start(async () => {
      const next = await redraft(slug, reviewId, drafted?.turn ?? 0, drafted?.text ?? words).catch(() => null);
      setSays(next ? "Another draft stands there." : "There is no other draft for these words.");
      if (!next) return;
      setDrafted(next);
      setWords(next.text);
      field.current?.focus();
    });
  return (
    <ActionForm action={reply.bind(null, slug, reviewId)} className="border-mulberry mt-3 border-l-[3px] pl-4">
      {({ pending, error }) => (
        <>
          <label className="label" htmlFor={id}>
            {again ? "Another reply in place of it" : `Your reply, for everybody to read on ${site}`}
          </label>
          <textarea
            ref={field}
            id={id}
            name="words"
            rows={5}
            className="field"
            value={words}
            onChange={(event) => setWords(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && (event.metaKey || event.ctrlKey)) event.currentTarget.form?.requestSubmit();
            }}
          />
          {error("words")}
          {warnings.length > 0 ? (
            <ul role="status" className="bg-ochre-tint text-ochre-deep mt-2 rounded-[8px] px-3 py-2 text-[14px]">
              {warnings.map(({ guard, words }) => (
                <li key={`${guard} ${words}`}>
                  “{words}” {GUARD_WORDS[guard]}.
                </li>
              ))}
            </ul>
          ) : null}
          <div className="mt-2 flex flex-wrap items-center justify-between gap-2">
            <span className="text-second text-[14px]">
              {isDraft ? "Draft from their words · " : ""}
              {words.length.toLocaleString("en-GB")} of 4,000
              {isDraft && draft && draft.unlike > 0 && drafted.alike < TOO_ALIKE
                ? ` · unlike your last ${sayCount(draft.unlike, "reply", "replies")}`
                : ""}
            </span>
            <span className="flex flex-wrap items-center gap-2">
              <button type="button" className="button" disabled={pendingDraft} onClick={another} data-key="d">
                {pendingDraft ? "Writing ..." : drafted ? "Another draft" : "Write a draft"}
              </button>
              <button type="submit" className="button-main" disabled={pending}>
                {pending ? "Posting ..." : "Post reply"} <kbd className="key hidden sm:inline">Ctrl ↵</kbd>
              </button>
            </span>
          </div>
          <p role="status" className="sr-only">
            {says}
          </p>
        </>
      )}
    </ActionForm>
  );
}
