import { and, eq, gt, inArray, lte, type SQL, sql } from "drizzle-orm";
import type { TraceLine, VisitOutcome } from "@/core/asks/findings";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { visits } from "@/schema/visits";

/** What other features note about visits, one function each: only this feature writes the table. */

const idList = (ids: readonly string[]) => sql`${sql.param([...ids])}::uuid[]`;

export type VisitDecision = {
  id: string;
  outcome: VisitOutcome;
  decision: "asked" | "left out";
  reason: string | null;
  trace: TraceLine[];
  /** The ask that began or was joined; null leaves the one it has. */
  ask: string | null;
};

/** Writes what plans decided about many visits, in one statement. They wait for nothing any more. */
export async function setDecisions(
  tx: Tx,
  scope: Scope,
  decided: readonly VisitDecision[],
  now: number,
): Promise<void> {
  if (decided.length === 0) return;
  await tx.execute(sql`
    update visits v set outcome = d.outcome, examine_at = null, claimed_until = null, waits_for = null, examined_at = ${new Date(now).toISOString()},
      trace = d.trace, decision = d.decision, reason = d.reason, ask_id = coalesce(d.ask, v.ask_id)
    from jsonb_to_recordset(${JSON.stringify(decided)}::jsonb) as d(id uuid, outcome text, decision text, reason text, trace jsonb, ask uuid)
    where v.client_id = ${scope.clientId} and v.id = d.id`);
}

/** Lets visits wait for the daily portions of a plan. */
export async function setWaitsFor(tx: Tx, scope: Scope, ids: readonly string[], planId: string): Promise<void> {
  await tx
    .update(visits)
    .set({ waitsFor: planId, examineAt: null, claimedUntil: null })
    .where(and(eq(visits.clientId, scope.clientId), inArray(visits.id, [...ids])));
}

/** Lets plans look anew at visits that waited for the portions of a plan. */
export async function releaseVisitsOfPlan(tx: Tx, scope: Scope, planId: string, now: number): Promise<void> {
  await tx
    .update(visits)
    .set({ waitsFor: null, examineAt: now })
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.waitsFor, planId)));
}

/** Lets plans look anew at visits of these people that were left out; `which` says which of them. Gives how many. */
export async function reexamineVisits(
  tx: Tx,
  scope: Scope,
  personIds: readonly string[],
  which: SQL | undefined,
  now: number,
): Promise<number> {
  const rows = await tx
    .update(visits)
    .set({ examineAt: now, claimedUntil: null })
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        sql`${visits.personId} = any(${idList(personIds)})`,
        eq(visits.decision, "left out"),
        which,
      ),
    )
    .returning({ id: visits.id });
  return rows.length;
}

/** Takes visits out of the asks they had joined, except those that an ask is about. */
export async function leaveAsks(tx: Tx, scope: Scope, ids: readonly string[]): Promise<void> {
  await tx
    .update(visits)
    .set({ askId: null })
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        sql`${visits.id} = any(${idList(ids)})`,
        sql`not exists (select 1 from asks o where o.visit_id = ${visits.id})`,
      ),
    );
}

/**
 * Cancels booked visits of a feed that it no longer names, between `now` and `until`. `named` are the numbers it names,
 * `unread` the beginnings of numbers that could not be read. Gives which, and whose they are.
 */
export async function cancelUnnamed(
  tx: Tx,
  scope: Scope,
  it: { feedId: string; named: readonly string[]; unread: readonly string[]; now: number; until: number },
): Promise<{ id: string; personId: string }[]> {
  return tx
    .update(visits)
    .set({ outcome: "cancelled", saidAt: it.now })
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        eq(visits.feedId, it.feedId),
        eq(visits.outcome, "booked"),
        gt(visits.endsAt, it.now),
        lte(visits.endsAt, it.until),
        sql`not (${visits.externalId} = any(${sql.param([...it.named])}::text[]))`,
        sql`not exists (select 1 from unnest(${sql.param([...it.unread])}::text[]) k where starts_with(${visits.externalId}, left(k, 80)))`,
      ),
    )
    .returning({ id: visits.id, personId: visits.personId });
}

/** Deletes what a list brought. Gives whose visits they were, once for each visit. */
export async function deleteVisitsOfList(tx: Tx, scope: Scope, intakeId: string): Promise<string[]> {
  const rows = await rowsIn<{ person_id: string }>(
    tx,
    sql`delete from visits where client_id = ${scope.clientId} and intake_id = ${intakeId} returning person_id`,
  );
  return rows.map(({ person_id }) => person_id);
}

/** No plan looks at any visit of the client any more, unless it is brought in anew. */
export async function looksAtNone(tx: Tx, scope: Scope): Promise<void> {
  await tx
    .update(visits)
    .set({ examineAt: null, claimedUntil: null })
    .where(and(eq(visits.clientId, scope.clientId), sql`${visits.examineAt} is not null`));
}
