import { sql } from "drizzle-orm";
import { type AnswerRules, asPlanRules, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { readKey } from "@/core/words/pieces";
import { wordsOf } from "@/core/words/planWords";
import { recordAudit } from "@/features/audit";
import { changeClient, loadSetting } from "@/features/clients";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { changedPiece } from "./pieces";

/** The words of a client's standing links: kept with the client, and in force at once. */

/** How the client takes answers that no ask began; its row is locked, so that two changes at once are both kept. */
export async function lockAnswerRules(tx: Tx, scope: Scope): Promise<AnswerRules> {
  await rowsIn(tx, sql`select id from clients where id = ${scope.clientId} for update`);
  return (await loadSetting(tx)).client.openAnswers ?? PLAIN_ANSWER_RULES;
}

/** Says a piece of a link's pages otherwise, or takes that back (null). Gives what is wrong, or null. */
export async function saveLinkPiece(
  tx: Tx,
  scope: Scope,
  who: string,
  key: string,
  words: string | null,
  now: number,
): Promise<string | null> {
  const name = readKey(key);
  if (!name?.place.startsWith("page/") || name.place === "page/picture" || name.serviceId !== null)
    return "This passage doesn’t exist.";
  const before = await lockAnswerRules(tx, scope);
  const changed = await changedPiece(tx, asPlanRules(before), key, words);
  if ("wrong" in changed) return changed.wrong;
  await changeClient(tx, scope, { openAnswers: { ...before, words: wordsOf(changed.rules) } });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "words",
    details: { name: key },
  });
  return null;
}
