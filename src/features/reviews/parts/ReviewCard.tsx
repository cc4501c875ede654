import { sayRating } from "@/core/reviews/rating";
import { capital, sayAgo } from "@/core/time/say";
import { siteProblemWords } from "@/locales/operations";
import { Bars } from "@/ui/Bars";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { signed } from "@/ui/signed";
import type { ListedReview } from "../queries";
import { ReplyForm } from "./ReplyForm.client";

type Props = {
  it: ListedReview;
  slug: string;
  now: number;
  mayReply: boolean;
  /** It was opened by its address, and stands out. */
  isOpen: boolean;
  /** A reply can be written without opening it first. */
  isWaiting: boolean;
  /** With which name replies end. */
  signature?: string | null;
};

/** One public review in a list, with its reply or the place to write one. */
export function ReviewCard(props: Props) {
  const { it, now, isOpen } = props;
  const { review, site, url, branch } = it;
  return (
    <article id={`review-${review.id}`} className={`sheet scroll-mt-24 p-5 ${isOpen ? "!border-mulberry" : ""}`}>
      <p className="text-second flex flex-wrap items-baseline gap-x-2.5 text-[14px]">
        <Bars rating={review.rating} words={sayRating(review.ownRating, review.scale)} />
        <b className="text-ink text-[15px]">{review.author}</b>
        <span>
          on{" "}
          <a href={url} target="_blank" rel="noopener">
            {site}
          </a>{" "}
          · {branch} · {sayAgo(review.writtenAt, now)}
        </span>
        {review.editedAt ? (
          <span className="tag bg-ochre-tint text-ochre-deep">changed {sayAgo(review.editedAt, now)}</span>
        ) : null}
        {review.deletedAt ? (
          <span className="tag bg-vermilion-tint text-vermilion-deep">taken down {sayAgo(review.deletedAt, now)}</span>
        ) : null}
      </p>
      <p className="said mt-1.5">
        {review.words ? (
          `“${review.words}”`
        ) : (
          <span className="text-second font-sans text-[15px]">No words, only the rating.</span>
        )}
      </p>
      <Reply {...props} />
    </article>
  );
}

function Reply({ it: { review, site, takesReplies }, slug, now, mayReply, isOpen, isWaiting, signature }: Props) {
  return (
    <>
      {review.replyState === "posted" ? (
        <div className="border-edge mt-3 border-l-[3px] pl-4">
          <p className="whitespace-pre-wrap">{review.reply}</p>
          <p className="text-second text-[14px]">
            Replied{review.replyBy ? ` by ${review.replyBy}` : ""}{" "}
            {review.repliedAt ? sayAgo(review.repliedAt, now) : ""}
          </p>
          {mayReply && isOpen ? (
            <ReplyForm slug={slug} reviewId={review.id} site={site} words={review.reply ?? ""} again />
          ) : mayReply ? (
            <Link
              href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`}
              className="button-quiet -ml-2"
            >
              Change the reply
            </Link>
          ) : null}
        </div>
      ) : null}
      {review.replyState === "failed" ? (
        <p className="bg-vermilion-tint text-vermilion-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
          {capital(siteProblemWords(review.replyError ?? { code: "not reached" }))}. Your words are kept below.
        </p>
      ) : null}
      {mayReply && takesReplies && review.replyState !== "posted" && !review.deletedAt ? (
        isOpen || isWaiting ? (
          <details className="mt-3" open={isOpen || review.replyState === "failed"}>
            <summary className="button">Reply</summary>
            <ReplyForm
              slug={slug}
              reviewId={review.id}
              site={site}
              words={review.reply ?? signed(signature)}
              again={false}
            />
          </details>
        ) : (
          <p className="mt-3">
            <Link href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`} className="button">
              Reply
            </Link>
          </p>
        )
      ) : null}
    </>
  );
}
