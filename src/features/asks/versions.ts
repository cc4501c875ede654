import { and, eq, isNull, ne, sql } from "drizzle-orm";
import { carryOver } from "@/core/plans/legs";
import type { PlanRules } from "@/core/plans/planRules";
import { loadSetting, type Setting } from "@/features/clients";
import { findPlan, type Plan, putInForce } from "@/features/plans";
import type { Scope, Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { type AskContext, loadContexts, nextOf } from "./contexts";
import { planNext } from "./schedule";

/** Whom a new version of a plan is for: asks that begin from now on, or also those under way. */
export type InForceFor = "new asks" | "asks under way too";

/** What a version would change for asks under way. */
export type MoveForecast = {
  underWay: number;
  /** Its next message would leave at another time, by another channel, or in other words. */
  moved: number;
  /** It would send one more, or end sooner. */
  ends: number;
  begins: number;
  same: number;
  /** A message of it is being handed over: it stays as it is. */
  leaving: number;
  examples: { name: string; personId: string; before: string; after: string }[];
};

const open = (scope: Scope, planId: string) =>
  and(eq(asks.clientId, scope.clientId), eq(asks.planId, planId), isNull(asks.stop), isNull(asks.ended));

const isLeaving = sql<boolean>`exists (select 1 from messages m where m.client_id = ${asks.clientId} and m.ask_id = ${asks.id} and m.state = 'sending')`;

/** An ask as it would stand in another version. */
function moved(context: AskContext, rules: PlanRules, version: number): AskContext {
  return {
    ...context,
    plan: { ...context.plan, rules },
    ask: {
      ...context.ask,
      planVersion: version,
      done: carryOver(context.plan.rules, rules, context.ask.done),
      sendNow: null,
    },
  };
}

const MOST_LOOKED_AT = 2000;

/** Compares what every ask under way does next with what it would do under `rules`. At most 2000 are looked at. */
export async function forecastMove(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  plan: Plan,
  rules: PlanRules,
  now: number,
  say: (at: number) => string,
): Promise<MoveForecast> {
  const rows = await tx
    .select({ id: asks.id, leaving: isLeaving })
    .from(asks)
    .where(open(scope, plan.id))
    .orderBy(asks.createdAt)
    .limit(MOST_LOOKED_AT + 1);
  const forecast: MoveForecast = {
    underWay: rows.length,
    moved: 0,
    ends: 0,
    begins: 0,
    same: 0,
    leaving: rows.filter(({ leaving }) => leaving).length,
    examples: [],
  };
  const ids = rows.filter(({ leaving }) => !leaving).map(({ id }) => id);
  for (let index = 0; index < Math.min(ids.length, MOST_LOOKED_AT); index += 500) {
    for (const context of await loadContexts(tx, scope, ids.slice(index, index + 500))) {
      const [before, after] = [
        nextOf(context, setting, now),
        nextOf(moved(context, rules, plan.version + 1), setting, now),
      ];
      const words = (next: typeof before) =>
        next.kind === "send" ? `${next.channel} ${say(next.at)}` : next.kind === "held" ? "held" : "nothing more";
      const step = (next: typeof before, own: PlanRules) => (next.kind === "end" ? null : own.steps[next.step]);
      const [a, b] = [step(before, context.plan.rules), step(after, rules)];
      const sameWords =
        a && b && a.key === b.key && a.text === b.text && a.subject === b.subject && a.email === b.email;
      if (before.kind !== "end" && after.kind === "end") forecast.ends += 1;
      else if (before.kind === "end" && after.kind !== "end") forecast.begins += 1;
      else if (words(before) === words(after) && sameWords) forecast.same += 1;
      else forecast.moved += 1;
      const [wasSaid, isSaid] = [words(before), words(after)];
      if (forecast.examples.length < 8 && wasSaid !== isSaid)
        forecast.examples.push({
          name: `${context.person.given} ${context.person.family}`.trim(),
          personId: context.person.id,
          before: wasSaid,
          after: isSaid,
        });
    }
  }
  return forecast;
}

/**
 * Makes rules the next version in force, for new asks or also for those under way. An ask of which a message is being
 * handed over at this moment has begun that step and stays with its version. Null when somebody changed the plan since
 * `revision`.
 */
export async function enforce(
  tx: Tx,
  scope: Scope,
  who: string,
  it: { planId: string; revision: number; rules: PlanRules; for: InForceFor; now: number },
): Promise<{ moved: number } | null> {
  const before = await findPlan(tx, scope, it.planId);
  if (!before) return null;
  const after = await putInForce(tx, scope, who, it.planId, it.revision, it.rules, it.now);
  if (!after) return null;
  if (it.for === "new asks") return { moved: 0 };
  return { moved: await moveAsks(tx, scope, after, it.now) };
}

/** Moves asks under way to the plan's version in force, and works out anew what each does next. */
async function moveAsks(tx: Tx, scope: Scope, plan: Plan, now: number): Promise<number> {
  const setting = await loadSetting(tx);
  // Locked first, as those who send do: a message is handed over wholly before or wholly after.
  const rows = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(and(open(scope, plan.id), ne(asks.planVersion, plan.version)))
    .orderBy(asks.id)
    .for("update");
  let count = 0;
  for (let index = 0; index < rows.length; index += 500) {
    const ids = rows.slice(index, index + 500).map(({ id }) => id);
    const leaving = new Set(
      (
        await tx
          .select({ id: asks.id })
          .from(asks)
          .where(and(sql`${asks.id} = any(${sql.param(ids)}::uuid[])`, isLeaving))
      ).map(({ id }) => id),
    );
    const contexts = (await loadContexts(tx, scope, ids, true))
      .filter(({ ask }) => !leaving.has(ask.id))
      .map((context) => moved(context, plan.rules, plan.version));
    const data = JSON.stringify(contexts.map(({ ask }) => ({ id: ask.id, done: ask.done })));
    await tx.execute(
      sql`update asks a set plan_version = ${plan.version}, done = d.done, send_now = null from jsonb_to_recordset(${data}::jsonb) as d(id uuid, done int) where a.id = d.id`,
    );
    await planNext(tx, scope, setting, contexts, now);
    count += contexts.length;
  }
  return count;
}
