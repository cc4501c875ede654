import { eq, sql } from "drizzle-orm";
import type { MessageReason } from "@/core/asks/messageReasons";
import { normaliseEmail } from "@/core/contacts/email";
import { readWish } from "@/core/words/stopWords";
import { openAsksOf, pauseIfRejected, recordEvents, stopAsks } from "@/features/asks";
import { openConcernOf } from "@/features/concerns";
import { type Person, peopleWithPhone, setOptOut, wardsOf } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { sameSecret, tagFor } from "@/platform/secrets";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { clientOfMessage } from "./receipts";

/** Texts and mails from customers. */

export async function receiveText(text: { id: string; from: string; to: string; body: string }): Promise<boolean> {
  const [row] = await rowsOf<{ client: string | null }>(sql`select estima_client_by_text_number(${text.to}) as client`);
  if (!row?.client) return false;
  const scope = workFor(row.client);
  return withClient(scope, async (tx) => {
    const persons = await peopleWithPhone(tx, scope, text.from);
    const now = await clockNow();
    const wish = readWish(text.body);
    const kept = await keepIncoming(
      tx,
      scope,
      persons,
      {
        channel: "text",
        gatewayId: text.id,
        address: text.from,
        subject: null,
        body: text.body,
        reason: wish === "stop" ? { code: "wants no texts" } : null,
      },
      now,
    );
    if (!kept || persons.length === 0) return true;
    const ids = persons.map(({ id }) => id);
    if (wish)
      await setOptOut(
        tx,
        scope,
        ids,
        "text",
        wish === "stop" ? { at: now, how: { code: "wrote back", word: text.body.trim().slice(0, 40) } } : null,
      );
    const open = await openAsksOf(tx, scope, [...ids, ...(await wardsOf(tx, scope, ids))]);
    if (wish === "stop" && persons.some(({ textOptedOutAt }) => textOptedOutAt === null))
      await recordEvents(tx, scope, [
        { kind: "opted out", source: "person", at: now, askId: open[0]?.id ?? null, channel: "text" },
      ]);
    if (wish !== "start")
      await stopAsks(
        tx,
        scope,
        open.map(({ id }) => id),
        wish === "stop" ? "opted out" : "wrote back",
        now,
      );
    if (wish === "stop")
      await pauseIfRejected(
        tx,
        scope,
        open.map(({ planId }) => planId),
        now,
      );
    return true;
  });
}

export async function receiveMail(mail: {
  id: string;
  from: string;
  to: string;
  subject: string;
  text: string;
}): Promise<boolean> {
  const match = /\+([0-9a-f-]{36})\.([a-z0-9_-]{16})@/i.exec(mail.to);
  if (!match || !sameSecret(match[2].toLowerCase(), tagFor("reply", match[1].toLowerCase()).toLowerCase()))
    return false;
  const scope = await clientOfMessage(match[1]);
  if (!scope) return false;
  return withClient(scope, async (tx) => {
    const [answered] = await tx.select().from(messages).where(eq(messages.id, match[1]));
    const [person] = answered?.personId ? await tx.select().from(people).where(eq(people.id, answered.personId)) : [];
    if (!person) return false;
    const now = await clockNow();
    const address = normaliseEmail(mail.from) ?? mail.from.slice(0, 254);
    const kept = await keepIncoming(
      tx,
      scope,
      [person],
      { channel: "email", gatewayId: mail.id, address, subject: mail.subject, body: mail.text, reason: null },
      now,
      answered.concernId,
    );
    if (!kept) return true;
    const open = await openAsksOf(tx, scope, [person.id]);
    await stopAsks(
      tx,
      scope,
      open.map(({ id }) => id),
      "wrote back",
      now,
    );
    return true;
  });
}

/**
 * Keeps what a customer wrote, once, beside the concern it belongs to; of nobody where no person has the number. False
 * when it was there already.
 */
async function keepIncoming(
  tx: Tx,
  scope: Scope,
  persons: Person[],
  it: {
    channel: "text" | "email";
    gatewayId: string;
    address: string;
    subject: string | null;
    body: string;
    reason: MessageReason | null;
  },
  now: number,
  knownConcern: string | null = null,
): Promise<boolean> {
  const concern = knownConcern
    ? { id: knownConcern, personId: persons[0].id }
    : persons.length > 0
      ? await openConcernOf(
          tx,
          scope,
          persons.map(({ id }) => id),
        )
      : null;
  const kept = await tx
    .insert(messages)
    .values({
      ...it,
      clientId: scope.clientId,
      personId: concern?.personId ?? persons[0]?.id ?? null,
      concernId: concern?.id ?? null,
      direction: "in",
      state: "received",
      dueAt: now,
      sentAt: now,
      createdAt: now,
    })
    .onConflictDoNothing()
    .returning({ id: messages.id });
  return kept.length > 0;
}
