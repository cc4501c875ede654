import { and, asc, desc, eq, isNull, type SQL, sql } from "drizzle-orm";
import type { PlanRules } from "@/core/plans/planRules";
import { MOST_COUNTED } from "@/core/time/say";
import { withPictures } from "@/features/conversations";
import { serviceWords } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { branches, services, teamMembers } from "@/schema/clients";
import { concerns } from "@/schema/concerns";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { planVersions } from "@/schema/plans";
import { visits } from "@/schema/visits";

/** What was written, to whichever question: the private words, else all answers to the other ones. */
export const written = sql<string>`coalesce(nullif(${concerns.words}, ''), (
  select string_agg(m.value, ' · ') from answers x, jsonb_each_text(x.more) m
  where x.client_id = ${concerns.clientId} and x.id = ${concerns.answerId}), '')`;

/** Since when its customer has been waiting who wrote back after the team had answered; null where nobody does. */
const wroteBackAt = sql<number | null>`(
  select max(v.waiting_since) from conversations v
  where v.client_id = ${concerns.clientId} and v.person_id = ${concerns.personId} and v.waiting_since > ${concerns.answeredAt})`.mapWith(
  concerns.answeredAt,
);

/** Written out, so that its index serves. */
const isOpen = sql`${concerns.state} in ('new', 'taken')`;

/** Those of a client that wait for a first answer. */
export const waitingConcerns = (scope: Scope): SQL =>
  sql`${concerns.clientId} = ${scope.clientId} and ${isOpen} and ${concerns.answeredAt} is null`;

/** How many of them there are (`where` narrows them down), as part of a statement, counted no further than `MOST_COUNTED`. */
export const waitingConcernCount = (scope: Scope, where: SQL | undefined = waitingConcerns(scope)): SQL<number> =>
  sql`(select count(*)::int from (select 1 from ${concerns} where ${where} order by (${concerns.answeredAt} is not null), ${concerns.openedAt} limit ${MOST_COUNTED + 1}) t)`;

export type ConcernFilter = {
  open: boolean;
  branchId?: string | null;
  /** Whose they are: a user's identifier, or "nobody"; null for all. */
  takenById?: string | null;
  /** About visits with this one of the team. */
  memberId?: string | null;
};

/** Concerns with whom and what they are about: the open ones by what waits longest, or all of them, newest first. */
export async function listConcerns(tx: Tx, scope: Scope, it: ConcernFilter) {
  const { open, branchId, takenById, memberId } = it;
  return tx
    .select({
      concern: concerns,
      written,
      wroteBackAt,
      ratings: answers.ratings,
      person: people,
      about: visits.about,
      service: serviceWords,
      branch: branches.name,
      member: teamMembers.name,
    })
    .from(concerns)
    .innerJoin(answers, eq(answers.id, concerns.answerId))
    .leftJoin(people, eq(people.id, concerns.personId))
    .leftJoin(visits, eq(visits.id, concerns.visitId))
    .leftJoin(services, eq(services.id, visits.serviceId))
    .innerJoin(branches, eq(branches.id, concerns.branchId))
    .leftJoin(teamMembers, eq(teamMembers.id, visits.teamMemberId))
    .where(
      and(
        eq(concerns.clientId, scope.clientId),
        open ? isOpen : undefined,
        branchId ? eq(concerns.branchId, branchId) : undefined,
        takenById === "nobody" ? isNull(concerns.takenById) : takenById ? eq(concerns.takenById, takenById) : undefined,
        memberId ? eq(visits.teamMemberId, memberId) : undefined,
      ),
    )
    .orderBy(...(open ? [sql`${concerns.answeredAt} is not null`, asc(concerns.openedAt)] : [desc(concerns.openedAt)]))
    .limit(CONCERNS_PAGE);
}

/** So many concerns are shown at once. */
export const CONCERNS_PAGE = 40;

/** One concern with everything its page shows, and the letters to and fro, oldest first. */
export async function viewConcern(tx: Tx, scope: Scope, id: string) {
  const [row] = await tx
    .select({
      concern: concerns,
      written,
      wroteBackAt,
      ratings: answers.ratings,
      replyTo: answers.replyTo,
      /** How the doors of the plan that asked stood; null for answers by a standing link. */
      doors: sql<PlanRules["doors"]["mode"] | null>`${planVersions.rules} -> 'doors' ->> 'mode'`,
      person: people,
      about: visits.about,
      endsAt: visits.endsAt,
      service: serviceWords,
      branch: branches.name,
      member: teamMembers.name,
    })
    .from(concerns)
    .innerJoin(answers, eq(answers.id, concerns.answerId))
    .leftJoin(asks, eq(asks.id, answers.askId))
    .leftJoin(planVersions, and(eq(planVersions.planId, asks.planId), eq(planVersions.version, asks.planVersion)))
    .leftJoin(people, eq(people.id, concerns.personId))
    .leftJoin(visits, eq(visits.id, concerns.visitId))
    .leftJoin(services, eq(services.id, visits.serviceId))
    .innerJoin(branches, eq(branches.id, concerns.branchId))
    .leftJoin(teamMembers, eq(teamMembers.id, visits.teamMemberId))
    .where(and(eq(concerns.clientId, scope.clientId), eq(concerns.id, id)));
  if (!row) return null;
  const letters = await tx
    .select()
    .from(messages)
    .where(and(eq(messages.clientId, scope.clientId), eq(messages.concernId, id)))
    .orderBy(asc(messages.createdAt));
  return {
    ...row,
    letters: await withPictures(
      tx,
      scope,
      letters.map((message) => ({ message, plan: null })),
    ),
  };
}

/**
 * How many concerns are open and wait for a first answer, and how many there have been, counted no further than
 * `MOST_COUNTED`.
 */
export const concernCounts = (scope: Scope): SQL<{ all: number; open: number; waiting: number }> =>
  sql`select (select count(*)::int from (select 1 from ${concerns} where ${concerns.clientId} = ${scope.clientId}
        order by ${concerns.state}, ${concerns.openedAt} limit ${MOST_COUNTED + 1}) t) as all,
      count(*)::int as open, count(*) filter (where ${concerns.answeredAt} is null)::int as waiting
    from ${concerns} where ${concerns.clientId} = ${scope.clientId} and ${isOpen}`;

/** One row of `listConcerns`. */
export type ListedConcern = Awaited<ReturnType<typeof listConcerns>>[number];
