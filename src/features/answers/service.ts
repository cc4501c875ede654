import { and, eq, sql } from "drizzle-orm";
import { type Change, changeOf, type Given, type Typed } from "@/core/answers/change";
import { goesOn } from "@/core/asks/nextStep";
import { readReplyAddress } from "@/core/contacts/replyAddress";
import { type MoreQuestions, NOTHING_MORE } from "@/core/plans/planRules";
import { webAddress } from "@/core/web/address";
import { type AnyLanguage, PSEUDO } from "@/core/words/languages";
import {
  type AskContext,
  type AskLink,
  languageFor,
  loadContexts,
  lockPersonOfAsk,
  noteFollowed,
  openAsksOf,
  planNext,
  recordEvents,
  reopenAsk,
  setAnswered,
  setSiteFollowed,
  stopAsks,
  writtenTo,
} from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { openConcern } from "@/features/concerns";
import { syncOwnReview } from "@/features/own-reviews";
import { recordAnswered, setName, setPageLanguage } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { type Scope, type Tx, withClient, workFor } from "@/platform/database";
import type { Visitor } from "@/platform/visitor";
import { answerPhotos } from "@/schema/answerPhotos";
import { answers, sitesFollowed } from "@/schema/answers";
import { tellOfNote } from "./notes";
import { type Answer, hasWritten, judged, loadView, withAsk } from "./view";

/** Notes that the page behind a message was opened, by a person or a machine, which stops nothing. */
export async function noteOpened({ clientId, askId }: AskLink, step: number, by: Visitor): Promise<void> {
  const scope = workFor(clientId);
  const now = await clockNow();
  await withClient(scope, (tx) => noteFollowed(tx, scope, askId, step, by, now));
}

/** The photo of an answer. */
export const photoWith = (scope: Scope, answerId: string) =>
  and(eq(answerPhotos.clientId, scope.clientId), eq(answerPhotos.answerId, answerId));

/**
 * Notes the answer and what follows from it. Most asks stop here. Where the plan asked how it went first, the happy go
 * on to its second part, also when the messages that asked were used up.
 */
async function markAnswered(tx: Tx, scope: Scope, context: AskContext, answer: Answer, now: number): Promise<void> {
  const { ask, plan } = context;
  const { rating, recommend } = answer;
  const doorsGoBy = judged(plan.rules.more, answer);
  const mayGoOn = (ask.stop === null || ask.stop === "answered") && ask.reviewedAt === null;
  const stops = !mayGoOn || !goesOn(plan.rules, ask.done, doorsGoBy);
  await setAnswered(tx, scope, ask, { rating, judged: doorsGoBy, recommend }, stops, now);
  if (stops) return;
  // Somebody else's ask may have begun meanwhile: a person has one at a time.
  const others = (await openAsksOf(tx, scope, [ask.personId])).filter(({ id }) => id !== ask.id);
  if (others.length > 0) return;
  await reopenAsk(tx, scope, ask.id);
  const [again] = await loadContexts(tx, scope, [ask.id], true);
  await planNext(tx, scope, await loadSetting(tx), [again], now);
}

/** The ask with its person and plan, locked in the one order: people, asks, messages. */
export async function lockedContext(tx: Tx, scope: Scope, askId: string): Promise<AskContext> {
  await lockPersonOfAsk(tx, scope, askId);
  const [context] = await loadContexts(tx, scope, [askId], true);
  return context;
}

/**
 * Keeps what the customer says at their link, stops the ask or lets it go on, and opens a concern where unhappy words
 * are among it. Said again it changes; a double tap counts once. False where the link leads nowhere.
 */
export async function keepAnswer(
  token: string,
  given: Given,
  language: AnyLanguage | null,
  typed: Typed = {},
): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const now = await clockNow();
    const context = await lockedContext(tx, scope, askId);
    const { ask, plan, person, guardian } = context;
    const { rules } = plan;
    const before = await findAnswer(tx, scope, askId);
    const change = changeOf(before, given, typed, rules.more ?? NOTHING_MORE, now);
    const reads = language && language !== PSEUDO ? { language } : {};
    const answer = before
      ? await setAnswer(tx, scope, before, { ...change, ...reads })
      : (
          await tx
            .insert(answers)
            .values({
              ...(change as Partial<Answer>),
              ...reads,
              clientId: scope.clientId,
              askId,
              personId: ask.personId,
              branchId: ask.branchId,
              scale: rules.question,
              givenAt: now,
            })
            .returning()
        )[0];
    const setting = await loadSetting(tx);
    const to = writtenTo({ person, guardian }, setting, now);
    const inLanguage = language && language !== PSEUDO && language !== to.pageLanguage ? language : null;
    if (inLanguage && to.id !== person.id) await setPageLanguage(tx, scope, to.id, inLanguage);
    await recordAnswered(tx, scope, person.id, now, answer.recommend, to.id === person.id ? inLanguage : null);
    await markAnswered(tx, scope, context, answer, now);
    const isConcern = await concernOf(tx, scope, context, answer, given, now, before === null);
    await tellOfNote(tx, scope, answer, isConcern, now);
    // Without their leave, before and now, nothing of it stands on the page.
    if (before?.mayShowAt || answer.mayShowAt !== null)
      await syncOwnReview(tx, scope, answer, to, languageFor(to, setting), now);
    return true;
  });
  return done ?? false;
}

export async function findAnswer(tx: Tx, scope: Scope, askId: string): Promise<Answer | null> {
  const [answer] = await tx
    .select()
    .from(answers)
    .where(and(eq(answers.clientId, sql.placeholder("clientId")), eq(answers.askId, sql.placeholder("askId"))))
    .prepare("answer_of_ask")
    .execute({ clientId: scope.clientId, askId });
  return answer ?? null;
}

/**
 * Unhappy words become a concern; where the plan asked how it went first, an unhappy rating does without words. One that
 * there is already goes by the rating and the words as they are now.
 */
async function concernOf(
  tx: Tx,
  scope: Scope,
  { ask, plan: { rules } }: AskContext,
  answer: Answer,
  given: Given,
  now: number,
  isNew: boolean,
): Promise<boolean> {
  const { threshold } = rules.doors;
  const isUnhappy = answer.rating === null || judged(rules.more, answer) <= threshold;
  const handsOver = rules.style === "how it went first" && given.rating !== undefined && given.rating <= threshold;
  const { personId, visitId, branchId } = ask;
  const isWanted = handsOver || (isUnhappy && hasWritten(answer));
  if (isNew && !isWanted) return false;
  return openConcern(tx, scope, { ...saidIn(answer, now), personId, visitId, branchId }, now, isWanted);
}

/** What of an answer a concern goes by. */
export const saidIn = (answer: Answer, now: number) => ({
  answerId: answer.id,
  rating: answer.rating,
  words: answer.words ?? "",
  written: [answer.words ?? "", ...Object.values(answer.more)].filter(Boolean).join("\n"),
  isNewInWriting: answer.wordsAt === now,
});

/**
 * Keeps what someone is typing, so that it is in the fields again when they come back. It answers nothing; whether they
 * agree that their words are shown is kept with it until there are words.
 */
export async function keepDraft(token: string, typed: Typed, mayShow?: boolean): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const { plan } = await lockedContext(tx, scope, askId);
    const before = await findAnswer(tx, scope, askId);
    if (before) await setAnswer(tx, scope, before, draftOf(before, typed, mayShow, plan.rules.more, await clockNow()));
    return true;
  });
  return done ?? false;
}

/** What of an answer a draft changes. */
export const draftOf = (
  before: Answer,
  typed: Typed,
  mayShow: boolean | undefined,
  asked: MoreQuestions | null | undefined,
  now: number,
) => changeOf(before, before.words || mayShow === undefined ? {} : { mayShow }, typed, asked ?? NOTHING_MORE, now);

/** Writes a change to an answer, and gives the answer after it; none is no statement. */
export async function setAnswer(
  tx: Tx,
  scope: Scope,
  before: Answer,
  change: Change | Partial<Answer>,
): Promise<Answer> {
  if (Object.keys(change).length === 0) return before;
  const [after] = await tx
    .update(answers)
    .set(change as Partial<Answer>)
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.id, before.id)))
    .returning();
  return after;
}

/** Keeps the address they give for an answer to what they wrote; false for one that nobody can write to. */
export async function keepReplyTo(token: string, typed: string): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const { client } = await loadSetting(tx);
    const replyTo = readReplyAddress(typed, client.country);
    await lockedContext(tx, scope, askId);
    const before = await findAnswer(tx, scope, askId);
    if (replyTo && before) await setAnswer(tx, scope, before, { replyTo });
    return replyTo !== null;
  });
  return done ?? false;
}

/** Takes their words off the business's own page. */
export async function withdrawWords(token: string): Promise<boolean> {
  return keepAnswer(token, { mayShow: false }, null);
}

/** Their name, as whoever has the link may see and mend it; null for a link that leads nowhere. */
export async function nameBehind(token: string): Promise<{ given: string; family: string } | null> {
  return withAsk(token, async (tx, scope, askId) => {
    const [context] = await loadContexts(tx, scope, [askId]);
    if (!context) return null;
    const { given, family } = writtenTo(context, await loadSetting(tx), await clockNow());
    return { given, family };
  });
}

/** Writes their name as they say it is written. */
export async function mendName(token: string, name: { given: string; family: string }): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const context = await lockedContext(tx, scope, askId);
    await setName(tx, scope, writtenTo(context, await loadSetting(tx), await clockNow()).id, name);
    return true;
  });
  return done ?? false;
}

/** Notes that the customer goes to a listing and gives its address; null when this page does not offer it. */
export async function followSite(token: string, listingId: string): Promise<string | null> {
  return withAsk(token, async (tx, scope, askId) => {
    const view = await loadView(tx, token, askId);
    const listing = view?.doors?.sites.find(({ id }) => id === listingId);
    // What cannot be opened keeps nobody here, and ends nothing.
    const address = listing && webAddress(listing.url);
    if (!address) return null;
    const now = await clockNow();
    await loadContexts(tx, scope, [askId], true);
    const fresh = await tx
      .insert(sitesFollowed)
      .values({ clientId: scope.clientId, askId, listingId, at: now })
      .onConflictDoNothing()
      .returning({ listingId: sitesFollowed.listingId });
    await recordEvents(
      tx,
      scope,
      fresh.map((row) => ({ kind: "site opened" as const, source: "person" as const, at: now, askId, ...row })),
    );
    await setSiteFollowed(tx, scope, askId, now);
    await stopAsks(tx, scope, [askId], "followed a site", now);
    return address;
  });
}
