import { wishAgainst } from "@/core/asks/eligibility";
import { loadSetting, type Setting } from "@/features/clients";
import { wardsOf, wishesOf } from "@/features/people";
import type { Scope, Tx } from "@/platform/database";
import { type AskContext, loadContexts, openAsksOf, writtenTo } from "./contexts";
import { stopAsks } from "./schedule";

/** What people say of themselves after an ask about them, or about their ward, has begun. */

/** Whether the ask may not go on, because the person or the guardian who is written to does not want it. */
export function isUnwanted(context: AskContext, setting: Setting, now: number): boolean {
  const to = writtenTo(context, setting, now);
  const guardian = to.id === context.person.id ? null : wishesOf(to);
  const neverTags = setting.tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => name);
  return wishAgainst(wishesOf(context.person), guardian, neverTags, context.ask.byHand) !== null;
}

/**
 * Stops the open asks of these people, and of those whose guardians they are, that somebody no longer wants. Gives
 * how many.
 */
export async function stopUnwanted(tx: Tx, scope: Scope, personIds: readonly string[], now: number): Promise<number> {
  if (personIds.length === 0) return 0;
  const open = await openAsksOf(tx, scope, [...personIds, ...(await wardsOf(tx, scope, [...personIds]))]);
  if (open.length === 0) return 0;
  const setting = await loadSetting(tx);
  const contexts = await loadContexts(
    tx,
    scope,
    open.map(({ id }) => id),
    true,
  );
  const unwanted = contexts.filter((context) => isUnwanted(context, setting, now)).map(({ ask }) => ask.id);
  await stopAsks(tx, scope, unwanted, "not to be asked", now);
  return unwanted.length;
}
