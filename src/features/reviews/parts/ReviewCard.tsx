import { sayRating } from "@/core/reviews/rating";
import { capital, sayAgo, sayWhen } from "@/core/time/say";
import { siteProblemWords } from "@/locales/operations";
import { translate } from "@/locales/translate";
import { Bars } from "@/ui/Bars";
import { Opening } from "@/ui/Opening.client";
import { PlaceLink as Link } from "@/ui/PlaceLink.client";
import { SaidWords } from "@/ui/SaidWords";
import { signed } from "@/ui/signed";
import type { Drafted } from "../drafts";
import type { ListedReview } from "../queries";
import { repliesAt } from "../repliesAt";
import { AsideButton } from "./AsideButton.client";
import { GUARD_WORDS } from "./guardWords";
import { DropReply, TakeDown } from "./ReplyButtons.client";
import { type ReplyDeed, ReplyForm } from "./ReplyForm.client";

type Props = {
  it: ListedReview;
  slug: string;
  zone: string;
  now: number;
  /** Whether somebody may post, or only draft for approval. */
  mayPost: boolean;
  mayDraft: boolean;
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
  /** An outside text service can be asked for a draft. */
  hasOutside?: boolean;
};

/** Longer words scroll in their own place, in characters. */
const LONG = 2500;

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
          </a>
          {` · ${branch} · ${sayAgo(review.writtenAt, now)}`}
        </span>
        {review.editedAt ? (
          <span className="tag bg-ochre-tint text-ochre-deep">edited {sayAgo(review.editedAt, now)}</span>
        ) : null}
        {review.isReported ? (
          <span className="tag bg-ochre-tint text-ochre-deep">reported; {site} is looking into it</span>
        ) : null}
        {review.replyState === "set aside" ? <span className="tag border-rule border">set aside</span> : null}
        {review.deletedAt ? (
          <span className="tag bg-vermilion-tint text-vermilion-deep">removed {sayAgo(review.deletedAt, now)}</span>
        ) : null}
      </p>
      <p className="said mt-1.5">
        {review.words.length > LONG ? (
          // A region that scrolls is reached by keyboard.
          // biome-ignore lint/a11y/noNoninteractiveTabindex: it scrolls
          <span className="block max-h-[340px] overflow-y-auto" tabIndex={0}>
            <SaidWords words={review.words} named={drafted?.named ?? []} />
          </span>
        ) : review.words ? (
          <SaidWords words={review.words} named={drafted?.named ?? []} />
        ) : (
          <span className="text-second font-sans text-[15px]">Rating only, no comment.</span>
        )}
      </p>
      {drafted?.gravity ? (
        <p className="bg-ochre-tint text-ochre-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
          {translate("gravity", drafted.gravity)}
        </p>
      ) : null}
      <Standing {...props} />
      <Writing {...props} />
    </article>
  );
}

/** The reply as it stands: in public, on its way, planned, or waiting for somebody. */
function Standing({ it, slug, zone, now, mayPost, isOpen }: Props) {
  const { review, site } = it;
  const { replyState, reply, replyWhy } = review;
  const box = "border-edge mt-3 border-l-[3px] pl-4";
  const byRule = review.replyRuleId && replyWhy ? replyWhy.rule : null;
  if (replyState === "posted")
    return (
      <div className={box}>
        <p className="whitespace-pre-wrap">{reply}</p>
        <p className="text-second text-[14px]">
          {byRule && !review.replyBy
            ? "Replied automatically"
            : `Replied${review.replyBy ? ` by ${review.replyBy}` : ""}`}
          {review.replyDraftedBy ? `, drafted by ${review.replyDraftedBy}` : ""}{" "}
          {review.repliedAt ? sayAgo(review.repliedAt, now) : ""}
        </p>
        {byRule ? <p className="text-second text-[14px]">{byRule}</p> : null}
        {mayPost && !isOpen && repliesAt(it.connector) ? (
          <span className="-ml-2 flex flex-wrap">
            <Link href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`} className="button-quiet">
              Edit reply
            </Link>
            <TakeDown slug={slug} reviewId={review.id} site={site} />
          </span>
        ) : null}
      </div>
    );
  if (replyState === "planned")
    return (
      <div className={box}>
        <p className="whitespace-pre-wrap">{reply}</p>
        <p className="text-second mt-1 text-[14px]">
          <b className="text-ink">
            Will be posted automatically {review.replyDueAt ? sayWhen(zone, review.replyDueAt, now) : "soon"}
          </b>
          , unless someone replies first. {byRule}
        </p>
        {mayPost ? (
          <p className="mt-2">
            <DropReply slug={slug} reviewId={review.id}>
              Don’t post it
            </DropReply>
          </p>
        ) : null}
      </div>
    );
  if (replyState === "posting")
    return (
      <p className="bg-ochre-tint text-ochre-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
        {review.replyError
          ? `${capital(siteProblemWords(review.replyError))}. We’ll try again ${review.replyDueAt ? sayWhen(zone, review.replyDueAt, now) : "soon"}.`
          : "The reply is on its way."}
      </p>
    );
  if (replyState === "failed")
    return (
      <p className="bg-vermilion-tint text-vermilion-deep mt-3 rounded-[8px] px-3 py-2 text-[14px]">
        {capital(siteProblemWords(review.replyError ?? { code: "not reached" }))}. Your draft is safe below.
      </p>
    );
  if (replyState === "awaits approval")
    return (
      <div className="text-second mt-3 text-[14px]">
        <p>
          <b className="text-ochre-deep">Waiting for approval.</b>{" "}
          {review.replyDraftedBy ? `${review.replyDraftedBy} drafted it.` : byRule}
          {replyWhy?.heldBack ? ` ${heldBackWords(replyWhy.isUnsure)}` : ""}
        </p>
        {mayPost ? null : <p className={`${box} text-ink text-[15px] whitespace-pre-wrap`}>{reply}</p>}
      </div>
    );
  return replyWhy && replyWhy.refused.length > 0 ? (
    <p className="text-second mt-3 text-[14px]">
      {replyWhy.rule} We couldn’t write a reply:{" "}
      {replyWhy.refused
        .map(({ guard, words }) => `“${words}” ${GUARD_WORDS[guard as keyof typeof GUARD_WORDS] ?? ""}`)
        .join("; ")}
      .
    </p>
  ) : null;
}

/** What is done with the words by whoever looks at it; null for nobody. */
function deedOf({ it, mayPost, mayDraft }: Props): ReplyDeed | null {
  const { review, connector } = it;
  if (review.deletedAt || !repliesAt(connector)) return null;
  if (!mayPost) return mayDraft && connector && review.replyState !== "posted" ? "hand in" : null;
  if (connector === null) return "posted by hand";
  return review.replyState === "awaits approval" ? "approve" : "post";
}

const heldBackWords = (isUnsure: boolean) =>
  isUnsure
    ? "It isn’t posted automatically because we can’t tell which language the review is in."
    : "It isn’t posted automatically because they aren’t happy.";

function Writing(props: Props) {
  const { it, slug, isOpen, isWaiting, signature, drafted, isFirst, unlike = 0, hasOutside } = props;
  const { review, site, connector } = it;
  const deed = deedOf(props);
  const longest = repliesAt(connector)?.longest ?? 0;
  if (!deed) return null;
  const isPosted = review.replyState === "posted";
  if (isPosted && !isOpen) return null;
  const draft = review.reply === null ? (drafted?.draft ?? null) : null;
  const form = (
    <ReplyForm
      stands={`${review.replyState} ${review.reply}`}
      slug={slug}
      reviewId={review.id}
      site={site}
      words={review.reply ?? draft?.text ?? signed(signature)}
      language={drafted?.language ?? "en"}
      draft={draft && { alike: draft.alike, turn: 0, unlike }}
      deed={deed}
      longest={longest}
      seen={["posted", "posting", "awaits approval"].includes(review.replyState) ? (review.reply ?? "") : ""}
      again={isPosted}
      hasOutside={hasOutside}
    />
  );
  const isAsked = review.replyState === "awaits approval" && deed === "approve";
  return (
    <div className="mt-3 flex flex-wrap items-baseline gap-2">
      {isOpen || isWaiting ? (
        <Opening
          className="grow"
          label={isAsked ? "Review and approve" : "Reply"}
          isOpen={isOpen || isFirst || review.replyState === "failed" || isAsked}
          // The form stays where it was before it was posted: what someone writes there meanwhile is kept.
          isBare={isPosted}
        >
          {form}
        </Opening>
      ) : (
        <Link href={`/c/${slug}/heard?show=reviews&open=${review.id}#review-${review.id}`} className="button">
          Reply
        </Link>
      )}
      {isAsked ? (
        <DropReply slug={slug} reviewId={review.id}>
          Don’t post it
        </DropReply>
      ) : null}
      {review.replyState === "none" || review.replyState === "failed" || review.replyState === "set aside" ? (
        props.mayPost ? (
          <AsideButton slug={slug} reviewId={review.id} isAside={review.replyState === "set aside"} />
        ) : null
      ) : null}
    </div>
  );
}
