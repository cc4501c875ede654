import { and, asc, count, desc, eq, gt, gte, inArray, lt, ne, type SQL, sql } from "drizzle-orm";
import type { Reason } from "@/core/asks/findings";
import { DAY } from "@/core/time/zone";
import { waitingConcernCount, waitingConcerns, written } from "@/features/concerns";
import { listConversations, waitingConversations } from "@/features/conversations";
import { waitingOwnCount } from "@/features/own-reviews";
import { waitingReviewCount, waitingReviews } from "@/features/reviews";
import { serviceWords } from "@/features/visits";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { branches, listings, services, teamMembers } from "@/schema/clients";
import { concerns } from "@/schema/concerns";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { reviews } from "@/schema/reviews";
import { visits } from "@/schema/visits";
import { MOST_MARKS, quartersOf } from "@/ui/ruler/density";

/** What Today shows, one question to the database each. Instants are milliseconds. `branchId` narrows to one branch. */
export type Span = { from: number; to: number; branchId: string | null };

const within = (column: typeof visits.endsAt, { from, to }: Span) => and(gte(column, from), lt(column, to));

const leftAt = sql<number>`coalesce(${messages.sentAt}, ${messages.dueAt})`.mapWith(messages.dueAt);

/** Which visits and which messages a day shows. */
const ofDay = {
  visits: (scope: Scope, span: Span) =>
    and(
      eq(visits.clientId, scope.clientId),
      within(visits.endsAt, span),
      span.branchId ? eq(visits.branchId, span.branchId) : undefined,
      ne(visits.outcome, "cancelled"),
    ),
  messages: (scope: Scope, span: Span) =>
    and(
      eq(messages.clientId, scope.clientId),
      // Only messages to people have one of these.
      inArray(messages.state, ["planned", "held", "sending", "sent", "delivered", "bounced", "failed"]),
      // Due at most a week before it was sent: keeps the index on due_at of use.
      gte(messages.dueAt, span.from - 7 * DAY),
      lt(messages.dueAt, span.to),
      sql`coalesce(${messages.sentAt}, ${messages.dueAt}) >= ${new Date(span.from).toISOString()}`,
      sql`coalesce(${messages.sentAt}, ${messages.dueAt}) < ${new Date(span.to).toISOString()}`,
      span.branchId ? eq(messages.branchId, span.branchId) : undefined,
    ),
};

/**
 * What the ruler of a day draws: each visit and each message, or on a crowded day how many lie in each quarter of an
 * hour. Beside it how many messages are still planned after `now`, and how many are stuck.
 */
export async function marksOfDay(tx: Tx, scope: Scope, span: Span, now: number) {
  const quarterOf = (at: SQL | typeof visits.endsAt) =>
    sql<number>`(floor(extract(epoch from ${at}) / 900) * 900000)::float8`;
  const visited = await tx
    .select({ at: quarterOf(visits.endsAt), count: count() })
    .from(visits)
    .where(ofDay.visits(scope, span))
    .groupBy(sql`1`);
  const filtered = (condition: SQL) => sql<number>`count(*) filter (where ${condition})`.mapWith(Number);
  const left = await tx
    .select({
      at: quarterOf(leftAt),
      count: count(),
      planned: filtered(
        sql`${messages.state} = 'planned' and coalesce(${messages.sentAt}, ${messages.dueAt}) >= ${new Date(now).toISOString()}`,
      ),
      // What waits for a plan that somebody paused is not stuck: Today names the plan.
      stuck: filtered(
        sql`${messages.state} = 'failed' or (${messages.state} = 'held' and ${messages.hold} is distinct from 'plan paused')`,
      ),
    })
    .from(messages)
    .where(ofDay.messages(scope, span))
    .groupBy(sql`1`);
  const quarters = quartersOf(visited, left);
  const isCrowded = quarters.reduce((sum, quarter) => sum + quarter.visits + quarter.messages, 0) > MOST_MARKS;
  return {
    crowd: isCrowded ? quarters : null,
    visits: isCrowded ? [] : await visitsOfDay(tx, scope, span),
    messages: isCrowded ? [] : await messagesOfDay(tx, scope, span),
    planned: left.reduce((sum, { planned }) => sum + planned, 0),
    stuck: left.reduce((sum, { stuck }) => sum + stuck, 0),
  };
}

async function visitsOfDay(tx: Tx, scope: Scope, span: Span) {
  return tx
    .select({
      id: visits.id,
      at: visits.endsAt,
      outcome: visits.outcome,
      about: visits.about,
      personId: people.id,
      given: people.given,
      family: people.family,
      service: serviceWords,
    })
    .from(visits)
    .innerJoin(people, eq(people.id, visits.personId))
    .leftJoin(services, eq(services.id, visits.serviceId))
    .where(ofDay.visits(scope, span))
    .orderBy(asc(visits.endsAt));
}

async function messagesOfDay(tx: Tx, scope: Scope, span: Span) {
  return tx
    .select({
      id: messages.id,
      at: leftAt,
      channel: messages.channel,
      state: messages.state,
      step: messages.step,
      stepName: messages.stepName,
      personId: people.id,
      given: people.given,
      family: people.family,
      rating: answers.rating,
      answeredAt: asks.answeredAt,
    })
    .from(messages)
    .innerJoin(people, eq(people.id, messages.personId))
    .leftJoin(asks, eq(asks.id, messages.askId))
    .leftJoin(answers, eq(answers.askId, messages.askId))
    .where(ofDay.messages(scope, span))
    .orderBy(leftAt);
}

export async function goingOutNext(tx: Tx, scope: Scope, branchId: string | null, most: number) {
  return tx
    .select({
      id: messages.id,
      at: messages.dueAt,
      channel: messages.channel,
      step: messages.step,
      stepName: messages.stepName,
      reason: messages.reason,
      personId: people.id,
      given: people.given,
      family: people.family,
      about: visits.about,
      service: serviceWords,
      branch: branches.name,
    })
    .from(messages)
    .innerJoin(people, eq(people.id, messages.personId))
    .leftJoin(asks, eq(asks.id, messages.askId))
    .leftJoin(visits, eq(visits.id, asks.visitId))
    .leftJoin(services, eq(services.id, visits.serviceId))
    .leftJoin(branches, eq(branches.id, messages.branchId))
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        eq(messages.state, "planned"),
        branchId ? eq(messages.branchId, branchId) : undefined,
      ),
    )
    .orderBy(asc(messages.dueAt), asc(messages.id))
    .limit(most);
}

export async function leftOut(tx: Tx, scope: Scope, span: Span): Promise<{ reason: Reason; count: number }[]> {
  const rows = await tx
    .select({ reason: visits.reason, count: count() })
    .from(visits)
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        within(visits.endsAt, span),
        eq(visits.decision, "left out"),
        span.branchId ? eq(visits.branchId, span.branchId) : undefined,
      ),
    )
    .groupBy(visits.reason)
    .orderBy(desc(count()));
  return rows.filter((row): row is { reason: Reason; count: number } => row.reason !== null);
}

/** How many of those who wait stand on Today itself; the others stand under Heard. */
const MOST_NEEDING = { notes: 10, reviews: 5, letters: 5 };

/**
 * Concerns without an answer, unhappy reviews without a reply and conversations that wait, and how many there are
 * (counted no further than `MOST_COUNTED`).
 */
export async function needing(tx: Tx, scope: Scope, branchId: string | null, now: number) {
  const ownConcerns = and(waitingConcerns(scope), branchId ? eq(concerns.branchId, branchId) : undefined);
  const ownReviews = and(
    waitingReviews(scope),
    lt(reviews.rating, 4),
    branchId ? eq(reviews.branchId, branchId) : undefined,
  );
  const open = await tx
    .select({
      id: concerns.id,
      state: concerns.state,
      at: concerns.openedAt,
      answerBy: concerns.answerBy,
      answeredAt: concerns.answeredAt,
      takenBy: concerns.takenBy,
      words: written,
      rating: concerns.rating,
      ratings: answers.ratings,
      given: people.given,
      family: people.family,
      about: visits.about,
      service: serviceWords,
      member: teamMembers.name,
    })
    .from(concerns)
    .innerJoin(answers, eq(answers.id, concerns.answerId))
    .leftJoin(people, eq(people.id, concerns.personId))
    .leftJoin(visits, eq(visits.id, concerns.visitId))
    .leftJoin(services, eq(services.id, visits.serviceId))
    .leftJoin(teamMembers, eq(teamMembers.id, visits.teamMemberId))
    .where(ownConcerns)
    .orderBy(asc(concerns.openedAt))
    .limit(MOST_NEEDING.notes);
  const waiting = await tx
    .select({
      id: reviews.id,
      at: reviews.writtenAt,
      words: reviews.words,
      rating: reviews.rating,
      author: reviews.author,
      site: listings.site,
      branch: branches.name,
      replyState: reviews.replyState,
    })
    .from(reviews)
    .innerJoin(listings, eq(listings.id, reviews.listingId))
    .innerJoin(branches, eq(branches.id, reviews.branchId))
    .where(ownReviews)
    .orderBy(asc(reviews.rating), asc(reviews.writtenAt))
    .limit(MOST_NEEDING.reviews);
  const [counts] = await rowsIn<{ open: number; waiting: number }>(
    tx,
    sql`select ${waitingConcernCount(scope, ownConcerns)} as open, ${waitingReviewCount(scope, ownReviews)} as waiting`,
  );
  const letters = await listConversations(tx, scope, { state: "waiting", assigned: null, branchId, before: null }, now);
  return { open, waiting, counts, letters: letters.slice(0, MOST_NEEDING.letters), countLetters: letters.length };
}

/** What someone sees who is not shown Heard. */
export const NOTHING_NEEDING: Awaited<ReturnType<typeof needing>> = {
  open: [],
  waiting: [],
  counts: { open: 0, waiting: 0 },
  letters: [],
  countLetters: 0,
};

/** Messages that did not get through since an instant. */
export async function problems(tx: Tx, scope: Scope, since: number) {
  const [lost] = await tx
    .select({
      failed: sql<number>`count(*) filter (where ${messages.state} = 'failed')`.mapWith(Number),
      bounced: sql<number>`count(*) filter (where ${messages.state} = 'bounced')`.mapWith(Number),
    })
    .from(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        inArray(messages.state, ["failed", "bounced"]),
        gte(messages.dueAt, since),
      ),
    );
  return lost;
}

/** How many were asked, answered and went on to write in public since an instant. */
export async function tally(tx: Tx, scope: Scope, from: number, to: number) {
  const own = eq(asks.clientId, scope.clientId);
  const [sums] = await tx
    .select({
      asked: sql<number>`count(*) filter (where ${asks.furthest} > 0)`.mapWith(Number),
      answered: sql<number>`count(*) filter (where ${asks.answeredAt} is not null)`.mapWith(Number),
      followed: sql<number>`count(*) filter (where ${asks.siteFollowedAt} is not null)`.mapWith(Number),
    })
    .from(asks)
    .where(and(own, gte(asks.createdAt, from), lt(asks.createdAt, to)));
  return sums;
}

/**
 * Answers a day over the days that begin at these instants, for the small line in the margin; the last day ends at
 * `to`.
 */
export async function answersPerDay(
  tx: Tx,
  scope: Scope,
  days: { day: string; from: number }[],
  to: number,
): Promise<{ day: string; answered: number; asked: number }[]> {
  const starts = sql`array[${sql.join(
    days.map(({ from }) => sql`${new Date(from).toISOString()}::timestamptz`),
    sql`, `,
  )}]`;
  const rows = await tx
    .select({
      place: sql<number>`width_bucket(${asks.createdAt}, ${starts})`,
      asked: count(),
      answered: count(asks.answeredAt),
    })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), gte(asks.createdAt, days[0].from), lt(asks.createdAt, to)))
    .groupBy(sql`1`);
  const found = new Map(rows.map((row) => [row.place, row]));
  return days.map(({ day }, index) => ({
    day,
    asked: found.get(index + 1)?.asked ?? 0,
    answered: found.get(index + 1)?.answered ?? 0,
  }));
}

/** What each site shows: the sum of its own values on its own scale, of how many reviews, as last collected. */
export async function averages(tx: Tx, scope: Scope) {
  return tx
    .select({
      site: listings.site,
      reviews: sql<number>`sum(${listings.reviewCount})`.mapWith(Number),
      scale: listings.scale,
      sum: sql<number>`sum(${listings.ownRatingSum})`.mapWith(Number),
    })
    .from(listings)
    .where(and(eq(listings.clientId, scope.clientId), gt(listings.reviewCount, 0)))
    .groupBy(listings.site, listings.scale);
}

/** How many wait under Heard, by the very conditions of that page, counted no further than `MOST_COUNTED`: for the masthead. */
export async function waitingCount(tx: Tx, scope: Scope, now: number): Promise<number> {
  const [{ waiting }] = await rowsIn<{ waiting: number }>(
    tx,
    sql`select ${waitingConcernCount(scope)} + ${waitingReviewCount(scope)} + ${waitingConversations(scope, now)} + ${waitingOwnCount(scope, now)} as waiting`,
  );
  return waiting;
}
