"use client";

import { useState } from "react";
import { ActionForm } from "@/ui/ActionForm.client";
import { reply } from "../actions";

/** The reply to a review, written by hand. */
export function ReplyForm({
  slug,
  reviewId,
  site,
  words,
  again,
}: {
  slug: string;
  reviewId: string;
  site: string;
  words: string;
  again: boolean;
}) {
  const [length, setLength] = useState(words.length);
  const id = `reply-${reviewId}`;
  return (
    <ActionForm action={reply.bind(null, slug, reviewId)} className="border-mulberry mt-3 border-l-[3px] pl-4">
      {({ pending, error }) => (
        <>
          <label className="label" htmlFor={id}>
            {again ? "Another reply in place of it" : `Your reply, for everybody to read on ${site}`}
          </label>
          <textarea
            id={id}
            name="words"
            rows={4}
            className="field"
            defaultValue={words}
            onChange={(event) => setLength(event.target.value.length)}
            onKeyDown={(event) => {
              if (event.key === "Enter" && (event.metaKey || event.ctrlKey)) event.currentTarget.form?.requestSubmit();
            }}
          />
          {error("words")}
          <div className="mt-2 flex flex-wrap items-center justify-between gap-2">
            <span className="text-second text-[14px]">{length.toLocaleString("en-GB")} of 4,000 characters</span>
            <button type="submit" className="button-main" disabled={pending}>
              {pending ? "Posting ..." : "Post reply"} <kbd className="key hidden sm:inline">Ctrl ↵</kbd>
            </button>
          </div>
        </>
      )}
    </ActionForm>
  );
}
