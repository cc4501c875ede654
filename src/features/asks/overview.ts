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
