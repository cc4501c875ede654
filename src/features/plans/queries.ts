import { and, asc, eq } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { plans } from "./tables";

export type Plan = typeof plans.$inferSelect;

/** All plans of the client in their order. */
export function listPlans(tx: Tx, scope: Scope): Promise<Plan[]> {
  return tx.select().from(plans).where(eq(plans.clientId, scope.clientId)).orderBy(asc(plans.position), asc(plans.id));
}

/** The standing plan, which looks at every visit; null when none is set up. */
export async function standingPlan(tx: Tx, scope: Scope): Promise<Plan | null> {
  return (await listPlans(tx, scope))[0] ?? null;
}

/** One plan, or null. */
export async function findPlan(tx: Tx, scope: Scope, id: string): Promise<Plan | null> {
  const [plan] = await tx
    .select()
    .from(plans)
    .where(and(eq(plans.clientId, scope.clientId), eq(plans.id, id)));
  return plan ?? null;
}
