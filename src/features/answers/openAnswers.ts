import { and, asc, eq, gt, inArray, isNotNull, isNull } from "drizzle-orm";
import { type AnswerOrigin, type AnswerRules, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { NOTHING_MORE } from "@/core/plans/planRules";
import { type AnyLanguage, firstLanguage } from "@/core/words/languages";
import { recordEvents } from "@/features/asks";
import { loadSetting, type Setting } from "@/features/clients";
import { openConcern, setConcernPerson } from "@/features/concerns";
import { syncOwnReview } from "@/features/own-reviews";
import { findPerson, recordAnswered } from "@/features/people";
import { lastOfBatch } from "@/platform/batch";
import { now as clockNow } from "@/platform/clock";
import type { Scope, Tx } from "@/platform/database";
import { answers } from "@/schema/answers";
import { changeOf, type Given } from "./service";
import { type Answer, judged } from "./view";

/** Answers that no ask began: from a standing link, a website or an unknown number. */

/** How a client takes answers that no ask began. */
export function openAnswerRules({ client }: Setting): AnswerRules {
  return client.openAnswers ?? PLAIN_ANSWER_RULES;
}

/**
 * Keeps an answer that no ask began: from a standing link, a website or an unknown number. Private words of an unhappy
 * one become a concern, as everywhere. Gives the answer's id.
 */
export async function keepOpenAnswer(
  tx: Tx,
  scope: Scope,
  it: {
    origin: Exclude<AnswerOrigin, "ask">;
    branchId: string;
    personId: string | null;
    rating: number | null;
    words: string | null;
    standingLinkId?: string | null;
    isDoubtful?: boolean;
    language?: AnyLanguage | null;
  },
): Promise<string> {
  const now = await clockNow();
  const rules = openAnswerRules(await loadSetting(tx));
  const [answer] = await tx
    .insert(answers)
    .values({
      ...it,
      clientId: scope.clientId,
      scale: rules.question,
      givenAt: now,
      wordsAt: it.words === null ? null : now,
    })
    .returning();
  await recordEvents(tx, scope, [
    {
      kind: "answered",
      source: it.isDoubtful ? "machine" : "person",
      at: now,
      askId: null,
      rating: it.rating ?? undefined,
    },
  ]);
  if (it.personId) await recordAnswered(tx, scope, it.personId, now);
  await openConcernOfOpen(tx, scope, answer, rules, now);
  return answer.id;
}

/** Private words of an unhappy customer whom no ask brought become a concern; those of a machine do not. */
async function openConcernOfOpen(tx: Tx, scope: Scope, answer: Answer, rules: AnswerRules, now: number): Promise<void> {
  const { id: answerId, personId, branchId, rating, words, isDoubtful } = answer;
  if (!words || isDoubtful || (rating !== null && judged(rules.more, answer) > rules.doors.threshold)) return;
  await openConcern(tx, scope, { answerId, personId, visitId: null, branchId, rating, words }, now);
}

/** An answer that no ask began, or null. */
export async function findOpenAnswer(tx: Tx, scope: Scope, id: string): Promise<Answer | null> {
  const [answer] = await tx
    .select()
    .from(answers)
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.id, id), isNull(answers.askId)));
  return answer ?? null;
}

/** Changes an answer that no ask began: another rating, words after it, who it was. */
export async function changeOpenAnswer(
  tx: Tx,
  scope: Scope,
  before: Answer,
  change: Given & { personId?: string; isDoubtful?: boolean; language?: AnyLanguage | null },
): Promise<Answer> {
  const now = await clockNow();
  const isDoubtful = before.isDoubtful || (change.isDoubtful ?? false);
  const rules = openAnswerRules(await loadSetting(tx));
  const [after] = await tx
    .update(answers)
    .set({
      ...changeOf(before, change, rules.more ?? NOTHING_MORE, now),
      ...(change.personId ? { personId: change.personId } : {}),
      ...(change.language ? { language: change.language } : {}),
      isDoubtful,
    })
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.id, before.id)))
    .returning();
  if (change.rating !== undefined && change.rating !== before.rating)
    await recordEvents(tx, scope, [
      { kind: "answered", source: isDoubtful ? "machine" : "person", at: now, askId: null, rating: change.rating },
    ]);
  await openConcernOfOpen(tx, scope, after, rules, now);
  if (change.personId) {
    await recordAnswered(tx, scope, change.personId, now, after.recommend);
    await setConcernPerson(tx, scope, after.id, change.personId);
  }
  const { client } = await loadSetting(tx);
  const writer = after.personId ? await findPerson(tx, scope, after.personId) : null;
  await syncOwnReview(tx, scope, after, writer, firstLanguage(after.language, client.language), now);
  return after;
}

/** Notes that the words of these answers were read for what they name. */
export async function markAnswersRead(tx: Tx, scope: Scope, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await tx
    .update(answers)
    .set({ isUnread: false })
    .where(and(eq(answers.clientId, scope.clientId), inArray(answers.id, [...ids])));
}

/**
 * Has the words of so many answers read again, from the one after `after` on; gives the last of them, or null where
 * there are no more.
 */
export async function readAnswersAnew(
  tx: Tx,
  scope: Scope,
  after: string | null,
  most: number,
): Promise<string | null> {
  const some = tx
    .select({ id: answers.id })
    .from(answers)
    .where(
      and(eq(answers.clientId, scope.clientId), isNotNull(answers.words), after ? gt(answers.id, after) : undefined),
    )
    .orderBy(asc(answers.id))
    .limit(most);
  const rows = await tx
    .update(answers)
    .set({ isUnread: true })
    .where(inArray(answers.id, some))
    .returning({ id: answers.id });
  return lastOfBatch(rows, most);
}
