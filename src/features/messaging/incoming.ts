import { and, desc, eq, sql } from "drizzle-orm";
import type { MessageReason } from "@/core/asks/messageReasons";
import { normaliseEmail } from "@/core/contacts/email";
import { readKeyword } from "@/core/conversations/keywords";
import { readStopWish } from "@/core/conversations/stopWishes";
import { openAsksOf, pauseIfRejected, recordEvents, stopAsks } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting } from "@/features/clients";
import { openConcernOf } from "@/features/concerns";
import {
  type Conversation,
  confirmWish,
  type IncomingText,
  noteIncoming,
  openConversation,
  type Refusal,
  routeIncoming,
  sayAwayWord,
  sayHelp,
  setStopped,
  takeStopDoubt,
} from "@/features/conversations";
import { type Person, peopleWithEmail, peopleWithPhone, setOptOut, wardsOf } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { sameSecret, tagFor } from "@/platform/secrets";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { keepPictures } from "./messagePictures";
import { isByLink } from "./optOut";
import { clientOfMessage } from "./receipts";

/** Texts and mails from customers: each is kept once, stops what it answers, and waits for somebody to answer it. */

/** A text, for the client whose it is. False for a number that no client has. */
export async function receiveText(text: IncomingText): Promise<boolean> {
  const routed = await routeIncoming(text, await clockNow());
  if (!routed) return false;
  for (const { clientId, texts } of routed.to) for (const each of texts) await receiveTextAt(clientId, each);
  await routed.done();
  return true;
}

/** A text to one client. */
export async function receiveTextAt(clientId: string, text: IncomingText): Promise<void> {
  const scope = workFor(clientId);
  await withClient(scope, async (tx) => {
    const now = await clockNow();
    const persons = await peopleWithPhone(tx, scope, text.from);
    const keyword = readKeyword(text.body);
    const wish = keyword?.keyword ?? null;
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
        reason: wish === null ? null : REASONS[wish],
        pictures: text.pictures,
        waits: wish === null,
      },
      text.cameAt ?? now,
    );
    if (!kept) return;
    const setting = await loadSetting(tx);
    const said = { ...kept, language: keyword?.language ?? null, subject: null };
    if (wish === "help") await sayHelp(tx, scope, setting, said, now);
    else if (wish === null) await sayAwayWord(tx, scope, setting, said, now);
    else {
      const isNews =
        persons.length === 0
          ? (kept.conversation.stoppedAt === null) === (wish === "stop")
          : persons.some(({ textOptedOutAt }) => (textOptedOutAt === null) === (wish === "stop"));
      if (persons.length === 0) await setStopped(tx, scope, kept.conversation.id, wish === "stop" ? now : null);
      // Said once: two machines would confirm one another for ever.
      if (isNews) await confirmWish(tx, scope, setting, said, wish === "stop" ? "stopped" : "started", now);
    }
    if (wish !== "help" && persons.length > 0) await heed(tx, scope, persons, wish, text.body, now);
  });
}

const REASONS = {
  stop: { code: "wants no texts" },
  start: { code: "wants texts again" },
  help: { code: "asks for help" },
} as const;

/** Does what a text of theirs means for the people of its number: opting out or in, and the end of what is under way. */
async function heed(
  tx: Tx,
  scope: Scope,
  persons: Person[],
  wish: "stop" | "start" | null,
  words: string,
  now: number,
): Promise<void> {
  const ids = persons.map(({ id }) => id);
  if (wish)
    await setOptOut(
      tx,
      scope,
      ids,
      "text",
      wish === "stop" ? { at: now, how: { code: "wrote back", word: words.trim().slice(0, 40) } } : null,
    );
  // The link had ended every message: whoever wants texts again has changed their mind about all of them.
  const linked = wish === "start" ? persons.filter((one) => isByLink(one, "email")) : [];
  if (linked.length > 0)
    await setOptOut(
      tx,
      scope,
      linked.map(({ id }) => id),
      "email",
      null,
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
}

/**
 * Someone of the team says whether the writer of a conversation wants no more messages: then they are opted out, what is
 * under way ends, and by text it is confirmed once; else everything goes on. Gives why not.
 */
export async function settleStopWish(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  stops: boolean,
  now: number,
): Promise<Refusal | null> {
  const conversation = await takeStopDoubt(tx, scope, id, stops);
  if ("refused" in conversation) return conversation;
  const { channel, address, personId } = conversation;
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: stops ? "stopped messages" : "kept messages",
    subject: "conversation",
    subjectId: id,
  });
  if (!stops) return null;
  const persons = personId ? await tx.select().from(people).where(eq(people.id, personId)) : [];
  const [last] = await tx
    .select({ id: messages.id, body: messages.body })
    .from(messages)
    .where(and(eq(messages.clientId, scope.clientId), eq(messages.conversationId, id), eq(messages.direction, "in")))
    .orderBy(desc(messages.createdAt), desc(messages.id))
    .limit(1);
  const ids = persons.map((person) => person.id);
  if (ids.length > 0)
    await setOptOut(tx, scope, ids, channel, {
      at: now,
      how: { code: "wrote back", word: (last?.body ?? "").trim().slice(0, 40) },
    });
  else if (channel === "text") await setStopped(tx, scope, id, now);
  const open = await openAsksOf(tx, scope, [...ids, ...(await wardsOf(tx, scope, ids))]);
  await recordEvents(tx, scope, [{ kind: "opted out", source: "staff", at: now, askId: open[0]?.id ?? null, channel }]);
  await stopAsks(
    tx,
    scope,
    open.map((ask) => ask.id),
    "opted out",
    now,
  );
  if (channel === "text" && address && last) {
    const said = {
      conversation: { ...conversation, address, channel },
      person: persons[0] ?? null,
      messageId: last.id,
    };
    await confirmWish(tx, scope, await loadSetting(tx), { ...said, language: null, subject: null }, "stopped", now);
  }
  return null;
}

export type IncomingMail = {
  id: string;
  from: string;
  to: string;
  subject: string;
  text: string;
  pictures: string[];
  /** A mail program wrote it by itself (RFC 3834): nobody waits, and nothing is said by itself in turn. */
  isAutomatic: boolean;
};

/** A mail that answers one of ours, or that was written to a client unasked. False where it is for no client. */
export async function receiveMail(mail: IncomingMail): Promise<boolean> {
  const match = /\+([0-9a-f-]{36})\.([a-z0-9_-]{16})@/i.exec(mail.to);
  if (match) {
    const isOurs = sameSecret(match[2].toLowerCase(), tagFor("reply", match[1].toLowerCase()).toLowerCase());
    const scope = isOurs ? await clientOfMessage(match[1]) : null;
    return scope ? receiveMailAt(scope, mail, match[1]) : false;
  }
  const address = normaliseEmail(mail.to);
  if (!address) return false;
  const [row] = await rowsOf<{ client: string | null }>(sql`select estima_client_by_mailbox(${address}) as client`);
  return row?.client ? receiveMailAt(workFor(row.client), mail, null) : false;
}

async function receiveMailAt(scope: Scope, mail: IncomingMail, answeredId: string | null): Promise<boolean> {
  return withClient(scope, async (tx) => {
    const [answered] = answeredId ? await tx.select().from(messages).where(eq(messages.id, answeredId)) : [];
    if (answeredId && !answered) return false;
    const address = normaliseEmail(mail.from) ?? mail.from.slice(0, 254);
    const persons = answered?.personId
      ? await tx.select().from(people).where(eq(people.id, answered.personId))
      : await peopleWithEmail(tx, scope, address);
    const now = await clockNow();
    const kept = await keepIncoming(
      tx,
      scope,
      persons,
      {
        channel: "email",
        gatewayId: mail.id,
        address,
        subject: mail.subject,
        body: mail.text,
        reason: mail.isAutomatic ? { code: "written by a machine" } : null,
        pictures: mail.pictures,
        waits: !mail.isAutomatic,
      },
      now,
      answered?.concernId ?? null,
    );
    if (!kept || mail.isAutomatic) return true;
    const setting = await loadSetting(tx);
    await sayAwayWord(tx, scope, setting, { ...kept, language: null, subject: mail.subject }, now);
    const open = await openAsksOf(
      tx,
      scope,
      persons.map(({ id }) => id),
    );
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

type Incoming = {
  channel: "text" | "email";
  gatewayId: string;
  address: string;
  subject: string | null;
  body: string;
  reason: MessageReason | null;
  pictures: readonly string[];
  /** Somebody has to answer it. */
  waits: boolean;
};

/**
 * Keeps what a customer wrote, once, in their conversation and beside the concern it belongs to; of nobody where no
 * person has the address. Of several with one number it is theirs to whom was last written. Null when it was there
 * already.
 */
async function keepIncoming(
  tx: Tx,
  scope: Scope,
  persons: Person[],
  { pictures, waits, ...it }: Incoming,
  now: number,
  knownConcern: string | null = null,
): Promise<{ messageId: string; conversation: Conversation; person: Person | null } | null> {
  const concern = knownConcern
    ? { id: knownConcern, personId: persons[0]?.id ?? null }
    : persons.length > 0
      ? await openConcernOf(
          tx,
          scope,
          persons.map(({ id }) => id),
        )
      : null;
  const person = persons.find(({ id }) => id === concern?.personId) ?? persons[0] ?? null;
  const { address, channel } = it;
  const branchId = person?.lastBranchId ?? null;
  const conversation = await openConversation(tx, scope, { person, address, channel, branchId }, now);
  const [kept] = await tx
    .insert(messages)
    .values({
      ...it,
      clientId: scope.clientId,
      personId: person?.id ?? null,
      concernId: concern?.id ?? null,
      conversationId: conversation.id,
      branchId: conversation.branchId,
      direction: "in",
      state: "received",
      dueAt: now,
      sentAt: now,
      createdAt: now,
    })
    .onConflictDoNothing()
    .returning({ id: messages.id });
  if (!kept) return null;
  await keepPictures(tx, scope, kept.id, pictures, now);
  // What only sounds like it is for a person to decide; what plainly says so was heeded as the word "stop" is.
  const mayStop = waits && readStopWish(it.body)?.sure === false;
  await noteIncoming(tx, scope, conversation, { address, channel, waits, mayStop }, now);
  return { messageId: kept.id, conversation: { ...conversation, address, channel }, person };
}
