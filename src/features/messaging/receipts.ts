import { and, eq, gt, inArray, isNull, sql } from "drizzle-orm";
import type { z } from "zod";
import { readGatewayReply } from "@/core/contacts/gatewayReply";
import { carryOver } from "@/core/plans/legs";
import {
  type AskContext,
  loadContexts,
  lockHomes,
  OF_MESSAGE,
  openAsksOf,
  pauseIfRejected,
  planNext,
  recordEvents,
  recordMessageEvents,
  setDelivered,
  setProgress,
} from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { lockPeopleRows, recordBounce, setLastMessage } from "@/features/people";
import { listVersions } from "@/features/plans";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import type { receipt } from "./receive";

/** That a message arrived or came back, and what its ask does then. */

export async function clientOfMessage(messageId: string): Promise<Scope | null> {
  const [row] = await rowsOf<{ client: string | null }>(sql`select estima_client_of_message(${messageId}) as client`);
  return row?.client ? workFor(row.client) : null;
}

/** What is kept of a text whose words arrived without its picture. */
const PICTURE_LEFT_OUT = "Sent without the picture: this phone only accepts text.";

export async function noteReceipt(
  { reference: messageId, reason, at, media }: z.output<typeof receipt>,
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
          ...(media === "left out" ? { gatewaySaid: PICTURE_LEFT_OUT } : {}),
          state: sql`case when ${messages.state} = 'sent' then 'delivered' else ${messages.state} end`,
        })
        .where(and(arrived, isNull(messages.deliveredAt)))
        .returning(OF_MESSAGE);
      await recordEvents(
        tx,
        scope,
        fresh
          .filter(({ askId }) => askId !== null)
          .map((of) => ({ ...of, kind: "delivered" as const, source: "gateway" as const, at: deliveredAt })),
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
    .leftJoin(people, eq(people.id, messages.personId))
    .where(eq(messages.id, messageId));
  if (!named) return false;
  const { personId, guardianId, householdId } = named;
  if (personId) await lockHomes(tx, scope, [{ id: personId, guardianId, householdId }]);
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
      : await recordBounce(
          tx,
          scope,
          [personId, guardianId].filter((id) => id !== null),
          {
            channel,
            why,
            at: now,
            address,
          },
        );
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
