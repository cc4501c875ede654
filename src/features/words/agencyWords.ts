import { and, asc, eq, sql } from "drizzle-orm";
import { asPlanRules, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import type { PlanRules } from "@/core/plans/planRules";
import { firstLanguage, isLanguage, type Language } from "@/core/words/languages";
import { readKey, STARTER_PLACES } from "@/core/words/pieces";
import { offeredWords, takeWords, wordsOf, wrongPiece } from "@/core/words/planWords";
import { starterWords } from "@/core/words/starters";
import { recordAccountEntry } from "@/features/accounts";
import { enforce } from "@/features/asks";
import { changeClient, loadSetting } from "@/features/clients";
import { changeRules, findPlan, listPlans } from "@/features/plans";
import { type AgencyScope, rowsIn, type Scope, type Tx, withClient } from "@/platform/database";
import { agencyWords } from "@/schema/words";

/** The words of an agency: what its clients' plans follow. */

export type AgencyWords = Readonly<Record<string, string>>;

/** What the agency says otherwise than the starter words, as its own people see it or its client does. */
export async function loadAgencyWords(tx: Tx): Promise<AgencyWords> {
  const rows = await tx
    .select({ piece: agencyWords.piece, words: agencyWords.words })
    .from(agencyWords)
    .orderBy(asc(agencyWords.piece));
  return Object.fromEntries(rows.map(({ piece, words }) => [piece, words]));
}

/** Whether a key names a piece of the starter words. */
export function isStarterPiece(key: string): boolean {
  const name = readKey(key);
  return name !== null && name.serviceId === null && STARTER_PLACES.includes(name.place);
}

/**
 * Says a piece otherwise, or takes that back (null, or what the starter words say). Gives what is wrong, or null.
 */
export async function saveAgencyPiece(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  key: string,
  words: string | null,
  now: number,
): Promise<string | null> {
  const name = isStarterPiece(key) ? readKey(key) : null;
  if (!name) return "This passage doesn’t exist.";
  const isTaken = words === null || words === starterWords(name.language, name.place);
  if (!isTaken) {
    const wrong = wrongPiece(name.place, words);
    if (wrong) return wrong;
    const it = { agencyId: scope.agencyId, piece: key, words, by: who, at: now };
    await tx
      .insert(agencyWords)
      .values(it)
      .onConflictDoUpdate({ target: [agencyWords.agencyId, agencyWords.piece], set: it });
  } else await tx.delete(agencyWords).where(and(eq(agencyWords.agencyId, scope.agencyId), eq(agencyWords.piece, key)));
  await recordAccountEntry(tx, scope, { at: now, who, action: "changed", subject: "words", name: key });
  return null;
}

/** The rules of a new plan, with the agency's words as they are now. */
export async function withAgencyWords(tx: Tx, rules: PlanRules, language: string): Promise<PlanRules> {
  return takeWords(rules, await loadAgencyWords(tx), ownLanguage(language));
}

/** Whether a client is one of those that these people of the agency look after. */
export async function ownsClient(tx: Tx, clientId: string): Promise<boolean> {
  const rows = await rowsIn<{ id: string }>(tx, sql`select id from clients where id = ${clientId}`);
  return rows.length > 0;
}

/** Stands where an offer is for the pages of a client's standing links, which belong to no plan. */
export const STANDING_LINKS = "00000000-0000-0000-0000-000000000000";

/** A plan to which the agency's words offer something. */
export type Offer = {
  clientId: string;
  planId: string;
  plan: string;
  version: number;
  pieces: { key: string; before: string; after: string }[];
};

/** The client's own language, for reading its plans' words. */
export const ownLanguage = (tag: string): Language => {
  const language = firstLanguage(tag);
  return isLanguage(language) ? language : "en";
};

/** What the agency's words offer to the plans of a client. */
export async function offersOf(tx: Tx, scope: Scope): Promise<Offer[]> {
  const words = await loadAgencyWords(tx);
  const { client } = await loadSetting(tx);
  const links = {
    id: STANDING_LINKS,
    name: "Standing links",
    version: 1,
    rules: asPlanRules(client.openAnswers ?? PLAIN_ANSWER_RULES),
  };
  const plans = (await listPlans(tx, scope)).filter(({ state }) => state !== "archived");
  return [...plans, links].flatMap(({ id, name, version, rules }) => {
    const offered = offeredWords(rules, words, ownLanguage(client.language));
    const pieces = id === STANDING_LINKS ? offered.filter(({ key }) => isLinkPiece(key)) : offered;
    return pieces.length === 0 ? [] : [{ clientId: scope.clientId, planId: id, plan: name, version, pieces }];
  });
}

/**
 * Takes what the agency says now into a plan (`only` these pieces, or all on offer) and puts it in force; a draft of
 * somebody gets it too and stays a draft. Gives how many pieces changed; 0 where nothing was on offer any more.
 */
export async function takeOffer(
  scope: Scope,
  who: string,
  planId: string,
  only: readonly string[] | null,
  now: number,
): Promise<number> {
  return withClient(scope, async (tx) => {
    if (planId === STANDING_LINKS) return takeForLinks(tx, scope, only);
    await rowsIn(tx, sql`select id from plans where id = ${planId} for update`);
    const plan = await findPlan(tx, scope, planId);
    if (!plan || plan.state === "archived") return 0;
    const words = await loadAgencyWords(tx);
    const setting = await loadSetting(tx);
    const own = ownLanguage(setting.client.language);
    const offered = offeredWords(plan.rules, words, own).filter(({ key }) => only === null || only.includes(key));
    if (offered.length === 0) return 0;
    const keys = offered.map(({ key }) => key);
    const rules = takeWords(plan.rules, words, own, keys);
    if (plan.state === "draft") {
      await changeRules(tx, scope, who, planId, plan.revision, rules, now);
      return offered.length;
    }
    const done = await enforce(tx, scope, who, { planId, revision: plan.revision, rules, for: "new asks", now });
    if (!done) return 0;
    // Putting it in force would throw away what somebody was about to change.
    const after = plan.draft ? await findPlan(tx, scope, planId) : null;
    if (plan.draft && after) {
      const draft = takeWords(plan.draft, words, own, keys);
      await changeRules(tx, scope, plan.draftBy ?? who, planId, after.revision, draft, now);
    }
    return offered.length;
  });
}

/** Whether a piece stands on the pages of standing links. */
const isLinkPiece = (key: string): boolean => {
  const place = readKey(key)?.place ?? "";
  return place.startsWith("page/") && place !== "page/picture";
};

async function takeForLinks(tx: Tx, scope: Scope, only: readonly string[] | null): Promise<number> {
  await rowsIn(tx, sql`select id from clients where id = ${scope.clientId} for update`);
  const { client } = await loadSetting(tx);
  const before = client.openAnswers ?? PLAIN_ANSWER_RULES;
  const [rules, words, own] = [asPlanRules(before), await loadAgencyWords(tx), ownLanguage(client.language)];
  const keys = offeredWords(rules, words, own)
    .map(({ key }) => key)
    .filter((key) => isLinkPiece(key) && (only === null || only.includes(key)));
  if (keys.length === 0) return 0;
  await changeClient(tx, scope, { openAnswers: { ...before, words: wordsOf(takeWords(rules, words, own, keys)) } });
  return keys.length;
}
