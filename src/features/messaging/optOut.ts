import { eq } from "drizzle-orm";
import { askByToken, openAsksOf, pauseIfRejected, recordEvents, stopAsks, writtenTo } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { guardiansOf, setOptOut, wardsOf } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { withClient, workFor } from "@/platform/database";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";

/** Whom an opt-out link speaks of; null for a link that leads nowhere. */
export async function optOutOf(token: string): Promise<{ business: string; colour: string; done: boolean } | null> {
  const found = await askByToken(token);
  if (!found) return null;
  return withClient(workFor(found.clientId), async (tx) => {
    const { client } = await loadSetting(tx);
    const [row] = await tx
      .select({ at: people.emailOptedOutAt })
      .from(asks)
      .innerJoin(people, eq(people.id, asks.personId))
      .where(eq(asks.id, found.askId));
    return { business: client.name, colour: client.colour, done: row?.at !== null };
  });
}

/** Ends all emails to the person of this link and stops what is under way. Doing it twice does no harm. */
export async function optOutByLink(token: string): Promise<boolean> {
  const found = await askByToken(token);
  if (!found) return false;
  const scope = workFor(found.clientId);
  return withClient(scope, async (tx) => {
    const now = await clockNow();
    const [ask] = await tx.select().from(asks).where(eq(asks.id, found.askId));
    const [person] = await tx.select().from(people).where(eq(people.id, ask.personId));
    const guardian = (await guardiansOf(tx, [person])).get(person.guardianId ?? "") ?? null;
    const to = writtenTo({ person, guardian }, await loadSetting(tx), now);
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
