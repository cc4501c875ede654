import { and, asc, count, eq, gte, inArray, isNotNull, lt, ne, type SQL, sql } from "drizzle-orm";
import type { Reason } from "@/core/asks/findings";
import type { Scale } from "@/core/reviews/rating";
import { DAY } from "@/core/time/zone";
import { waitingConcernCount, waitingConcerns, written } from "@/features/concerns";
import { listConversations, waitingConversations } from "@/features/conversations";
import { waitingOwnCount } from "@/features/own-reviews";
import { waitingReviewCount, waitingReviews } from "@/features/reviews";
import { serviceWords } from "@/features/visits";
import { asOneRow, rowsIn, type Scope, type Tx } from "@/platform/database";
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

/** Why people were left out, most first. */
export const leftOut = (scope: Scope, span: Span): SQL<{ rows: { reason: Reason; count: number }[] }> =>
  asOneRow(sql`select ${visits.reason} as reason, count(*)::int as count from ${visits}
    where ${and(
      eq(visits.clientId, scope.clientId),
      within(visits.endsAt, span),
      eq(visits.decision, "left out"),
      isNotNull(visits.reason),
      span.branchId ? eq(visits.branchId, span.branchId) : undefined,
    )} group by 1 order by 2 desc, 1`);

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

const iso = (at: number) => new Date(at).toISOString();

/** Messages that did not get through since an instant. */
export const problems = (scope: Scope, since: number): SQL<{ failed: number; bounced: number }> =>
  sql`select count(*) filter (where ${messages.state} = 'failed')::int as failed,
      count(*) filter (where ${messages.state} = 'bounced')::int as bounced
    from ${messages} where ${messages.clientId} = ${scope.clientId} and ${messages.state} in ('failed', 'bounced') and ${messages.dueAt} >= ${iso(since)}`;

/** How many were asked, answered and went on to write in public since an instant. */
export const tally = (
  scope: Scope,
  from: number,
  to: number,
): SQL<{ asked: number; answered: number; followed: number }> =>
  sql`select count(*) filter (where ${asks.furthest} > 0)::int as asked,
      count(*) filter (where ${asks.answeredAt} is not null)::int as answered,
      count(*) filter (where ${asks.siteFollowedAt} is not null)::int as followed
    from ${asks} where ${asks.clientId} = ${scope.clientId} and ${asks.createdAt} >= ${iso(from)} and ${asks.createdAt} < ${iso(to)}`;

type DaySum = { day: string; answered: number; asked: number };

/**
 * Answers a day over the days that begin at these instants, for the small line in the margin; the last day ends at
 * `to`.
 */
export function answersPerDay(
  scope: Scope,
  days: { day: string; from: number }[],
  to: number,
): SQL<{ rows: DaySum[] }> {
  const starts = sql`${sql.param(days.map(({ from }) => iso(from)))}::timestamptz[]`;
  const names = sql`${sql.param(days.map(({ day }) => day))}::text[]`;
  return asOneRow(sql`select d.day, coalesce(a.asked, 0) as asked, coalesce(a.answered, 0) as answered
    from unnest(${names}) with ordinality d(day, n) left join (
      select width_bucket(${asks.createdAt}, ${starts}) as n, count(*)::int as asked, count(${asks.answeredAt})::int as answered
      from ${asks} where ${asks.clientId} = ${scope.clientId} and ${asks.createdAt} >= ${iso(days[0].from)} and ${asks.createdAt} < ${iso(to)}
      group by 1) a using (n) order by d.n`);
}

type Shown = { site: string; reviews: number; scale: Scale; sum: number };

/** What each site shows: the sum of its own values on its own scale, of how many reviews, as last collected. */
export const averages = (scope: Scope): SQL<{ rows: Shown[] }> =>
  asOneRow(sql`select ${listings.site} as site, ${listings.scale} as scale,
      sum(${listings.reviewCount})::int as reviews, sum(${listings.ownRatingSum})::float8 as sum
    from ${listings} where ${listings.clientId} = ${scope.clientId} and ${listings.reviewCount} > 0 group by 1, 2`);

/** How many wait under Heard, by the very conditions of that page, counted no further than `MOST_COUNTED`: for the masthead. */
export async function waitingCount(tx: Tx, scope: Scope, now: number): Promise<number> {
  const [{ waiting }] = await rowsIn<{ waiting: number }>(
    tx,
    sql`select ${waitingConcernCount(scope)} + ${waitingReviewCount(scope)} + ${waitingConversations(scope, now)} + ${waitingOwnCount(scope, now)} as waiting`,
  );
  return waiting;
}
