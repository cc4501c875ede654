import type { EligibilityCase } from "./eligibility";
import type { AskSoFar } from "./nextStep";

/** The asks of one household about one day: which of them a visit joins, and what stands in its way. */

type HomeAsk = {
  open: boolean;
  soFar: Pick<AskSoFar, "done" | "byHand">;
  plan: { id: string };
  person: { id: string; name: string };
};

/** The ask of a household's day that another visit can join: nothing of it has left, and it is the same plan's. */
export function joinable<A extends HomeAsk>(asked: readonly A[], planId: string | null): A | null {
  return asked.find(({ open, soFar, plan }) => open && soFar.done === 0 && !soFar.byHand && plan.id === planId) ?? null;
}

/** What `examine` has to know of a household's day. */
export function homeOf<A extends HomeAsk>(
  asked: readonly A[],
  planId: string | null,
  personId: string,
  openAsk: A | null,
): EligibilityCase["person"]["home"] {
  const ask = joinable(asked, planId);
  // Somebody with an ask under way about another day does not join this one.
  if (ask) return { name: ask.person.name, canJoin: openAsk === null || openAsk === ask };
  // An ask that ended before anything of it left asked nobody.
  const taken = asked.filter(({ open, soFar }) => open || soFar.done > 0);
  const other = taken.find(({ person }) => person.id !== personId) ?? taken[0];
  return other ? { name: other.person.name, canJoin: false, isOwn: other.person.id === personId } : null;
}
