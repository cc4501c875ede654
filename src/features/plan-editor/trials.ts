import { sql } from "drizzle-orm";
import type { PlanRules, PlanStep } from "@/core/plans/planRules";
import { ANSWER_WINDOW, type Tally, wordingsOf } from "@/core/plans/trial";
import { listVersions } from "@/features/plans";
import { rowsIn, type Scope, type Tx } from "@/platform/database";

/**
 * How each wording on trial did, by the key of its step: messages that left with it, and those of them that were
 * answered before the next one left. Counted is only what left while every wording that is on trial now was, in the
 * very words of now, and long enough ago to be answered; an answer counts within that time alone. So all of them are
 * compared over the same people and days.
 */
export async function tallyWordings(
  tx: Tx,
  scope: Scope,
  planId: string,
  rules: PlanRules,
  now: number,
): Promise<Map<string, Tally[]>> {
  const found = new Map<string, Tally[]>();
  if (!rules.steps.some(({ others }) => others.length > 0)) return found;
  const window = `${ANSWER_WINDOW / 1000} seconds`;
  const rows = await rowsIn<{ version: number; name: string; wording: string; sent: number; answered: number }>(
    tx,
    sql`select m.plan_version as version, m.step_name as name, m.wording, count(*)::int as sent,
          count(*) filter (where a.answered_at >= m.sent_at and a.answered_at <= m.sent_at + ${window}::interval and not exists (
            select 1 from messages n where n.client_id = m.client_id and n.ask_id = m.ask_id and n.direction = 'out' and n.sent_at > m.sent_at and n.sent_at <= a.answered_at))::int as answered
        from asks a join messages m on m.client_id = a.client_id and m.ask_id = a.id
        where a.client_id = ${scope.clientId} and a.plan_id = ${planId} and m.wording is not null and m.state in ('sent', 'delivered')
          and m.sent_at <= ${new Date(now - ANSWER_WINDOW).toISOString()}
        group by 1, 2, 3`,
  );
  const versions = new Map((await listVersions(tx, scope, planId)).map((version) => [version.version, version.rules]));
  for (const step of rules.steps) {
    if (step.others.length === 0) continue;
    const counted = rows.filter(({ version, name }) => {
      const then = versions.get(version)?.steps.find((one) => one.key === step.key);
      return then?.name === name && hadAll(then, step);
    });
    const tallies = wordingsOf(step).map(({ key }) => {
      const own = counted.filter(({ wording }) => wording === key);
      const sum = (of: "sent" | "answered") => own.reduce((total, row) => total + row[of], 0);
      return { key, sent: sum("sent"), answered: sum("answered") };
    });
    found.set(step.key, tallies);
  }
  return found;
}

/** Whether every wording of now was on trial then, word for word. */
function hadAll(then: PlanStep, step: PlanStep): boolean {
  const before = wordingsOf(then);
  return wordingsOf(step).every(({ key, text, subject, email }) =>
    before.some((one) => one.key === key && one.text === text && one.subject === subject && one.email === email),
  );
}
