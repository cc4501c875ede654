import { sql } from "drizzle-orm";
import { legsOf } from "@/core/plans/legs";
import type { PlanRules } from "@/core/plans/planRules";
import { DAY } from "@/core/time/zone";
import { rowsIn, type Scope, type Tx } from "@/platform/database";

/** What left of a message in the last thirty days: texts, the parts that they took, and emails. */
export type SentInMonth = Record<string, { texts: number; parts: number; emails: number }>;

/** How much of each message of a plan left in the last thirty days, by its key. */
export async function sentInMonth(
  tx: Tx,
  scope: Scope,
  planId: string,
  rules: PlanRules,
  now: number,
): Promise<SentInMonth> {
  const rows = await rowsIn<{ leg: number; channel: "text" | "email"; sent: number; parts: number }>(
    tx,
    sql`select m.step as leg, m.channel, count(*)::int as sent, coalesce(sum(m.parts), 0)::int as parts
      from messages m
      where m.client_id = ${scope.clientId} and m.state in ('sent', 'delivered') and m.direction = 'out'
        and m.due_at >= ${new Date(now - 30 * DAY).toISOString()} and m.step is not null
        and (select a.plan_id from asks a where a.id = m.ask_id) = ${planId}
      group by 1, 2`,
  );
  const legs = legsOf(rules);
  const found: SentInMonth = {};
  for (const { leg, channel, sent, parts } of rows) {
    const step = legs[leg] && rules.steps[legs[leg].step];
    if (!step) continue;
    found[step.key] ??= { texts: 0, parts: 0, emails: 0 };
    const of = found[step.key];
    if (channel === "email") of.emails += sent;
    else {
      of.texts += sent;
      of.parts += parts;
    }
  }
  return found;
}
