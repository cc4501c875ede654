import { and, asc, desc, eq, gt, inArray, isNotNull, isNull, ne, or, type SQL, sql } from "drizzle-orm";
import { type AnswerOrigin, type AnswerRules, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { changeOf, type Given, type Typed } from "@/core/answers/change";
import { doubtAfter } from "@/core/answers/doubt";
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
import { earlierThan, type PageKey } from "@/platform/pageKey";
import { answers } from "@/schema/answers";
import { branches } from "@/schema/clients";
import { standingLinks } from "@/schema/standingLinks";
import { tellOfNote } from "./notes";
import { draftOf, saidIn, setAnswer } from "./service";
import { type Answer, hasWritten, judged } from "./view";

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
      ratings: it.rating === null ? [] : [{ rating: it.rating, at: now }],
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
  const { personId, branchId, rating, isDoubtful } = answer;
  const isUnhappy = rating === null || judged(rules.more, answer) <= rules.doors.threshold;
  const isWanted = hasWritten(answer) && !isDoubtful && isUnhappy;
  const said = { ...saidIn(answer, now), personId, visitId: null, branchId };
  await tellOfNote(tx, scope, answer, await openConcern(tx, scope, said, now, isWanted), now);
}

/** Keeps what someone is typing at their open answer. */
export async function keepOpenDraft(
  tx: Tx,
  scope: Scope,
  before: Answer,
  typed: Typed,
  mayShow?: boolean,
): Promise<void> {
  const { more } = openAnswerRules(await loadSetting(tx));
  await setAnswer(tx, scope, before, draftOf(before, typed, mayShow, more, await clockNow()));
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
  change: Given & {
    personId?: string;
    replyTo?: string;
    isDoubtful?: boolean | null;
    language?: AnyLanguage | null;
  },
  typed: Typed = {},
): Promise<Answer> {
  const now = await clockNow();
  const isDoubtful = doubtAfter(before.isDoubtful, change.isDoubtful ?? before.isDoubtful);
  const rules = openAnswerRules(await loadSetting(tx));
  const after = await setAnswer(tx, scope, before, {
    ...(changeOf(before, change, typed, rules.more ?? NOTHING_MORE, now) as Partial<Answer>),
    ...(change.personId ? { personId: change.personId } : {}),
    ...(change.replyTo ? { replyTo: change.replyTo } : {}),
    ...(change.language ? { language: change.language } : {}),
    isDoubtful,
  });
  const isKnownNow = before.isDoubtful && !isDoubtful && after.rating !== null;
  if (isKnownNow || (change.rating !== undefined && change.rating !== before.rating))
    await recordEvents(tx, scope, [
      {
        kind: "answered",
        source: isDoubtful ? "machine" : "person",
        at: now,
        askId: null,
        rating: after.rating ?? undefined,
      },
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

/** What was written in answers that look automated, and that nobody has decided about. */
const looksAutomated = (scope: Scope) =>
  and(
    eq(answers.clientId, scope.clientId),
    eq(answers.isDoubtful, true),
    isNull(answers.doubtSettledAt),
    or(ne(sql`coalesce(${answers.words}, '')`, ""), ne(sql`${answers.more}::text`, "{}")),
  );

/** How many such answers there are. */
export const automatedCount = (scope: Scope): SQL<{ count: number }> =>
  sql`select count(*)::int as count from ${answers} where ${looksAutomated(scope)}`;

/** How many of them one page shows. */
export const AUTOMATED_PAGE = 50;

export type AutomatedAnswer = Pick<Answer, "id" | "rating" | "scale" | "words" | "more" | "givenAt"> & {
  branch: string;
  link: string | null;
};

/** The latest of them, from the one before `before` on; one more than a page where there are more. */
export function listAutomated(tx: Tx, scope: Scope, before: PageKey | null): Promise<AutomatedAnswer[]> {
  return tx
    .select({
      id: answers.id,
      rating: answers.rating,
      scale: answers.scale,
      words: answers.words,
      more: answers.more,
      givenAt: answers.givenAt,
      branch: branches.name,
      link: standingLinks.name,
    })
    .from(answers)
    .innerJoin(branches, eq(branches.id, answers.branchId))
    .leftJoin(standingLinks, eq(standingLinks.id, answers.standingLinkId))
    .where(and(looksAutomated(scope), before ? earlierThan(answers.givenAt, answers.id, before) : undefined))
    .orderBy(desc(answers.givenAt), desc(answers.id))
    .limit(AUTOMATED_PAGE + 1);
}

/**
 * Someone has read an answer that looked automated: a person's goes on as any other (an unhappy one becomes a concern),
 * a machine's is listed no more. False where there is none to decide about.
 */
export async function settleAutomated(tx: Tx, scope: Scope, id: string, isPerson: boolean): Promise<boolean> {
  const [found] = await tx
    .select()
    .from(answers)
    .where(and(looksAutomated(scope), eq(answers.id, id)))
    .for("update");
  if (!found) return false;
  await tx
    .update(answers)
    .set({ doubtSettledAt: await clockNow() })
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.id, id)));
  if (isPerson) await changeOpenAnswer(tx, scope, found, { isDoubtful: false });
  return true;
}
