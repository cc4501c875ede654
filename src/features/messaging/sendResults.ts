import { and, eq } from "drizzle-orm";
import type { MessageReason } from "@/core/asks/messageReasons";
import { backoff, MOST_ATTEMPTS } from "@/core/asks/nextStep";
import type { GatewayReply } from "@/core/contacts/gatewayReply";
import { groupBy } from "@/core/groups";
import {
  type AskContext,
  lockAsks,
  type NewAskEvent,
  pauseIfRejected,
  planNext,
  type Retry,
  recordEvents,
  setSent,
  writtenTo,
} from "@/features/asks";
import type { Setting } from "@/features/clients";
import { lockPeopleRows, recordBounce, recordMessaged } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { log } from "@/platform/log";
import type { Handed } from "@/platform/mail";
import { messages } from "@/schema/messages";
import type { Message } from "./claims";
import type { Outgoing } from "./handOver";
import { type Change, writeChanges } from "./messageChanges";

/** What the results of a batch add up to, before it is written. */
type Sum = {
  changes: Change[];
  /** Asks that go on, and from when what has to be tried again. */
  onward: AskContext[];
  retries: Map<string, Retry>;
  sentTo: { id: string; first: boolean }[];
  sentAsks: { id: string; done: number }[];
  bounced: Bounced[];
};

/** Writes down what the gateways answered, and plans what follows. Messages that somebody else took over are left. */
export async function recordSendResults(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  outgoing: Outgoing[],
  handed: Handed[],
): Promise<void> {
  const now = await clockNow();
  const { byAsk, claims } = await lockOutgoing(tx, scope, outgoing);
  const sum: Sum = { changes: [], onward: [], retries: new Map(), sentTo: [], sentAsks: [], bounced: [] };
  for (const [index, { message }] of outgoing.entries()) {
    if (claims.get(message.id) !== message.claimId) continue;
    const result = handed[index];
    const context = message.askId ? byAsk.get(message.askId) : undefined;
    if (result.kind === "sent") addSent(sum, setting, message, context, result.gatewayId, now);
    else if (result.kind === "bounced") addBounced(sum, setting, message, context, result, now);
    else addNotTaken(sum, message, context, result, now);
  }
  await writeChanges(tx, sum.changes);
  await recordEvents(tx, scope, eventsOf(outgoing, sum.changes, now));
  await markSent(tx, scope, sum.sentAsks, sum.sentTo, now);
  for (const alike of groupBy(sum.bounced, ({ channel, why }) => JSON.stringify([channel, why])).values()) {
    const [{ channel, why }] = alike;
    const ids = alike.map(({ personId }) => personId);
    await recordBounce(tx, scope, ids, { channel, why, at: now });
  }
  await planNext(tx, scope, setting, sum.onward, now, { retries: sum.retries, hasOthers: false });
  const back = outgoing.filter(({ message }) => sum.bounced.length > 0 && message.askId);
  await pauseIfRejected(
    tx,
    scope,
    back.flatMap(({ context }) => (context?.plan.rules.portions ? context.plan.id : [])),
    now,
  );
}

/**
 * Locks what a batch touches, in the one order in which everything locks: people, asks, messages. Gives the asks as they
 * stand now, and by which claim each message that is still being sent is held.
 */
async function lockOutgoing(tx: Tx, scope: Scope, outgoing: Outgoing[]) {
  await lockPeopleRows(
    tx,
    scope,
    outgoing.flatMap(({ message, context }) => [message.personId, context?.guardian?.id]),
  );
  // Plan, person and visit stay as they were prepared; whether the ask still runs is read anew, under its lock.
  const locked = await lockAsks(
    tx,
    scope,
    outgoing.flatMap(({ context }) => context?.ask.id ?? []),
  );
  const byAsk = new Map(outgoing.flatMap(({ context }) => (context ? [[context.ask.id, context] as const] : [])));
  for (const { id, stop, ended } of locked) {
    const context = byAsk.get(id);
    if (context) Object.assign(context.ask, { stop, ended });
  }
  const ids = outgoing.map(({ message }) => message.id);
  const still = await tx
    .select({ id: messages.id, claimId: messages.claimId })
    .from(messages)
    .where(and(eq(messages.clientId, scope.clientId), anyOf(messages.id, ids), eq(messages.state, "sending")))
    .orderBy(messages.id)
    .for("update");
  return { byAsk, claims: new Map(still.map(({ id, claimId }) => [id, claimId])) };
}

type NotTaken = Exclude<Handed, { kind: "sent" }>;

const goesOn = ({ ask }: AskContext) => !ask.stop && !ask.ended;

function addSent(
  sum: Sum,
  setting: Setting,
  message: Message,
  context: AskContext | undefined,
  gatewayId: string,
  now: number,
): void {
  sum.changes.push({ id: message.id, state: "sent", gatewayId, sentAt: now });
  if (message.personId) sum.sentTo.push({ id: message.personId, first: context?.ask.firstSentAt === null });
  if (!context) return;
  if (context.guardian && writtenTo(context, setting, now).id === context.guardian.id) {
    sum.sentTo.push({ id: context.guardian.id, first: false });
    context.guardian.lastMessageAt = now;
  }
  if (message.step === null) return;
  const { ask, person } = context;
  // Both were read for this batch alone.
  Object.assign(ask, {
    sentCount: ask.sentCount + 1,
    done: message.step + 1,
    firstSentAt: ask.firstSentAt ?? now,
    lastSentAt: now,
    sendNow: null,
    allowanceFrom: null,
  });
  person.lastMessageAt = now;
  sum.sentAsks.push({ id: ask.id, done: message.step + 1 });
  if (goesOn(context)) sum.onward.push(context);
}

function addBounced(
  sum: Sum,
  setting: Setting,
  message: Message,
  context: AskContext | undefined,
  { reply, said }: NotTaken,
  now: number,
): void {
  const reason: MessageReason = { code: "refused", reply };
  sum.changes.push({ id: message.id, state: "bounced", reason, gatewaySaid: said, endedAt: now });
  const to = context ? writtenTo(context, setting, now).id : message.personId;
  if (to) sum.bounced.push({ personId: to, channel: message.channel, why: reply });
  if (!context) return;
  const flag = message.channel === "email" ? { emailBouncedAt: now } : { textBouncedAt: now };
  if (context.guardian?.id === to) context.guardian = { ...context.guardian, ...flag };
  else context.person = { ...context.person, ...flag };
  if (goesOn(context)) sum.onward.push(context);
}

/** A message that the gateway did not take this time: given up, no longer wanted, or tried again later. */
function addNotTaken(
  sum: Sum,
  message: Message,
  context: AskContext | undefined,
  { kind, reply, said }: NotTaken,
  now: number,
): void {
  const { id, attempts } = message;
  if (attempts >= MOST_ATTEMPTS || kind === "failed") {
    const reason: MessageReason = { code: "given up", attempts, reply };
    sum.changes.push({ id, state: "failed", reason, gatewaySaid: said, endedAt: now });
    log.error({ messageId: id, attempts }, "message given up");
  } else if (context && !goesOn(context)) {
    const { stop, ended } = context.ask;
    const reason: MessageReason = stop
      ? { code: "ask stopped", stop }
      : { code: "ask ended", ended: ended ?? "all sent" };
    sum.changes.push({ id, state: "stopped", reason, endedAt: now });
  } else {
    const again = now + backoff(attempts, Math.random());
    const reason: MessageReason = { code: "tried again", reply };
    sum.changes.push({ id, state: "planned", reason, gatewaySaid: said, dueAt: again });
    if (!context) return;
    sum.retries.set(context.ask.id, { at: again, reason });
    sum.onward.push(context);
  }
}

async function markSent(
  tx: Tx,
  scope: Scope,
  sentAsks: { id: string; done: number }[],
  sentTo: { id: string; first: boolean }[],
  now: number,
): Promise<void> {
  await setSent(tx, scope, sentAsks, now);
  for (const isFirst of [true, false]) {
    const ids = sentTo.filter(({ first }) => first === isFirst).map(({ id }) => id);
    await recordMessaged(tx, scope, ids, now, isFirst);
  }
}

/** What the results of a batch are in the log: what was sent, and what was refused at once. */
function eventsOf(outgoing: readonly Outgoing[], changes: readonly Change[], now: number): NewAskEvent[] {
  const states = new Map(changes.map(({ id, state }) => [id, state]));
  return outgoing.flatMap(({ message }) => {
    const state = states.get(message.id);
    if (message.askId === null || (state !== "sent" && state !== "bounced")) return [];
    const { id: messageId, askId, step, wording, variant, channel } = message;
    return [{ kind: state, source: "gateway" as const, at: now, messageId, askId, step, wording, variant, channel }];
  });
}

type Bounced = { personId: string; channel: Message["channel"]; why: GatewayReply };
