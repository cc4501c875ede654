import { differences } from "@/core/plans/differences";
import type { PlanView } from "../planView";
import { PutInForce } from "./PlanButtons.client";

/** What is changed and waits to be put in force, with what that would move. */
export function PlanDraft({ view: { plan, move, ref, names, base } }: { view: PlanView }) {
  if (!plan.draft || !move) return null;
  const nameOf = (id: string) =>
    [...names.services, ...names.branches].find((one) => one.id === id)?.name ?? "something gone";
  return (
    <PutInForce
      plan={ref}
      facts={{
        ...move,
        differences: differences(plan.rules, plan.draft, nameOf),
        by: plan.draftBy,
        examples: move.examples.map(({ personId, ...example }) => ({
          ...example,
          href: `/c/${ref.slug}/people/${personId}`,
        })),
        rehearsal: `${base}/rehearsal?against=force`,
      }}
    />
  );
}
