import { and, eq, type SQLWrapper, sql } from "drizzle-orm";
import type { AuditAction } from "@/core/audit/actions";
import type { PauseReason } from "@/core/plans/pauseReason";
import type { PlanRules } from "@/core/plans/planRules";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { plans, planVersions } from "@/schema/plans";
import { findPlan, listPlans, type Plan } from "./queries";

const mine = (scope: Scope, id: string) => and(eq(plans.clientId, scope.clientId), eq(plans.id, id));

/**
 * Adds a plan that has never run: behind all others, or before them where it takes only some of what the others take.
 */
export async function addPlan(
  tx: Tx,
  scope: Scope,
  who: string,
  name: string,
  rules: PlanRules,
  now: number,
): Promise<Plan> {
  const all = await listPlans(tx, scope);
  const taken = new Set(all.map((plan) => plan.name.toLowerCase()));
  let free = name;
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${name} ${n}`;
  const places = all.map(({ position }) => position);
  const isNarrow = rules.begins.kind === "list" || rules.begins.kind === "invoice";
  const position = isNarrow ? Math.min(0, ...places) - 1 : Math.max(-1, ...places) + 1;
  const [plan] = await tx
    .insert(plans)
    .values({ clientId: scope.clientId, name: free, state: "draft", rules, version: 0, runningSince: now, position })
    .returning();
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "made",
    subject: "plan",
    subjectId: plan.id,
    details: { name: free },
  });
  return plan;
}

/** A plan that runs from the start, as its first version: for new clients, the seed and the tests. */
export async function installPlan(
  tx: Tx,
  scope: Scope,
  it: {
    id?: string;
    name: string;
    rules: PlanRules;
    runningSince: number;
    position?: number;
    state?: Plan["state"];
    by?: string;
  },
): Promise<Plan> {
  const [plan] = await tx
    .insert(plans)
    .values({
      ...(it.id ? { id: it.id } : {}),
      clientId: scope.clientId,
      name: it.name,
      state: it.state ?? "running",
      version: it.state === "draft" ? 0 : 1,
      rules: it.rules,
      runningSince: it.runningSince,
      position: it.position ?? 0,
    })
    .returning();
  if (plan.version > 0)
    await tx.insert(planVersions).values({
      planId: plan.id,
      version: plan.version,
      clientId: scope.clientId,
      rules: it.rules,
      by: it.by ?? "Estima",
      at: it.runningSince,
    });
  return plan;
}

/**
 * Keeps changed rules unless somebody else changed the plan since `revision`; null then. Those of a plan that runs or
 * ran wait as a draft until they are put in force; a plan that never ran has nothing in force.
 */
export async function changeRules(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  revision: number,
  rules: PlanRules,
  now: number,
): Promise<Plan | null> {
  const before = await findPlan(tx, scope, id);
  if (!before) return null;
  const isDraft = before.state === "draft";
  const same = !isDraft && JSON.stringify(sorted(rules)) === JSON.stringify(sorted(before.rules));
  const [after] = await tx
    .update(plans)
    .set({
      ...(isDraft ? { rules } : { draft: same ? null : rules, draftBy: same ? null : who }),
      revision: sql`${plans.revision} + 1`,
    })
    .where(and(mine(scope, id), eq(plans.revision, revision)))
    .returning();
  if (!after) return null;
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "plan",
    subjectId: id,
    details: { before: before.draft ?? before.rules, after: rules, inForce: false },
  });
  return after;
}

/** Keys in one order, so that two equal rules read alike. */
function sorted(value: unknown): unknown {
  if (Array.isArray(value)) return value.map(sorted);
  if (value === null || typeof value !== "object") return value ?? null;
  return Object.fromEntries(
    Object.entries(value)
      .filter(([, each]) => each !== undefined)
      .sort(([a], [b]) => (a < b ? -1 : 1))
      .map(([name, each]) => [name, sorted(each)]),
  );
}

/** Throws a draft away. */
export async function dropDraft(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<void> {
  await tx
    .update(plans)
    .set({ draft: null, draftBy: null, revision: sql`${plans.revision} + 1` })
    .where(mine(scope, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "discarded changes",
    subject: "plan",
    subjectId: id,
  });
}

/**
 * Makes a plan's rules the next version in force. Gives it, or null when somebody changed the plan since `revision`.
 */
export async function putInForce(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  revision: number,
  rules: PlanRules,
  now: number,
): Promise<Plan | null> {
  const before = await findPlan(tx, scope, id);
  const [after] = await tx
    .update(plans)
    .set({
      rules,
      draft: null,
      draftBy: null,
      version: sql`${plans.version} + 1`,
      revision: sql`${plans.revision} + 1`,
      // What it has to do by itself may be another thing now.
      ...(before?.state === "running" ? { nextRunAt: now } : {}),
      ...(rules.begins.kind === "customer"
        ? { lookedUntil: sql`coalesce(${plans.lookedUntil}, ${new Date(now).toISOString()})` }
        : {}),
    })
    .where(and(mine(scope, id), eq(plans.revision, revision)))
    .returning();
  if (!after) return null;
  await tx
    .insert(planVersions)
    .values({ planId: id, version: after.version, clientId: scope.clientId, rules, by: who, at: now });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "put in force",
    subject: "plan",
    subjectId: id,
    details: { version: after.version, before: before?.rules, after: rules },
  });
  return after;
}

const ACTIONS: Record<Plan["state"], AuditAction> = {
  running: "started",
  paused: "paused",
  archived: "archived",
  draft: "drafted",
};

/** Sets whether a plan runs. `why`: it paused by itself. */
export async function setPlanState(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  state: Plan["state"],
  now: number,
  why: PauseReason | null = null,
): Promise<Plan | null> {
  const before = await findPlan(tx, scope, id);
  if (!before) return null;
  const begins = before.rules.begins.kind;
  const [after] = await tx
    .update(plans)
    .set({
      state,
      pausedWhy: why,
      revision: sql`${plans.revision} + 1`,
      ...(state === "running" && before.state !== "running" ? { runningSince: now } : {}),
      // Who has been a customer long enough before the plan ran is not asked on its first day.
      ...(state === "running" && begins === "customer"
        ? { nextRunAt: now, lookedUntil: sql`coalesce(${plans.lookedUntil}, ${new Date(now).toISOString()})` }
        : {}),
      ...(state === "running" && before.rules.portions ? { nextRunAt: now } : {}),
      ...(state !== "running" ? { nextRunAt: null } : {}),
    })
    .where(mine(scope, id))
    .returning();
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: ACTIONS[state],
    subject: "plan",
    subjectId: id,
    details: why ? { why } : undefined,
  });
  return after ?? null;
}

/** Names a plan. */
export async function renamePlan(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  name: string,
  now: number,
): Promise<void> {
  await tx.update(plans).set({ name }).where(mine(scope, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "renamed",
    subject: "plan",
    subjectId: id,
    details: { name },
  });
}

/** Sets the order of plans; those that are not named keep theirs behind the named ones. */
export async function orderPlans(
  tx: Tx,
  scope: Scope,
  who: string,
  ids: readonly string[],
  now: number,
): Promise<boolean> {
  const all = await listPlans(tx, scope);
  if (!ids.every((id) => all.some((plan) => plan.id === id))) return false;
  const known = [...new Set(ids)];
  const order = [...known, ...all.map(({ id }) => id).filter((id) => !known.includes(id))];
  for (const [position, id] of order.entries()) await tx.update(plans).set({ position }).where(mine(scope, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "ordered",
    subject: "plans",
    details: { order },
  });
  return true;
}

/** Sets when a plan has something to do by itself next, and until when it has looked ahead. */
export async function setRuns(tx: Tx, id: string, nextRunAt: number | null, lookedUntil: number | null): Promise<void> {
  await tx.update(plans).set({ nextRunAt, lookedUntil }).where(eq(plans.id, id));
}

/** Lets a plan do something by itself at an instant, unless it does so at another already. */
export async function bringForwardRun(tx: Tx, scope: Scope, id: string, at: number): Promise<void> {
  await tx
    .update(plans)
    .set({ nextRunAt: sql`coalesce(${plans.nextRunAt}, ${new Date(at).toISOString()})` })
    .where(mine(scope, id));
}

/**
 * Leaves a site out of what every plan offers: of what is in force, of what is drafted, and of the versions by which asks
 * under way go, before any branch has a page there.
 */
export async function leaveOutSite(tx: Tx, scope: Scope, site: string): Promise<void> {
  const without = (rules: SQLWrapper) =>
    sql`jsonb_set(${rules}, '{sites,leftOut}', coalesce(${rules} #> '{sites,leftOut}', '[]'::jsonb) || to_jsonb(${site}::text))`;
  const has = (rules: SQLWrapper) => sql`coalesce(${rules} #> '{sites,leftOut}' @> to_jsonb(${site}::text), false)`;
  await tx.execute(sql`
    update plans set rules = ${without(sql`rules`)}, draft = case when draft is null then null else ${without(sql`draft`)} end
    where client_id = ${scope.clientId} and not ${has(sql`rules`)}`);
  await tx.execute(sql`
    update plan_versions v set rules = ${without(sql`v.rules`)}
    where v.plan_id in (select id from plans where client_id = ${scope.clientId}) and not ${has(sql`v.rules`)}`);
}
