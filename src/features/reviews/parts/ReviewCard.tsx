import { sayRating } from "@/core/reviews/rating";
import { capital, sayAgo } from "@/core/time/say";
import { siteProblemWords } from "@/locales/operations";
import { Bars } from "@/ui/Bars";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { SaidWords } from "@/ui/SaidWords";
import { signed } from "@/ui/signed";
import type { Drafted } from "../drafts";
import type { ListedReview } from "../queries";
import { AsideButton } from "./AsideButton.client";
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
  /** What it names, and a draft of a reply. */
  drafted?: Drafted;
  /** Its reply is shown at once, as the one that waits most. */
  isFirst?: boolean;
  /** How many replies of its listing a draft was made unlike. */
  unlike?: number;
};

/** One public review in a list, with its reply or the place to write one. */
export function ReviewCard(props: Props) {
  const { it, now, isOpen, drafted } = props;
  const { review, site, url, branch } = it;
  return (
    <article
      id={`review-${review.id}`}
      data-entry=""
      tabIndex={-1}
      className={`sheet focus:!border-mulberry scroll-mt-24 p-5 outline-none ${isOpen ? "!border-mulberry" : ""}`}
    >
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
        {review.replyState === "set aside" ? <span className="tag border-rule border">set aside</span> : null}
        {review.deletedAt ? (
          <span className="tag bg-vermilion-tint text-vermilion-deep">taken down {sayAgo(review.deletedAt, now)}</span>
        ) : null}
      </p>
      <p className="said mt-1.5">
        {review.words ? (
          <SaidWords words={review.words} named={drafted?.named ?? []} />
        ) : (
          <span className="text-second font-sans text-[15px]">No words, only the rating.</span>
        )}
      </p>
      <Reply {...props} />
    </article>
  );
}

function Reply({ it, slug, now, mayReply, isOpen, isWaiting, signature, drafted, isFirst, unlike = 0 }: Props) {
  const { review, site, takesReplies } = it;
  const draft = review.reply === null ? (drafted?.draft ?? null) : null;
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
            <ReplyForm slug={slug} reviewId={review.id} site={site} words={review.reply ?? ""} draft={null} again />
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
        <div className="mt-3 flex flex-wrap items-start gap-2">
          {isOpen || isWaiting ? (
            <details className="grow" open={isOpen || isFirst || review.replyState === "failed"}>
              <summary className="button">Reply</summary>
              <ReplyForm
                slug={slug}
                reviewId={review.id}
                site={site}
                words={review.reply ?? draft?.text ?? signed(signature)}
                draft={draft && { alike: draft.alike, turn: 0, unlike }}
                again={false}
              />
            </details>
          ) : (
            <Link href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`} className="button">
              Reply
            </Link>
          )}
          {review.replyState === "posting" ? null : (
            <AsideButton slug={slug} reviewId={review.id} isAside={review.replyState === "set aside"} />
          )}
        </div>
      ) : null}
    </>
  );
}
