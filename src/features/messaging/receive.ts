import { and, eq, gt, inArray, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import type { MessageReason } from "@/core/asks/messageReasons";
import { normaliseEmail } from "@/core/contacts/email";
import { readGatewayReply } from "@/core/contacts/gatewayReply";
import { carryOver } from "@/core/plans/legs";
import { instantText } from "@/core/time/range";
import { readWish } from "@/core/words/stopWords";
import {
  type AskContext,
  loadContexts,
  lockHomes,
  openAsksOf,
  pauseIfRejected,
  planNext,
  recordEvents,
  recordMessageEvents,
  setDelivered,
  setProgress,
  stopAsks,
} from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { openConcernOf } from "@/features/concerns";
import {
  lockPeopleRows,
  type Person,
  peopleWithPhone,
  recordBounce,
  setLastMessage,
  setOptOut,
  wardsOf,
} from "@/features/people";
import { listVersions } from "@/features/plans";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { problem, readHook } from "@/platform/hooks";
import { sameSecret, tagFor } from "@/platform/secrets";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";

/** What comes back from the gateways: receipts, bounces, and what customers write. All of it may come twice. */

const receipt = z.object({
  reference: z.uuid(),
  reason: z.string().max(300).optional(),
  /** When it happened, where the gateway says so. */
  at: instantText.transform((text) => Date.parse(text)).optional(),
});

const textEvent = z.discriminatedUnion("type", [
  z.object({ type: z.literal("text.delivered"), data: receipt }),
  z.object({ type: z.literal("text.undelivered"), data: receipt }),
  z.object({
    type: z.literal("text.received"),
    data: z.object({
      id: z.string().min(1).max(100),
      from: z.string().min(3).max(20),
      to: z.string().min(3).max(20),
      body: z.string().max(2000),
    }),
  }),
]);

const mailEvent = z.discriminatedUnion("type", [
  z.object({ type: z.literal("mail.delivered"), data: receipt }),
  z.object({ type: z.literal("mail.bounced"), data: receipt }),
  z.object({
    type: z.literal("mail.received"),
    data: z.object({
      id: z.string().min(1).max(200),
      from: z.string().min(3).max(254),
      to: z.string().min(3).max(320),
      subject: z.string().max(500),
      text: z.string().max(20_000),
    }),
  }),
]);

/** Answers `POST /hooks/texts`. */
export async function handleTextHook(request: Request): Promise<Response> {
  const read = await readHook(request, environment().TEXT_HOOK_SECRET);
  if (read instanceof Response) return read;
  const event = textEvent.safeParse(read.body);
  if (!event.success) return problem(422, z.prettifyError(event.error));
  const { type, data } = event.data;
  if (type === "text.received") return Response.json({ kept: await receiveText(data) });
  return Response.json({ kept: await noteReceipt(data, type === "text.delivered" ? "delivered" : "bounced") });
}

/** Answers `POST /hooks/mail`. */
export async function handleMailHook(request: Request): Promise<Response> {
  const read = await readHook(request, environment().MAIL_HOOK_SECRET);
  if (read instanceof Response) return read;
  const event = mailEvent.safeParse(read.body);
  if (!event.success) return problem(422, z.prettifyError(event.error));
  const { type, data } = event.data;
  if (type === "mail.received") return Response.json({ kept: await receiveMail(data) });
  return Response.json({ kept: await noteReceipt(data, type === "mail.delivered" ? "delivered" : "bounced") });
}

async function clientOfMessage(messageId: string): Promise<Scope | null> {
  const [row] = await rowsOf<{ client: string | null }>(sql`select estima_client_of_message(${messageId}) as client`);
  return row?.client ? workFor(row.client) : null;
}

async function noteReceipt(
  { reference: messageId, reason, at }: z.output<typeof receipt>,
  what: "delivered" | "bounced",
): Promise<boolean> {
  const scope = await clientOfMessage(messageId);
  if (!scope) return false;
  return withClient(scope, async (tx) => {
    const now = await clockNow();
    // A receipt may overtake our own note that the message was sent: `recordSendResults` then finds it delivered already.
    if (what === "delivered") {
      const arrived = and(eq(messages.id, messageId), inArray(messages.state, ["sending", "sent", "delivered"]));
      const deliveredAt = new Date(at ?? now).getTime();
      // The ask's row first, as everywhere.
      await setDelivered(tx, scope, messageId, deliveredAt);
      const fresh = await tx
        .update(messages)
        .set({
          deliveredAt,
          state: sql`case when ${messages.state} = 'sent' then 'delivered' else ${messages.state} end`,
        })
        .where(and(arrived, isNull(messages.deliveredAt)))
        .returning({ id: messages.id });
      await recordMessageEvents(
        tx,
        scope,
        fresh.map(({ id }) => id),
        { kind: "delivered", source: "gateway", at: deliveredAt },
      );
      return true;
    }
    return noteBounce(tx, scope, messageId, reason ?? null, now);
  });
}

/**
 * A message came back for good: it reached nobody, so its step goes another way where there is one. Receipts come
 * twice, late and in any order; what has gone on since is left alone. Cases:
 * - it came back already, or was never handed over: nothing;
 * - the person has another address by now: that one has not bounced;
 * - a later message of the ask has left (the follow-up, or the other half of a step by both channels): the ask goes on
 *   from there;
 * - the ask has ended by itself: it goes on with this step, unless another ask of the person is open;
 * - the ask was stopped: it stays so.
 */
async function noteBounce(tx: Tx, scope: Scope, messageId: string, said: string | null, now: number): Promise<boolean> {
  const why = readGatewayReply(said ?? "");
  const [named] = await tx
    .select({
      personId: people.id,
      askId: messages.askId,
      guardianId: people.guardianId,
      householdId: people.householdId,
    })
    .from(messages)
    .innerJoin(people, eq(people.id, messages.personId))
    .where(eq(messages.id, messageId));
  if (!named) return false;
  const { personId, guardianId, householdId } = named;
  await lockHomes(tx, scope, [{ id: personId, guardianId, householdId }]);
  await lockPeopleRows(tx, scope, [personId, guardianId]);
  const [context] = named.askId ? await loadContexts(tx, scope, [named.askId], true) : [];
  const [message] = await tx.select().from(messages).where(eq(messages.id, messageId)).for("update");
  if (message?.direction !== "out" || message.state === "bounced" || message.attempts === 0) return true;
  await tx
    .update(messages)
    .set({
      state: "bounced",
      endedAt: now,
      claimId: null,
      claimedUntil: null,
      reason: { code: "came back", reply: why },
      gatewaySaid: said,
    })
    .where(eq(messages.id, messageId));
  await recordMessageEvents(tx, scope, [messageId], { kind: "bounced", source: "gateway", at: now });
  const { channel, address } = message;
  const flag =
    address === null
      ? {}
      : await recordBounce(tx, scope, [personId, ...(guardianId ? [guardianId] : [])], {
          channel,
          why,
          at: now,
          address,
        });
  if (!context) return true;
  for (const one of [context.person, context.guardian])
    if (one && (message.channel === "email" ? one.email : one.phone) === message.address) Object.assign(one, flag);
  await goAnotherWay(tx, scope, context, message, now);
  await pauseIfRejected(tx, scope, [context.plan.id], now);
  return true;
}

async function goAnotherWay(
  tx: Tx,
  scope: Scope,
  context: AskContext,
  message: typeof messages.$inferSelect,
  now: number,
): Promise<void> {
  const { ask, person } = context;
  if (ask.stop || message.step === null) return;
  const setting = await loadSetting(tx);
  const after = await tx
    .select({ sentAt: messages.sentAt, state: messages.state })
    .from(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        eq(messages.askId, ask.id),
        eq(messages.direction, "out"),
        inArray(messages.state, ["sending", "sent", "delivered"]),
      ),
    );
  const hasGoneOn =
    message.sentAt !== null &&
    after.some(({ sentAt, state }) => state === "sending" || (sentAt ?? 0) >= (message.sentAt ?? 0));
  if (hasGoneOn) {
    if (!ask.ended) await planNext(tx, scope, setting, [context], now);
    return;
  }
  if (ask.ended && (await openAsksOf(tx, scope, [person.id])).some(({ id }) => id !== ask.id)) return;
  await rewindToStep(tx, scope, context, await legNow(tx, scope, context, message.planVersion, message.step));
  await planNext(tx, scope, setting, [context], now);
}

/** Where a leg of an older version stands in the version the ask goes by now. */
async function legNow(tx: Tx, scope: Scope, { ask, plan }: AskContext, version: number, leg: number): Promise<number> {
  if (version === ask.planVersion) return leg;
  const before = (await listVersions(tx, scope, plan.id)).find((one) => one.version === version);
  return before ? carryOver(before.rules, plan.rules, leg) : leg;
}

/** Sets an ask back to a step that came back, as if that and all after it had never been planned. */
async function rewindToStep(tx: Tx, scope: Scope, context: AskContext, step: number): Promise<void> {
  const { ask, person } = context;
  const reached = await tx
    .select({ askId: messages.askId, sentAt: messages.sentAt })
    .from(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        eq(messages.personId, person.id),
        eq(messages.direction, "out"),
        inArray(messages.state, ["sent", "delivered"]),
      ),
    );
  const latest = (list: { sentAt: number | null }[]) =>
    list.reduce<number | null>(
      (last, { sentAt }) => (sentAt !== null && (last === null || sentAt > last) ? sentAt : last),
      null,
    );
  Object.assign(person, { lastMessageAt: latest(reached) });
  const own = reached.filter(({ askId }) => askId === ask.id);
  const lastSentAt = latest(own);
  const back = {
    done: Math.min(ask.done, step),
    sentCount: own.length,
    lastSentAt,
    firstSentAt: own.length > 0 ? ask.firstSentAt : null,
    ended: null,
    endedAt: null,
  };
  Object.assign(ask, back);
  await setProgress(tx, scope, ask.id, back);
  await setLastMessage(tx, scope, person.id, person.lastMessageAt);
  await tx
    .delete(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        eq(messages.askId, ask.id),
        gt(messages.step, ask.done),
        inArray(messages.state, ["planned", "held"]),
      ),
    );
}

async function receiveText(text: { id: string; from: string; to: string; body: string }): Promise<boolean> {
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

async function receiveMail(mail: {
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
