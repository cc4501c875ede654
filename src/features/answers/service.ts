import { and, eq, sql } from "drizzle-orm";
import { type OpenedDoors, openDoors } from "@/core/answers/doors";
import { now as clockNow } from "@/platform/clock";
import { type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { type AskContext, askByToken, asks, loadContexts, stopAsks, wordingFacts } from "../asks";
import { type Listing, loadSetting, type Setting } from "../clients";
import { openConcern } from "../concerns";
import { messages } from "../messages";
import { people } from "../people";
import { answers, sitesFollowed } from "./tables";

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
};

/**
 * Looks up a customer's link; null when it leads nowhere. `openedStep` notes that the page behind that message was
 * opened, which stops nothing: a mail scanner may have been there.
 */
export async function viewAnswer(token: string, openedStep: number | null = null): Promise<AnswerView | null> {
  return withAsk(token, async (tx, scope, askId) => {
    if (openedStep !== null) {
      const at = new Date(await clockNow()).toISOString();
      await tx
        .update(messages)
        .set({ followedAt: sql`coalesce(${messages.followedAt}, ${at})` })
        .where(and(eq(messages.clientId, scope.clientId), eq(messages.askId, askId), eq(messages.step, openedStep)));
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
  const followed = await tx.select({ id: sitesFollowed.listingId }).from(sitesFollowed).where(eq(sitesFollowed.askId, askId));
  const { mode, threshold } = context.plan.rules.doors;
  const sites = setting.listings.filter((listing) => listing.branchId === context.ask.branchId);
  return {
    token,
    setting,
    context,
    facts: wordingFacts(context, setting, await clockNow()),
    answer: answer ?? null,
    followed: followed.map(({ id }) => id),
    doors: answer?.rating ? openDoors(mode, threshold, answer.rating, sites) : null,
  };
}

async function markAnswered(tx: Tx, scope: Scope, askId: string, personId: string, now: number): Promise<void> {
  await tx
    .update(asks)
    .set({ answeredAt: sql`coalesce(${asks.answeredAt}, ${new Date(now).toISOString()})` })
    .where(eq(asks.id, askId));
  await tx.update(people).set({ lastAnsweredAt: now }).where(eq(people.id, personId));
  await stopAsks(tx, scope, [askId], "answered", now);
}

/** Keeps a rating and stops the ask. Giving it again changes it; a double tap counts once. */
export async function rate(token: string, rating: number): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const now = await clockNow();
    const [context] = await loadContexts(tx, scope, [askId], true);
    await tx
      .insert(answers)
      .values({ clientId: scope.clientId, askId, personId: context.ask.personId, branchId: context.ask.branchId, rating, givenAt: now })
      .onConflictDoUpdate({ target: answers.askId, set: { rating } });
    await markAnswered(tx, scope, askId, context.ask.personId, now);
    return true;
  });
  return done ?? false;
}

/** Keeps private words. Those of an unhappy customer become a concern. */
export async function leaveWords(token: string, words: string): Promise<boolean> {
  const done = await withAsk(token, async (tx, scope, askId) => {
    const now = await clockNow();
    const [context] = await loadContexts(tx, scope, [askId], true);
    const { ask, plan } = context;
    const [answer] = await tx
      .insert(answers)
      .values({ clientId: scope.clientId, askId, personId: ask.personId, branchId: ask.branchId, words, givenAt: now, wordsAt: now })
      .onConflictDoUpdate({ target: answers.askId, set: { words, wordsAt: now } })
      .returning();
    await markAnswered(tx, scope, askId, ask.personId, now);
    if (answer.rating === null || answer.rating <= plan.rules.doors.threshold) {
      await openConcern(tx, scope, { answerId: answer.id, personId: ask.personId, visitId: ask.visitId, branchId: ask.branchId, rating: answer.rating, words }, now);
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
    if (!listing) return null;
    const now = await clockNow();
    await loadContexts(tx, scope, [askId], true);
    await tx.insert(sitesFollowed).values({ clientId: scope.clientId, askId, listingId, at: now }).onConflictDoNothing();
    await tx
      .update(asks)
      .set({ siteFollowedAt: sql`coalesce(${asks.siteFollowedAt}, ${new Date(now).toISOString()})` })
      .where(eq(asks.id, askId));
    await stopAsks(tx, scope, [askId], "followed a site", now);
    return listing.url;
  });
}
