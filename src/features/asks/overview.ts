import { sql } from "drizzle-orm";
import type { PauseReason } from "@/core/plans/pauseReason";
import type { Setting } from "@/features/clients";
import { lastNotice, type Notice } from "@/features/notices";
import { listPlans } from "@/features/plans";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { pauseNoticeKey } from "./triggers";
import { allowanceNoticeKey } from "./usedUp";

export type PlanTally = { open: number; asked: number; waiting: number };

/** For each plan: asks under way, asks begun since `since`, and visits that wait for their turn in a list. */
export async function tallyPlans(tx: Tx, scope: Scope, since: number): Promise<Map<string, PlanTally>> {
  const rows = await rowsIn<PlanTally & { id: string }>(
    tx,
    sql`select p.id,
          (select count(*) from asks a where a.plan_id = p.id and a.stop is null and a.ended is null)::int as open,
          coalesce(b.asked, 0)::int as asked,
          (select count(*) from visits v where v.waits_for = p.id)::int as waiting
        from plans p left join (
          select plan_id, count(*) as asked from asks where client_id = ${scope.clientId} and created_at >= ${new Date(since).toISOString()} group by 1) b on b.plan_id = p.id
        where p.client_id = ${scope.clientId}`,
  );
  return new Map(rows.map(({ id, ...tally }) => [id, tally]));
}

/** How many asks are held, by why. */
export async function countHeld(
  tx: Tx,
  scope: Scope,
): Promise<{ hold: "plan paused" | "by hand" | "allowance" | "ceiling"; count: number }[]> {
  return rowsIn(
    tx,
    sql`select hold, count(*)::int as count from messages where client_id = ${scope.clientId} and hold is not null and state in ('planned', 'held') group by 1 order by 1`,
  );
}

/** Plans that paused by themselves, each with the notice of it. */
export async function stoppedPlans(
  tx: Tx,
  scope: Scope,
): Promise<{ id: string; name: string; pausedWhy: PauseReason; notice: Notice | null }[]> {
  const stopped = (await listPlans(tx, scope)).filter(({ state, pausedWhy }) => state === "paused" && pausedWhy);
  const found = [];
  for (const { id, name, pausedWhy } of stopped)
    found.push({
      id,
      name,
      pausedWhy: pausedWhy ?? { code: "not recorded" },
      notice: await lastNotice(tx, scope, pauseNoticeKey(id)),
    });
  return found;
}

/** The last notice that this month's allowance is used up, or null. */
export async function toldUsedUp(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<Notice | null> {
  return lastNotice(tx, scope, allowanceNoticeKey(setting, now));
}

/**
 * Which plans run, and which somebody has paused by hand, each with how many messages wait for it; `waiting` holds those
 * for which that is more than none.
 */
export async function standingOf(
  tx: Tx,
  scope: Scope,
): Promise<{ running: number; paused: number; held: { id: string; name: string; waiting: number }[] }> {
  const all = await listPlans(tx, scope);
  const paused = all.filter(({ state }) => state === "paused");
  const byHand = paused.filter(({ pausedWhy }) => pausedWhy === null);
  const rows =
    byHand.length === 0
      ? []
      : await rowsIn<{ id: string; waiting: number }>(
          tx,
          sql`select a.plan_id as id, count(*)::int as waiting from messages m join asks a on a.id = m.ask_id
              where m.client_id = ${scope.clientId} and m.hold = 'plan paused' and m.state in ('planned', 'held') group by 1`,
        );
  const waiting = new Map(rows.map((row) => [row.id, row.waiting]));
  return {
    running: all.filter(({ state }) => state === "running").length,
    paused: paused.length,
    held: byHand.flatMap(({ id, name }) => {
      const count = waiting.get(id) ?? 0;
      return count > 0 ? [{ id, name, waiting: count }] : [];
    }),
  };
}
