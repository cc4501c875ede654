import { and, eq } from "drizzle-orm";
import { type AnswerOrigin, type AnswerRules, PLAIN_ANSWER_RULES } from "@/core/answers/answerRules";
import { type OpenedDoors, openDoors } from "@/core/answers/doors";
import { goesOn } from "@/core/asks/nextStep";
import { webAddress } from "@/core/web/address";
import {
  type AskContext,
  askByToken,
  loadContexts,
  offeredListings,
  openAsksOf,
  planNext,
  recordEvents,
  recordMessageEvents,
  reopenAsk,
  reviewedSites,
  setAnswered,
  setMessageFollowed,
  setOpened,
  setSiteFollowed,
  stopAsks,
  wordingFacts,
} from "@/features/asks";
import { type Listing, loadSetting, type Setting } from "@/features/clients";
import { openConcern } from "@/features/concerns";
import { lockPeopleRows, recordAnswered } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { answers, sitesFollowed } from "@/schema/answers";
import { asks } from "@/schema/asks";

export type Answer = typeof answers.$inferSelect;

/** Everything the answer page shows. */
export type AnswerView = {
  token: string;
  setting: Setting;
  context: AskContext;
  facts: ReturnType<typeof wordingFacts>;
  answer: Answer | null;
  followed: string[];
  doors: OpenedDoors<Listing> | null;
  /** They are happy, and the plan asks them for a review in a few days and not now. */
  waitsForReview: boolean;
};

/**
 * Looks up a customer's link; null when it leads nowhere. `openedStep` notes that the page behind that message was
 * opened, which stops nothing: a mail scanner may have been there.
 */
export async function viewAnswer(token: string, openedStep: number | null = null): Promise<AnswerView | null> {
  return withAsk(token, async (tx, scope, askId) => {
    if (openedStep !== null) {
      const at = await clockNow();
      await setOpened(tx, scope, askId, at, true);
      const fresh = await setMessageFollowed(tx, scope, askId, openedStep, at);
      await recordMessageEvents(tx, scope, fresh, { kind: "followed", source: "unknown", at });
    }
    return loadView(tx, scope, token, askId);
  });
}

async function withAsk<T>(token: string, work: (tx: Tx, scope: Scope, askId: string) => Promise<T>): Promise<T | null> {
  const found = await askByToken(token);
  if (!found) return null;
  const scope = workFor(found.clientId);
  return withClient(scope, (tx) => work(tx, scope, found.askId));
}

async function loadView(tx: Tx, scope: Scope, token: string, askId: string): Promise<AnswerView | null> {
  const [context] = await loadContexts(tx, scope, [askId]);
  if (!context) return null;
  const setting = await loadSetting(tx);
  const [answer] = await tx
    .select()
    .from(answers)
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.askId, askId)));
  const followed = await tx
    .select({ id: sitesFollowed.listingId })
    .from(sitesFollowed)
    .where(eq(sitesFollowed.askId, askId));
  const { plan, ask } = context;
  const { mode, threshold } = plan.rules.doors;
  const reviewed = (await reviewedSites(tx, scope, [ask.personId])).get(ask.personId) ?? [];
  const sites = offeredListings(setting, plan, ask.branchId, ask.firstSite, reviewed);
  return {
    token,
    setting,
    context,
    facts: wordingFacts(context, setting, await clockNow()),
    answer: answer ?? null,
    followed: followed.map(({ id }) => id),
    doors: answer?.rating ? openDoors(mode, threshold, answer.rating, sites, plan.rules.sites.most) : null,
    waitsForReview: answer?.rating ? ask.stop === null && goesOn(plan.rules, ask.done, answer.rating) : false,
  };
}

/**
 * Notes the answer and what follows from it. Most asks stop here. Where the plan asked how it went first, the happy go
 * on to its second part, also when the messages that asked were used up.
 */
async function markAnswered(
  tx: Tx,
  scope: Scope,
  context: AskContext,
  rating: number | null,
  now: number,
): Promise<void> {
  const { ask, plan } = context;
  if (ask.answeredAt === null || (rating !== null && rating !== ask.answerRating))
    await recordEvents(tx, scope, [{ kind: "answered", source: "person", at: now, askId: ask.id, rating }]);
  await setAnswered(tx, scope, ask.id, ask.answeredAt ?? now, rating);
  await recordAnswered(tx, scope, ask.personId, now);
  const mayGoOn = (ask.stop === null || ask.stop === "answered") && ask.reviewedAt === null;
  if (!mayGoOn || !goesOn(plan.rules, ask.done, rating ?? ask.answerRating ?? 0)) {
    await stopAsks(tx, scope, [ask.id], "answered", now);
    return;
  }
  // Somebody else's ask may have begun meanwhile: a person has one at a time.
  const others = (await openAsksOf(tx, scope, [ask.personId])).filter(({ id }) => id !== ask.id);
  if (others.length > 0) return;
  await reopenAsk(tx, scope, ask.id);
  const [again] = await loadContexts(tx, scope, [ask.id], true);
  await planNext(tx, scope, await loadSetting(tx), [again], now);
}

/** The ask with its person and plan, locked in the one order: people, asks, messages. */
async function lockedContext(tx: Tx, scope: Scope, askId: string): Promise<AskContext> {
  const [{ personId }] = await tx.select({ personId: asks.personId }).from(asks).where(eq(asks.id, askId));
  await lockPeopleRows(tx, scope, [personId]);
  const [context] = await loadContexts(tx, scope, [askId], true);
  return context;
}

/** Keeps a rating and stops the ask, or lets it go on. Giving it again changes it; a double tap counts once. */
export async function rate(token: string, rating: number): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const now = await clockNow();
    const context = await lockedContext(tx, scope, askId);
    const { ask, plan } = context;
    const [answer] = await tx
      .insert(answers)
      .values({
        clientId: scope.clientId,
        askId,
        personId: ask.personId,
        branchId: ask.branchId,
        rating,
        scale: plan.rules.question,
        givenAt: now,
      })
      .onConflictDoUpdate({ target: answers.askId, set: { rating } })
      .returning();
    await markAnswered(tx, scope, context, rating, now);
    // A plan that asked how it went first hands the unhappy over at once, with or without words.
    if (plan.rules.style === "how it went first" && rating <= plan.rules.doors.threshold)
      await openConcern(
        tx,
        scope,
        {
          answerId: answer.id,
          personId: ask.personId,
          visitId: ask.visitId,
          branchId: ask.branchId,
          rating,
          words: answer.words ?? "",
        },
        now,
      );
    return true;
  });
  return done ?? false;
}

/** Keeps private words. Those of an unhappy customer become a concern. */
export async function leaveWords(token: string, words: string): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const now = await clockNow();
    const context = await lockedContext(tx, scope, askId);
    const { ask, plan } = context;
    const [answer] = await tx
      .insert(answers)
      .values({
        clientId: scope.clientId,
        askId,
        personId: ask.personId,
        branchId: ask.branchId,
        words,
        givenAt: now,
        wordsAt: now,
      })
      .onConflictDoUpdate({ target: answers.askId, set: { words, wordsAt: now } })
      .returning();
    await markAnswered(tx, scope, context, null, now);
    if (answer.rating === null || answer.rating <= plan.rules.doors.threshold) {
      await openConcern(
        tx,
        scope,
        {
          answerId: answer.id,
          personId: ask.personId,
          visitId: ask.visitId,
          branchId: ask.branchId,
          rating: answer.rating,
          words,
        },
        now,
      );
    }
    return true;
  });
  return done ?? false;
}

/** Notes that the customer goes to a listing and gives its address; null when this page does not offer it. */
export async function followSite(token: string, listingId: string): Promise<string | null> {
  return withAsk(token, async (tx, scope, askId) => {
    const view = await loadView(tx, scope, token, askId);
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
    { kind: "answered", source: "person", at: now, askId: null, rating: it.rating ?? undefined },
  ]);
  if (it.personId) await recordAnswered(tx, scope, it.personId, now);
  if (it.words && (it.rating === null || it.rating <= rules.doors.threshold))
    await openConcern(
      tx,
      scope,
      {
        answerId: answer.id,
        personId: it.personId,
        visitId: null,
        branchId: it.branchId,
        rating: it.rating,
        words: it.words,
      },
      now,
    );
  return answer.id;
}
