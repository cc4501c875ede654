import type { ReactNode } from "react";
import { may } from "@/core/access/permissions";
import { type Heard as HeardEntry, inReadingOrder } from "@/core/heard/readingOrder";
import { NoteCard } from "@/features/answers/parts/NoteCard";
import { SaidBeside } from "@/features/answers/parts/SaidBeside";
import { ConcernCard } from "@/features/concerns/parts/ConcernCard";
import { CONVERSATIONS_PAGE } from "@/features/conversations";
import { ConversationCard } from "@/features/conversations/parts/ConversationCard";
import { OWN_REVIEWS_PAGE } from "@/features/own-reviews";
import { OwnReviewCard } from "@/features/own-reviews/parts/OwnReviewCard";
import { isWaitingForReply, type ListedReview, namedIn, REVIEWS_PAGE } from "@/features/reviews";
import { ReviewCard } from "@/features/reviews/parts/ReviewCard";
import type { Access } from "@/platform/access";
import type { Seen, Wanted } from "./loadHeard";

/** Everything that was heard, of whatever kind, as its card. */

export type Entry = HeardEntry & { node: ReactNode };

/** So many of those that wait are shown: the next move up as they are answered. */
const MOST_WAITING = 100;

function besideOf(seen: Seen, answerId: string, slug: string) {
  const said = seen.besideOwn.get(answerId);
  return said ? <SaidBeside said={said} slug={slug} /> : null;
}

/** All that the page shows, each as its card, in the order in which it is read; and whether more wait behind these. */
export function entriesOf(
  seen: Seen,
  wanted: Wanted,
  it: { access: Access; now: number; mayReply: boolean },
): { entries: Entry[]; isCut: boolean } {
  const { access, now, mayReply } = it;
  const { slug, zone } = access.seat;
  const isWaiting = wanted.show === "waiting";
  const concerns = seen.concerns.filter(
    ({ concern }) => !isWaiting || !wanted.branch || concern.branchId === wanted.branch,
  );
  const shown = seen.reviews.slice(0, REVIEWS_PAGE);
  const pinned = new Set<ListedReview>(seen.pinned);
  const isFirst = concerns.length + seen.conversations.length + seen.own.length === 0;
  const all: (HeardEntry & { isPinned?: boolean; card: () => ReactNode })[] = [
    ...concerns.map((one) => ({
      // Whoever was unhappy at first and still waits is read as early as they were.
      rating: one.concern.rating && Math.min(one.concern.rating, ...one.ratings.map(({ rating }) => rating)),
      at: one.concern.openedAt,
      isAnswered: one.concern.answeredAt !== null,
      card: () => (
        <ConcernCard
          key={one.concern.id}
          it={one}
          slug={slug}
          zone={zone}
          now={now}
          named={namedIn(one.written, seen.setting)}
        />
      ),
    })),
    ...(seen.kind?.list ?? []).map((one) => ({
      rating: one.answer.rating,
      at: one.answer.wordsAt ?? one.answer.givenAt,
      card: () => (
        <NoteCard
          key={one.answer.id}
          it={one}
          beside={seen.kind?.beside.get(one.answer.id)}
          channels={one.channels}
          named={one.answer.words ? namedIn(one.answer.words, seen.setting) : []}
          slug={slug}
          now={now}
          mayAnswer={may(access.seat, "answer concerns")}
          signature={access.user.signature ?? null}
        />
      ),
    })),
    ...seen.conversations.slice(0, CONVERSATIONS_PAGE).map((one) => ({
      rating: null,
      at: one.conversation.waitingSince ?? one.conversation.lastAt,
      card: () => <ConversationCard key={one.conversation.id} it={one} slug={slug} zone={zone} now={now} />,
    })),
    // Outside the order of those that wait, what an address opens comes first.
    ...(isWaiting ? [...shown, ...pinned] : [...pinned, ...shown]).map((one, index) => ({
      rating: one.review.rating,
      at: one.review.writtenAt,
      isAnswered: isWaiting && !isWaitingForReply(one.review),
      isPinned: pinned.has(one),
      card: () => (
        <ReviewCard
          key={one.review.id}
          it={one}
          slug={slug}
          zone={zone}
          now={now}
          mayPost={mayReply}
          mayDraft={may(access.seat, "draft replies")}
          isOpen={wanted.open === one.review.id}
          isWaiting={isWaiting && isWaitingForReply(one.review)}
          signature={access.user.signature}
          drafted={seen.drafts.get(one.review.id)}
          isFirst={isWaiting && isFirst && index === 0}
          unlike={seen.unlike.get(one.review.listingId)}
          hasOutside={seen.setting.client.textService !== null}
        />
      ),
    })),
    ...seen.own.slice(0, OWN_REVIEWS_PAGE).map((review) => ({
      rating: review.rating,
      at: review.writtenAt,
      card: () => (
        <OwnReviewCard
          key={review.id}
          review={review}
          slug={slug}
          branch={seen.setting.branches.find(({ id }) => id === review.branchId)?.name ?? ""}
          now={now}
          mayReply={mayReply}
          beside={besideOf(seen, review.answerId, slug)}
        />
      ),
    })),
  ];
  const read = isWaiting
    ? inReadingOrder(all, wanted.order ?? "unhappiest").filter((it, index) => index < MOST_WAITING || it.isPinned)
    : all;
  // A card is made only where it is shown: what it names is read for it.
  const entries = read.map(({ card, isPinned: _, ...entry }) => ({ ...entry, node: card() }));
  return { entries, isCut: isWaiting && (all.length > read.length || seen.reviews.length > REVIEWS_PAGE) };
}
