"use client";

import type { HiddenReason } from "@/core/reviews/ownReviews";
import { ActionForm } from "@/ui/ActionForm.client";
import { Sentence } from "@/ui/Sentence.client";
import { hideReview, replyToOwnReview } from "../actions";

/** The answer to an own review, for everybody to read on the business's page. */
export function OwnReplyForm({ slug, id, words }: { slug: string; id: string; words: string }) {
  const field = `own-reply-${id}`;
  return (
    <ActionForm action={replyToOwnReview.bind(null, slug, id)} className="border-mulberry mt-3 border-l-[3px] pl-4">
      {({ pending, error }) => (
        <>
          <input type="hidden" name="seen" value={words} />
          <label className="label" htmlFor={field}>
            Your public answer, shown on your page
          </label>
          <textarea id={field} name="words" rows={3} maxLength={4000} className="field" defaultValue={words} />
          {error("words")}
          <button type="submit" className="button-main mt-2" disabled={pending}>
            {pending ? "Saving…" : "Publish answer"}
          </button>
        </>
      )}
    </ActionForm>
  );
}

const REASON_WORDS: Record<HiddenReason, string> = { abuse: "abuse", "private facts": "private details" };

/** Takes a review off the page, for one of the reasons that allow it. */
export function HideForm({ slug, id }: { slug: string; id: string }) {
  return (
    <Sentence words="Hide it" label="Hide this review" action={hideReview.bind(null, slug, id)}>
      {(error) => (
        <fieldset className="space-y-2">
          <legend className="label">Reason</legend>
          {(Object.entries(REASON_WORDS) as [HiddenReason, string][]).map(([why, words]) => (
            <label key={why} className="flex min-h-[36px] items-center gap-2">
              <input type="radio" name="why" value={why} className="size-[17px]" /> {words}
            </label>
          ))}
          {error("why")}
          <p className="text-second text-[14px]">
            Being unhappy isn’t a reason. Your page says how many reviews are hidden, and the reason is recorded with
            your name.
          </p>
        </fieldset>
      )}
    </Sentence>
  );
}

/** Shows a hidden review again. */
export function ShowAgain({ slug, id }: { slug: string; id: string }) {
  return (
    <ActionForm action={hideReview.bind(null, slug, id)} className="inline">
      {({ pending }) => (
        <button type="submit" name="why" value="" className="button-quiet" disabled={pending}>
          Show it again
        </button>
      )}
    </ActionForm>
  );
}
