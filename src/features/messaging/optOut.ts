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
import { guardiansOf, setOptOut, wardsOf } from "@/features/people";
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
      .select({ at: people.emailOptedOutAt, language: people.language, pageLanguage: people.pageLanguage })
      .from(asks)
      .innerJoin(people, eq(people.id, asks.personId))
      .where(eq(asks.id, found.askId));
    const { name: business, colour } = setting.client;
    const language = languageFor(row ?? { language: null, pageLanguage: null }, setting);
    return { business, colour, language, done: row?.at !== null };
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
    const out = [to, person].filter(({ emailOptedOutHow }) => emailOptedOutHow?.code === "link in an email");
    if (out.length === 0) return false;
    await setOptOut(tx, scope, [...new Set(out.map(({ id }) => id))], "email", null);
    return true;
  });
}

/** Ends all emails to the person of this link and stops what is under way. Doing it twice does no harm. */
export async function optOutByLink(token: string): Promise<boolean> {
  const found = await askByToken(token);
  if (!found) return false;
  const scope = workFor(found.clientId);
  return withClient(scope, async (tx) => {
    const now = await clockNow();
    const { ask, person, to } = await writtenToAt(tx, found.askId, now);
    const both = [...new Set([to.id, person.id])];
    await setOptOut(tx, scope, both, "email", { at: now, how: { code: "link in an email" } });
    if (person.emailOptedOutAt === null)
      await recordEvents(tx, scope, [
        { kind: "opted out", source: "person", at: now, askId: ask.id, channel: "email" },
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
