import { sql } from "drizzle-orm";
import type { PlanRules } from "@/core/plans/planRules";
import { type Tally, wordingsOf } from "@/core/plans/trial";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { listVersions } from "../plans";

/**
 * How each wording on trial did, by the key of its step: messages that left with it, and those of them that were answered before the
 * next one left. Only what left in the very words that are on trial now counts.
 */
export async function tallyWordings(tx: Tx, scope: Scope, planId: string, rules: PlanRules): Promise<Map<string, Tally[]>> {
  const found = new Map<string, Tally[]>();
  if (!rules.steps.some(({ others }) => others.length > 0)) return found;
  const rows = await rowsIn<{ version: number; name: string; wording: string; sent: number; answered: number }>(
    tx,
    sql`select m.plan_version as version, m.step_name as name, m.wording, count(*)::int as sent,
          count(*) filter (where a.answered_at >= m.sent_at and not exists (
            select 1 from messages n where n.client_id = m.client_id and n.ask_id = m.ask_id and n.direction = 'out' and n.sent_at > m.sent_at and n.sent_at <= a.answered_at))::int as answered
        from asks a join messages m on m.client_id = a.client_id and m.ask_id = a.id
        where a.client_id = ${scope.clientId} and a.plan_id = ${planId} and m.wording is not null and m.sent_at is not null and m.state in ('sent', 'delivered')
        group by 1, 2, 3`,
  );
  const versions = new Map((await listVersions(tx, scope, planId)).map((version) => [version.version, version.rules]));
  for (const step of rules.steps) {
    const tallies = wordingsOf(step).map(({ key, ...words }) => {
      const same = rows.filter(({ version, name, wording }) => {
        const then = versions.get(version)?.steps.find((one) => one.key === step.key);
        const said = then && wordingsOf(then).find((one) => one.key === key);
        return wording === key && then?.name === name && said?.text === words.text && said.subject === words.subject && said.email === words.email;
      });
      const sum = (of: "sent" | "answered") => same.reduce((total, row) => total + row[of], 0);
      return { key, sent: sum("sent"), answered: sum("answered") };
    });
    if (step.others.length > 0) found.set(step.key, tallies);
  }
  return found;
}
