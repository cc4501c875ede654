import type { VisitKind } from "../intake/visitKinds";
import type { Begins } from "./planRules";

/** What a plan's beginning looks at. */
export type BeginningVisit = { serviceId: string | null; branchId: string; kind: VisitKind; fromList: boolean };

const among = (list: readonly string[], id: string | null) => list.length === 0 || (id !== null && list.includes(id));

/** Whether a plan begins with visits like this one. Plans that begin with a tag, with time or by hand take none. */
export function takesVisit(begins: Begins, visit: BeginningVisit): boolean {
  switch (begins.kind) {
    case "visit":
      return (
        among(begins.services, visit.serviceId) &&
        among(begins.branches, visit.branchId) &&
        among(begins.kinds, visit.kind)
      );
    case "invoice":
      return (
        visit.kind === "invoice" && among(begins.services, visit.serviceId) && among(begins.branches, visit.branchId)
      );
    case "list":
      return visit.fromList && among(begins.services, visit.serviceId) && among(begins.branches, visit.branchId);
    default:
      return false;
  }
}

/** A plan as far as its turn is concerned; drafts and archived plans take nothing. */
export type TakingPlan = {
  name: string;
  state: "draft" | "running" | "paused" | "archived";
  rules: { begins: Begins };
};

/**
 * The plan that takes a visit: the first in order that begins with it, running or paused, and the names of those
 * further down that would have taken it.
 */
export function planFor<P extends TakingPlan>(
  plans: readonly P[],
  visit: BeginningVisit,
): { plan: P | null; alsoTakenBy: string[] } {
  const taking = plans.filter(
    ({ state, rules }) => (state === "running" || state === "paused") && takesVisit(rules.begins, visit),
  );
  return { plan: taking[0] ?? null, alsoTakenBy: taking.slice(1).map(({ name }) => name) };
}

/** The plan that asks by hand about a visit: one made for that, else the one that takes it, else the first that may. */
export function planByHand<P extends TakingPlan>(plans: readonly P[], visit: BeginningVisit): P | null {
  const able = plans.filter(({ state }) => state === "running" || state === "paused");
  return able.find(({ rules }) => rules.begins.kind === "by hand") ?? planFor(able, visit).plan ?? able[0] ?? null;
}
