import { eq } from "drizzle-orm";
import type { AnyLanguage } from "@/core/words/languages";
import {
  askByToken,
  languageFor,
  noteOptOutSeen,
  openAsksOf,
  pauseIfRejected,
  recordEvents,
  stopAsks,
  writtenTo,
} from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { guardiansOf, type Person, setOptOut, wardsOf } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient, workFor } from "@/platform/database";
import type { Visitor } from "@/platform/visitor";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";

/** Whom an opt-out link speaks of; null for a link that leads nowhere. */
export async function optOutOf(token: string): Promise<{
  business: string;
  colour: string;
  language: AnyLanguage;
  done: boolean;
} | null> {
  const found = await askByToken(token);
  if (!found) return null;
  return withClient(workFor(found.clientId), async (tx) => {
    const setting = await loadSetting(tx);
    const [row] = await tx
      .select({
        emailOptedOutAt: people.emailOptedOutAt,
        textOptedOutAt: people.textOptedOutAt,
        language: people.language,
        pageLanguage: people.pageLanguage,
      })
      .from(asks)
      .innerJoin(people, eq(people.id, asks.personId))
      .where(eq(asks.id, found.askId));
    const { name: business, colour } = setting.client;
    const language = languageFor(row ?? { language: null, pageLanguage: null }, setting);
    const isOut = Boolean(row && (row.emailOptedOutAt ?? row.textOptedOutAt) !== null);
    return { business, colour, language, done: isOut };
  });
}

/** Whom an ask is about, and who is written to for them. */
async function writtenToAt(tx: Tx, askId: string, now: number) {
  const [ask] = await tx.select().from(asks).where(eq(asks.id, askId));
  const [person] = await tx.select().from(people).where(eq(people.id, ask.personId));
  const guardian = (await guardiansOf(tx, [person])).get(person.guardianId ?? "") ?? null;
  return { ask, person, to: writtenTo({ person, guardian }, await loadSetting(tx), now) };
}

/** Notes that the page of an opt-out link was looked at, which ends nothing. */
export async function lookAtOptOut(token: string, visitor: Visitor): Promise<void> {
  const found = await askByToken(token);
  if (!found) return;
  const scope = workFor(found.clientId);
  const now = await clockNow();
  await withClient(scope, (tx) => noteOptOutSeen(tx, scope, found.askId, visitor, now));
}

/**
 * Lets a person be written to again who opted out by this link and says that it was a mistake. What was stopped stays
 * so; the next visit is asked about as before.
 */
export async function optBackIn(token: string): Promise<boolean> {
  const found = await askByToken(token);
  if (!found) return false;
  const scope = workFor(found.clientId);
  return withClient(scope, async (tx) => {
    const now = await clockNow();
    const { person, to } = await writtenToAt(tx, found.askId, now);
    // Only what this very way took away: whoever opted out by another is asked there.
    let isBack = false;
    for (const channel of ["email", "text"] as const) {
      const out = [to, person].filter((one) => isByLink(one, channel));
      if (out.length === 0) continue;
      await setOptOut(tx, scope, [...new Set(out.map(({ id }) => id))], channel, null);
      isBack = true;
    }
    return isBack;
  });
}

/** Whether someone opted out of a channel by the link that every message leads to. */
export const isByLink = (person: Pick<Person, "emailOptedOutHow" | "textOptedOutHow">, channel: "email" | "text") =>
  (channel === "email" ? person.emailOptedOutHow : person.textOptedOutHow)?.code === "link in an email";

/** Ends all messages to the person of this link and stops what is under way. Doing it twice does no harm. */
export async function optOutByLink(token: string): Promise<boolean> {
  const found = await askByToken(token);
  if (!found) return false;
  const scope = workFor(found.clientId);
  return withClient(scope, async (tx) => {
    const now = await clockNow();
    const { ask, person, to } = await writtenToAt(tx, found.askId, now);
    const both = [...new Set([to.id, person.id])];
    // "No more messages" is said of every way by which they are written to.
    const ways = [...(to.email ? (["email"] as const) : []), ...(to.phone ? (["text"] as const) : [])];
    const isNews = person.emailOptedOutAt === null && person.textOptedOutAt === null;
    for (const channel of ways.length > 0 ? ways : (["email"] as const))
      if ((channel === "email" ? to.emailOptedOutAt : to.textOptedOutAt) === null)
        await setOptOut(tx, scope, both, channel, { at: now, how: { code: "link in an email" } });
    if (isNews)
      await recordEvents(tx, scope, [
        { kind: "opted out", source: "person", at: now, askId: ask.id, channel: ways[0] ?? "email" },
      ]);
    const open = await openAsksOf(tx, scope, [person.id, to.id, ...(await wardsOf(tx, scope, [to.id]))]);
    await stopAsks(
      tx,
      scope,
      open.map(({ id }) => id),
      "opted out",
      now,
    );
    await pauseIfRejected(tx, scope, [ask.planId], now);
    return true;
  });
}
