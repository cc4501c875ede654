import { and, eq, gte, inArray, isNull, sql } from "drizzle-orm";
import { AT_ONCE, type MachineSign, machineSign } from "@/core/answers/visitor";
import type { Scope, Tx } from "@/platform/database";
import type { Visitor } from "@/platform/visitor";
import { asks } from "@/schema/asks";
import { messages } from "@/schema/messages";
import { recordMessageEvents } from "./events";
import { setOpened } from "./state";

/**
 * Who opened a message or followed a link of it: noted as a person's, which counts and which plans go by, or as a
 * machine's, which is only told.
 */

/** Notes that the page behind one message of an ask was asked for, at most once as a machine's. */
export async function noteFollowed(
  tx: Tx,
  scope: Scope,
  askId: string,
  step: number,
  visitor: Visitor,
  at: number,
): Promise<void> {
  const [ask] = await tx
    .select({ optOutSeenAt: asks.optOutSeenAt })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), eq(asks.id, askId)));
  const sent = await tx
    .select({ id: messages.id, sentAt: messages.sentAt, followedAt: messages.followedAt })
    .from(messages)
    .where(and(eq(messages.clientId, scope.clientId), eq(messages.askId, askId), eq(messages.step, step)));
  const sentAt = sent.reduce<number | null>((last, each) => Math.max(last ?? 0, each.sentAt ?? 0) || null, null);
  const sign = machineSign({
    ...visitor,
    asksFor: "page",
    sinceSent: sentAt === null ? null : at - sentAt,
    sinceOtherLink: ask?.optOutSeenAt ? at - ask.optOutSeenAt : null,
  });
  const ids = sent.map(({ id }) => id);
  if (sign) return noteMachine(tx, scope, ids, "followed", sign, at);
  await setOpened(tx, scope, askId, at, true);
  const fresh = sent.filter(({ followedAt }) => followedAt === null).map(({ id }) => id);
  if (fresh.length === 0) return;
  await tx
    .update(messages)
    .set({ followedAt: at })
    .where(and(eq(messages.clientId, scope.clientId), inArray(messages.id, fresh), isNull(messages.followedAt)));
  await recordMessageEvents(tx, scope, fresh, { kind: "followed", source: "person", at });
}

/** Notes that the picture of a mail was loaded. */
export async function noteShown(tx: Tx, scope: Scope, messageId: string, visitor: Visitor, at: number): Promise<void> {
  const [message] = await tx
    .select({ askId: messages.askId, openedAt: messages.openedAt, sentAt: messages.sentAt })
    .from(messages)
    .where(eq(messages.id, messageId));
  if (!message || message.openedAt !== null) return;
  const sinceSent = message.sentAt === null ? null : at - message.sentAt;
  const sign = machineSign({ ...visitor, asksFor: "picture", sinceSent, sinceOtherLink: null });
  if (sign) return noteMachine(tx, scope, [messageId], "opened", sign, at);
  // The ask's row first, as everywhere.
  if (message.askId) await setOpened(tx, scope, message.askId, at);
  await tx
    .update(messages)
    .set({ openedAt: at })
    .where(and(eq(messages.id, messageId), isNull(messages.openedAt)));
  await recordMessageEvents(tx, scope, [messageId], { kind: "opened", source: "person", at });
}

/**
 * Notes that the page of "no more messages" was looked at. Where the link of a message was followed in the same moment,
 * that was no person: it is taken back, and told as a machine's.
 */
export async function noteOptOutSeen(tx: Tx, scope: Scope, askId: string, visitor: Visitor, at: number): Promise<void> {
  if (machineSign({ ...visitor, asksFor: "page", sinceSent: null, sinceOtherLink: null })) return;
  const ofAsk = and(eq(asks.clientId, scope.clientId), eq(asks.id, askId));
  await tx.update(asks).set({ optOutSeenAt: at }).where(ofAsk);
  const since = at - AT_ONCE;
  const taken = await tx
    .update(messages)
    .set({ followedAt: null })
    .where(and(eq(messages.clientId, scope.clientId), eq(messages.askId, askId), gte(messages.followedAt, since)))
    .returning({ id: messages.id });
  if (taken.length === 0) return;
  await tx
    .update(asks)
    .set({
      openedAt: sql`(select max(m.opened_at) from messages m where m.client_id = ${scope.clientId} and m.ask_id = ${askId})`,
      followedAt: sql`(select min(m.followed_at) from messages m where m.client_id = ${scope.clientId} and m.ask_id = ${askId})`,
    })
    .where(and(ofAsk, isNull(asks.answeredAt)));
  const ids = taken.map(({ id }) => id);
  await noteMachine(tx, scope, ids, "followed", "every link at once", at);
}

/** The first time that a machine had to do with a message is told; the others say nothing more. */
async function noteMachine(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  kind: "opened" | "followed",
  code: MachineSign,
  at: number,
): Promise<void> {
  if (ids.length === 0) return;
  const fresh = await tx
    .update(messages)
    .set({ machineAt: at })
    .where(and(eq(messages.clientId, scope.clientId), inArray(messages.id, [...ids]), isNull(messages.machineAt)))
    .returning({ id: messages.id });
  await recordMessageEvents(
    tx,
    scope,
    fresh.map(({ id }) => id),
    { kind, source: "machine", at, code },
  );
}
