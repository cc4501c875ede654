import type { ReactNode } from "react";
import { sayAgo } from "@/core/time/say";
import { hiddenReasonWords } from "@/locales/operations";
import { Bars } from "@/ui/Bars";
import { Opening } from "@/ui/Opening.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import type { OwnReview } from "../service";
import { HideForm, OwnReplyForm, ShowAgain } from "./OwnReviewForms.client";

/** One own review in the list of what was heard. */
export function OwnReviewCard({
  review,
  slug,
  branch,
  now,
  mayReply,
  beside,
}: {
  review: OwnReview;
  slug: string;
  branch: string;
  now: number;
  mayReply: boolean;
  /** What they said beside rating and words, which their page does not show. */
  beside?: ReactNode;
}) {
  return (
    <article data-entry="" tabIndex={-1} className="sheet focus:!border-mulberry p-5 outline-none">
      <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
        <Bars rating={review.rating} />
        <b className="text-ink text-[15px]">
          {review.personId ? (
            <Link href={`/c/${slug}/people/${review.personId}`}>{review.name || "A customer"}</Link>
          ) : (
            review.name || "A customer"
          )}
        </b>
        <span>
          on your own page, {branch} · {sayAgo(review.writtenAt, now)}
        </span>
        {review.hiddenWhy ? (
          <span className="tag bg-vermilion-tint text-vermilion-deep">
            hidden by {review.hiddenBy}, because of {hiddenReasonWords(review.hiddenWhy)}
          </span>
        ) : null}
      </p>
      <p className="said mt-1.5">“{review.words}”</p>
      {beside}
      {review.reply ? (
        <div className="border-edge mt-3 border-l-[3px] pl-4">
          <p className="whitespace-pre-wrap">{review.reply}</p>
          <p className="text-second text-[14px]">
            Answered by {review.repliedBy} {review.repliedAt ? sayAgo(review.repliedAt, now) : ""}
          </p>
        </div>
      ) : null}
      {mayReply ? (
        <div className="mt-3 flex flex-wrap items-baseline gap-x-4 gap-y-2">
          <Opening className="grow" label={review.reply ? "Edit answer" : "Answer"}>
            <OwnReplyForm slug={slug} id={review.id} words={review.reply ?? ""} />
          </Opening>
          {review.hiddenWhy ? <ShowAgain slug={slug} id={review.id} /> : <HideForm slug={slug} id={review.id} />}
        </div>
      ) : null}
    </article>
  );
}
