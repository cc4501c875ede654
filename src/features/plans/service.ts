import { and, eq, sql } from "drizzle-orm";
import type { PlanRules } from "@/core/plans/planRules";
import type { Scope, Tx } from "@/platform/database";
import { note } from "../audit";
import { findPlan, type Plan } from "./queries";
import { plans } from "./tables";

/** Keeps new rules unless somebody else changed the plan since `version`; null then. */
export async function changeRules(tx: Tx, scope: Scope, who: string, id: string, version: number, rules: PlanRules, now: number): Promise<Plan | null> {
  const before = await findPlan(tx, scope, id);
  const [after] = await tx
    .update(plans)
    .set({ rules, version: sql`${plans.version} + 1` })
    .where(and(eq(plans.clientId, scope.clientId), eq(plans.id, id), eq(plans.version, version)))
    .returning();
  if (!after) return null;
  await note(tx, { clientId: scope.clientId, at: now, who, deed: "changed", subject: "plan", subjectId: id, details: { before: before?.rules, after: rules } });
  return after;
}

/** Pauses or resumes a plan. */
export async function setPlanState(tx: Tx, scope: Scope, who: string, id: string, state: Plan["state"], now: number): Promise<void> {
  await tx
    .update(plans)
    .set({ state, ...(state === "running" ? { runningSince: now } : {}) })
    .where(and(eq(plans.clientId, scope.clientId), eq(plans.id, id)));
  await note(tx, { clientId: scope.clientId, at: now, who, deed: state === "paused" ? "paused" : "resumed", subject: "plan", subjectId: id });
}
