import type { PlanRules, PlanStep } from "@/core/plans/planRules";
import { planRulesSchema } from "@/core/plans/planRules";
import { pieceKey, readKey } from "@/core/words/pieces";
import { masterPlace, stepOf, wordsOf, wrongPiece } from "@/core/words/planWords";
import { starterWords } from "@/core/words/starters";
import { loadSetting } from "@/features/clients";
import type { Tx } from "@/platform/database";
import { ownLanguage } from "./agencyWords";

/** Changing one text of a plan. */

export type ChangedRules = { rules: PlanRules } | { wrong: string };

/** The rules with one piece said otherwise, or (null) as it is without a change here. */
export async function changedPiece(tx: Tx, rules: PlanRules, key: string, words: string | null): Promise<ChangedRules> {
  const { client, services } = await loadSetting(tx);
  const name = readKey(key);
  if (!name) return { wrong: "This passage doesn’t exist." };
  if (name.serviceId && !services.some(({ id }) => id === name.serviceId))
    return { wrong: "This service doesn’t exist." };
  return withPiece(rules, name, words, ownLanguage(client.language));
}

/** The same, once it is known that the service is the client's. */
export function withPiece(
  rules: PlanRules,
  name: NonNullable<ReturnType<typeof readKey>>,
  words: string | null,
  own: string,
): ChangedRules {
  const { language, place, serviceId } = name;
  const master = masterPlace(rules, place);
  const start = starterWords(language, master);
  if (start === null || (place.startsWith("step.") && !stepOf(rules, place)))
    return { wrong: "This passage doesn’t exist." };
  const wrong = words === null ? null : wrongPiece(place, words);
  if (wrong) return { wrong };
  const before = wordsOf(rules);
  const above = before.taken[pieceKey(language, master)] ?? start;
  const at = stepOf(rules, place);
  if (at && language === own && !serviceId) {
    const said = words ?? above;
    const steps = rules.steps.map(
      (step): PlanStep => (step.key === at.step.key ? { ...step, [at.field]: said } : step),
    );
    return checked({ ...rules, steps });
  }
  const changed = { ...before.own };
  const key = pieceKey(language, place, serviceId);
  if (words === null || (words === above && !serviceId)) delete changed[key];
  else changed[key] = words;
  if (Object.keys(changed).length > 2000) return { wrong: "A plan can have up to 2,000 passages of its own." };
  return checked({ ...rules, words: { ...before, own: changed } });
}

function checked(rules: PlanRules): ChangedRules {
  const read = planRulesSchema.safeParse(rules);
  return read.success ? { rules: read.data } : { wrong: read.error.issues[0].message };
}
