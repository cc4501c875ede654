import { and, asc, eq, gte, isNotNull, lt, sql } from "drizzle-orm";
import type { RehearsedVisit } from "@/core/asks/rehearsal";
import type { PlanRules } from "@/core/plans/planRules";
import { DAY } from "@/core/time/zone";
import { isSpread, MOST_REHEARSED, rehearsedVisit } from "@/features/asks";
import { NO_VISIT, type Visit } from "@/features/visits";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { visits } from "@/schema/visits";

/** The visits that a rehearsal runs on. */

/** What a rehearsal runs on: visits of a period that is over, the booked ones of the next days, or a list. */
export type RehearsalSource =
  | { kind: "past"; from: number; to: number }
  | { kind: "booked"; days: number }
  | { kind: "list"; id: string };

const visitColumns = {
  id: visits.id,
  personId: visits.personId,
  branchId: visits.branchId,
  serviceId: visits.serviceId,
  teamMemberId: visits.teamMemberId,
  about: visits.about,
  kind: visits.kind,
  tags: visits.tags,
  intakeId: visits.intakeId,
  endsAt: visits.endsAt,
  outcome: visits.outcome,
  source: visits.source,
  examineAt: visits.examineAt,
  createdAt: visits.createdAt,
};

export async function visitsOf(tx: Tx, scope: Scope, source: RehearsalSource, clock: number): Promise<Visit[]> {
  const own = eq(visits.clientId, scope.clientId);
  const where =
    source.kind === "past"
      ? and(
          own,
          gte(visits.endsAt, source.from),
          lt(visits.endsAt, source.to),
          sql`not coalesce(${visits.words} ?| array['service', 'branch'], false)`,
        )
      : and(
          own,
          isNotNull(visits.examineAt),
          lt(visits.examineAt, clock + (source.kind === "booked" ? source.days : 0) * DAY),
        );
  const rows = await tx
    .select(visitColumns)
    .from(visits)
    .where(where)
    .orderBy(asc(visits.endsAt), asc(visits.id))
    .limit(MOST_REHEARSED);
  return rows.map((row) => ({ ...NO_VISIT, ...row, clientId: scope.clientId }));
}

/**
 * For plans that begin with a tag or with time: the last visit of each person whose moment lies in the period, as if
 * it ended then.
 */
export async function triggerVisits(
  tx: Tx,
  scope: Scope,
  rules: PlanRules,
  source: RehearsalSource,
  clock: number,
): Promise<Visit[]> {
  const [from, to] =
    source.kind === "past"
      ? [source.from, source.to]
      : [clock, clock + (source.kind === "booked" ? source.days : 0) * DAY];
  const { begins } = rules;
  const iso = (at: number) => new Date(at).toISOString();
  const moments =
    begins.kind === "customer"
      ? await rowsIn<{ person_id: string; at: string }>(
          tx,
          sql`select v.person_id, min(v.ends_at) + make_interval(secs => ${begins.days * 86_400}) as at from visits v
              where v.client_id = ${scope.clientId} and v.outcome = 'finished' and v.ends_at >= ${iso(from - begins.days * DAY)} and v.ends_at < ${iso(to - begins.days * DAY)}
                and not exists (select 1 from visits e where e.client_id = v.client_id and e.person_id = v.person_id and e.outcome = 'finished' and e.ends_at < v.ends_at)
              group by v.person_id limit ${MOST_REHEARSED}`,
        )
      : begins.kind === "put right"
        ? await rowsIn<{ person_id: string; at: string }>(
            tx,
            sql`select person_id, min(closed_at) as at from concerns
              where client_id = ${scope.clientId} and outcome = 'put right' and person_id is not null and closed_at >= ${iso(from)} and closed_at < ${iso(to)}
              group by person_id limit ${MOST_REHEARSED}`,
          )
        : await rowsIn<{ person_id: string; at: string }>(
            tx,
            sql`select id as person_id, ${iso(from)}::timestamptz as at from people where client_id = ${scope.clientId} and merged_into is null and tags @> array[${begins.kind === "tag" ? begins.tag : ""}]::text[] limit ${MOST_REHEARSED}`,
          );
  if (moments.length === 0) return [];
  const last = await tx
    .selectDistinctOn([visits.personId], visitColumns)
    .from(visits)
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        anyOf(
          visits.personId,
          moments.map(({ person_id }) => person_id),
        ),
        eq(visits.outcome, "finished"),
      ),
    )
    .orderBy(visits.personId, sql`${visits.endsAt} desc`);
  const at = new Map(moments.map((moment) => [moment.person_id, new Date(moment.at).getTime()]));
  return last.map((row) => ({
    ...NO_VISIT,
    ...row,
    clientId: scope.clientId,
    endsAt: at.get(row.personId) ?? from,
    source: "by hand" as const,
    intakeId: null,
    kind: "appointment" as const,
  }));
}

export function rehearsed(visit: Visit, source: RehearsalSource, clock: number): RehearsedVisit {
  const spread = source.kind === "list" ? visit.endsAt <= clock : isSpread(visit);
  const examineAt =
    source.kind === "booked"
      ? (visit.examineAt ?? visit.endsAt)
      : source.kind === "list"
        ? Math.max(visit.endsAt, clock)
        : Math.max(visit.endsAt, spread ? visit.createdAt : 0);
  return rehearsedVisit(visit, spread, examineAt);
}
