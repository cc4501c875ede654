import { and, asc, desc, eq, sql } from "drizzle-orm";
import { type BeginningVisit, planByHand } from "@/core/plans/takes";
import { oncePerTransaction, type Scope, type Tx } from "@/platform/database";
import { plans, planVersions } from "@/schema/plans";

export type Plan = typeof plans.$inferSelect;

/** All plans of the client in their order, archived ones too. */
export async function listPlans(tx: Tx, scope: Scope): Promise<Plan[]> {
  const all = await oncePerTransaction(tx, "plans", ["plans"], async () =>
    tx.select().from(plans).where(eq(plans.clientId, scope.clientId)).orderBy(asc(plans.position), asc(plans.id)),
  );
  return [...all];
}

/** Whether a running plan lets the writer's mailbox say which review site comes first. */
export async function anyGoesByMailbox(tx: Tx, scope: Scope): Promise<boolean> {
  const [found] = await tx
    .select({ id: plans.id })
    .from(plans)
    .where(
      and(
        eq(plans.clientId, scope.clientId),
        eq(plans.state, "running"),
        sql`${plans.rules} -> 'sites' ->> 'mix' = 'mailbox'`,
      ),
    )
    .limit(1);
  return found !== undefined;
}

/** The plan that asks by hand about a visit, or about any where none is given; null when none could ask. */
export async function planForHand(tx: Tx, scope: Scope, visit: BeginningVisit | null): Promise<Plan | null> {
  return planByHand(
    await listPlans(tx, scope),
    visit ?? { serviceId: null, branchId: "", kind: "appointment", fromList: false },
  );
}

/** One plan, or null. */
export async function findPlan(tx: Tx, scope: Scope, id: string): Promise<Plan | null> {
  const [plan] = await tx
    .select()
    .from(plans)
    .where(and(eq(plans.clientId, scope.clientId), eq(plans.id, id)));
  return plan ?? null;
}

/** Every version of a plan that was in force, latest first. */
export function listVersions(tx: Tx, scope: Scope, planId: string) {
  return tx
    .select()
    .from(planVersions)
    .where(and(eq(planVersions.clientId, scope.clientId), eq(planVersions.planId, planId)))
    .orderBy(desc(planVersions.version));
}

/** The longest rest of any plan that can ask, in days: for the list of who is resting. */
export function longestRest(all: readonly Plan[], clientRest: number): number {
  return all.reduce(
    (most, { state, rules }) =>
      state !== "archived" && state !== "draft" && rules.repeat.kind === "rest"
        ? Math.max(most, rules.repeat.days)
        : most,
    clientRest,
  );
}
