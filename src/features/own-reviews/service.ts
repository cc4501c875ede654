import { and, asc, desc, eq, gte, isNotNull, isNull, lte, type SQL, sql } from "drizzle-orm";
import { averageOf, type HiddenReason, shownName } from "@/core/reviews/ownReviews";
import { UNHAPPY_UP_TO } from "@/core/reviews/rating";
import { DAY } from "@/core/time/zone";
import type { AnyLanguage } from "@/core/words/languages";
import { recordAudit } from "@/features/audit";
import { rowsOf, type Scope, type Tx, workFor } from "@/platform/database";
import type { answers } from "@/schema/answers";
import { ownReviews } from "@/schema/ownReviews";

/** The business's own reviews: answers with words whose writers agreed that they are shown. */

export type OwnReview = typeof ownReviews.$inferSelect;

/**
 * Makes an own review of an answer whose writer agreed to it, changes it with the answer, or withdraws it where they
 * take their agreement back. What a machine gave is none.
 */
export async function syncOwnReview(
  tx: Tx,
  scope: Scope,
  answer: typeof answers.$inferSelect,
  writer: { id: string; given: string; family: string } | null,
  language: AnyLanguage,
  now: number,
): Promise<void> {
  const isShown = answer.mayShowAt !== null && answer.words && answer.rating !== null && !answer.isDoubtful;
  if (!isShown) {
    await tx
      .update(ownReviews)
      .set({ withdrawnAt: now })
      .where(
        and(
          eq(ownReviews.clientId, scope.clientId),
          eq(ownReviews.answerId, answer.id),
          isNull(ownReviews.withdrawnAt),
        ),
      );
    return;
  }
  const said = {
    personId: answer.personId,
    name: writer ? shownName(writer) : "",
    rating: answer.rating ?? 0,
    words: answer.words ?? "",
    language,
    withdrawnAt: null,
  };
  await tx
    .insert(ownReviews)
    .values({ ...said, clientId: scope.clientId, branchId: answer.branchId, answerId: answer.id, writtenAt: now })
    .onConflictDoUpdate({ target: ownReviews.answerId, set: said });
}

const shown = (scope: Scope, branchId: string | null) =>
  and(
    eq(ownReviews.clientId, scope.clientId),
    isNull(ownReviews.withdrawnAt),
    isNull(ownReviews.hiddenAt),
    branchId ? eq(ownReviews.branchId, branchId) : undefined,
  );

/** Those after the last one of the page before; null for the first page. */
const earlierThan = (scope: Scope, before: string | null) =>
  before
    ? sql`(${ownReviews.writtenAt}, ${ownReviews.id}) < (select o.written_at, o.id from own_reviews o where o.id = ${before} and o.client_id = ${scope.clientId})`
    : undefined;

const PAGE = 20;

/** A page of what is shown, newest first, with its average and how many are hidden. `before` is the last one seen. */
export async function ownReviewsPage(
  tx: Tx,
  scope: Scope,
  branchId: string | null,
  before: string | null,
): Promise<{
  reviews: OwnReview[];
  next: string | null;
  counts: { average: number; count: number } | null;
  hidden: number;
}> {
  const rows = await tx
    .select()
    .from(ownReviews)
    .where(and(shown(scope, branchId), earlierThan(scope, before)))
    .orderBy(desc(ownReviews.writtenAt), desc(ownReviews.id))
    .limit(PAGE + 1);
  const perRating = await tx
    .select({ rating: ownReviews.rating, count: sql<number>`count(*)::int` })
    .from(ownReviews)
    .where(shown(scope, branchId))
    .groupBy(ownReviews.rating);
  const [{ hidden }] = await tx
    .select({ hidden: sql<number>`count(*)::int` })
    .from(ownReviews)
    .where(
      and(
        eq(ownReviews.clientId, scope.clientId),
        isNotNull(ownReviews.hiddenAt),
        isNull(ownReviews.withdrawnAt),
        branchId ? eq(ownReviews.branchId, branchId) : undefined,
      ),
    );
  const counts = [1, 2, 3, 4, 5].map((rating) => perRating.find((row) => row.rating === rating)?.count ?? 0);
  const reviews = rows.slice(0, PAGE);
  return {
    reviews,
    next: rows.length > PAGE ? reviews[PAGE - 1].id : null,
    counts: averageOf(counts),
    hidden,
  };
}

/** How many a page of the list of all has. */
export const OWN_REVIEWS_PAGE = 50;

/** How many are shown, how many of these wait for an answer, and how many are hidden. */
export const ownReviewCounts = (
  scope: Scope,
  now: number,
): SQL<{ shown: number; unanswered: number; hidden: number; waiting: number }> =>
  sql`select count(*) filter (where hidden_at is null)::int as shown,
      count(*) filter (where hidden_at is null and reply is null)::int as unanswered,
      count(*) filter (where hidden_at is not null)::int as hidden, ${waitingOwnCount(scope, now)} as waiting
    from ${ownReviews} where ${ownReviews.clientId} = ${scope.clientId} and ${ownReviews.withdrawnAt} is null`;

/** Everything that stands or is hidden, newest first, one more than a page; `before` is the last of the page before. */
export async function listOwnReviews(
  tx: Tx,
  scope: Scope,
  branchId: string | null,
  before: string | null,
): Promise<OwnReview[]> {
  return tx
    .select()
    .from(ownReviews)
    .where(
      and(
        eq(ownReviews.clientId, scope.clientId),
        isNull(ownReviews.withdrawnAt),
        branchId ? eq(ownReviews.branchId, branchId) : undefined,
        earlierThan(scope, before),
      ),
    )
    .orderBy(desc(ownReviews.writtenAt), desc(ownReviews.id))
    .limit(OWN_REVIEWS_PAGE + 1);
}

/** Unhappy own reviews of the last two weeks that nobody has answered, save those whose concern is still open. */
const waits = (scope: Scope, branchId: string | null, now: number) =>
  and(
    eq(ownReviews.clientId, scope.clientId),
    isNull(ownReviews.withdrawnAt),
    isNull(ownReviews.hiddenAt),
    isNull(ownReviews.reply),
    lte(ownReviews.rating, UNHAPPY_UP_TO),
    gte(ownReviews.writtenAt, now - 14 * DAY),
    branchId ? eq(ownReviews.branchId, branchId) : undefined,
    sql`not exists (select 1 from concerns c where c.answer_id = ${ownReviews.answerId} and c.state <> 'closed')`,
  );

/** Own reviews that wait for an answer, the unhappiest first. */
export function waitingOwnReviews(tx: Tx, scope: Scope, branchId: string | null, now: number): Promise<OwnReview[]> {
  return tx
    .select()
    .from(ownReviews)
    .where(waits(scope, branchId, now))
    .orderBy(asc(ownReviews.rating), asc(ownReviews.writtenAt))
    .limit(OWN_REVIEWS_PAGE);
}

/** How many of them there are, as part of a statement. */
export const waitingOwnCount = (scope: Scope, now: number): SQL<number> =>
  sql`(select count(*)::int from ${ownReviews} where ${waits(scope, null, now)})`;

/** Answers an own review on its page, or takes the answer away. False where there is none. */
export async function answerOwnReview(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  reply: string | null,
  now: number,
  seen?: string,
): Promise<boolean | { who: string; words: string }> {
  const [before] = await tx
    .select()
    .from(ownReviews)
    .where(and(eq(ownReviews.clientId, scope.clientId), eq(ownReviews.id, id)))
    .for("update");
  if (seen !== undefined && before && (before.reply ?? "") !== seen && before.reply !== reply)
    return { who: before.repliedBy ?? "Someone", words: before.reply ?? "" };
  const [row] = await tx
    .update(ownReviews)
    .set({ reply, repliedBy: reply ? who : null, repliedAt: reply ? now : null })
    .where(and(eq(ownReviews.clientId, scope.clientId), eq(ownReviews.id, id)))
    .returning({ id: ownReviews.id });
  if (row)
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who,
      action: "answered",
      subject: "own review",
      subjectId: id,
    });
  return Boolean(row);
}

/** Hides an own review for a named reason, or shows it again. Being unhappy is no reason. */
export async function hideOwnReview(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  why: HiddenReason | null,
  now: number,
): Promise<boolean> {
  const [row] = await tx
    .update(ownReviews)
    .set({ hiddenWhy: why, hiddenBy: why ? who : null, hiddenAt: why ? now : null })
    .where(and(eq(ownReviews.clientId, scope.clientId), eq(ownReviews.id, id)))
    .returning({ id: ownReviews.id });
  if (row)
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who,
      action: why ? "hid" : "showed again",
      subject: "own review",
      subjectId: id,
      details: why ? { why } : undefined,
    });
  return Boolean(row);
}

/** Whose own reviews stand at an address; null for none. */
export async function reviewsAt(address: string): Promise<Scope | null> {
  const [row] = await rowsOf<{ client_id: string }>(sql`select client_id from estima_reviews_at(${address})`);
  return row ? workFor(row.client_id) : null;
}
