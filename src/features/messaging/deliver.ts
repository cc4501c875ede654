import { and, eq, inArray, sql } from "drizzle-orm";
import type { MessageReason } from "@/core/asks/messageReasons";
import { backoff, MOST_ATTEMPTS } from "@/core/asks/nextStep";
import type { GatewayReply } from "@/core/contacts/gatewayReply";
import { legsOf } from "@/core/plans/legs";
import { wordingFor } from "@/core/plans/trial";
import { nextMonth } from "@/core/time/zone";
import { plainName } from "@/core/web/address";
import { composeAsk } from "@/core/words/compose";
import { emailPage } from "@/core/words/emailPage";
import {
  type AskContext,
  isUnwanted,
  loadContexts,
  lockAsks,
  type NewAskEvent,
  nextOf,
  noticeAllowanceUsedUp,
  pauseIfRejected,
  planNext,
  type Retry,
  recordEvents,
  scheduledOf,
  setAllowanceFrom,
  setSent,
  stopAsks,
  wordingFacts,
  writtenTo,
} from "@/features/asks";
import { loadSetting, type Setting, StoredQuota } from "@/features/clients";
import { lockPeopleRows, recordBounce, recordMessaged } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { answerLink, optOutLink } from "@/platform/customerLinks";
import { anyOf, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { describeError, log } from "@/platform/log";
import { type Handed, handOverMail } from "@/platform/mail";
import { tagFor } from "@/platform/secrets";
import { handOverText } from "@/platform/texts";
import { messages } from "@/schema/messages";

/**
 * Due messages on their way out. Crash cases, in order of the steps below:
 * - killed after the claim: the claim runs out and another worker claims the rows again;
 * - killed after `prepare` committed (state "sending"): the rows are claimed again and handed over with the same key,
 *   which the gateway honours, so that nobody gets the message twice;
 * - killed after the gateway took it, before `settle`: the same;
 * - killed after `settle`: nothing is left to do.
 */
/** Messages of one client that a worker has claimed. */
export type Claim = { clientId: string; claimId: string; messageIds: string[] };

type Message = typeof messages.$inferSelect;

/** What the gateway is called with. Kept in the row before the call, so that a repeat says the very same. */
type Outgoing = {
  message: Message /** Its ask as it stood when it was prepared; null for a letter from a person. */;
  context: AskContext | null;
  fromName: string;
  senderEmail: string;
  business: string;
  colour: string;
  postalAddress: string;
  textNumber: string;
};

/**
 * Claims what is due at `at`, at most `most` messages, for LEASE_SECONDS of real time. Clients share a claim: ten
 * messages of one are not kept waiting by ten thousand of another.
 */
export async function claimDue(at: number, most: number): Promise<Claim[]> {
  const rows = await rowsOf<{ client_id: string; message_id: string; claim_id: string }>(
    sql`select * from estima_claim_messages(${new Date(at).toISOString()}, ${most}, ${environment().LEASE_SECONDS})`,
  );
  const claims = new Map<string, Claim>();
  for (const row of rows) {
    const claim = claims.get(row.client_id);
    if (claim) claim.messageIds.push(row.message_id);
    else claims.set(row.client_id, { clientId: row.client_id, claimId: row.claim_id, messageIds: [row.message_id] });
  }
  return [...claims.values()];
}

/**
 * Sends what was claimed of one client. Rows that somebody else claimed since are left alone. A failure is logged and
 * nobody else's: the messages are claimed again when the claim runs out.
 */
export async function deliver(claim: Claim): Promise<void> {
  try {
    await deliverOf(workFor(claim.clientId), claim);
  } catch (error) {
    const { clientId, messageIds } = claim;
    log.error({ clientId, messages: messageIds.length, ...describeError(error) }, "batch failed");
  }
}

async function deliverOf(scope: Scope, claim: Claim): Promise<void> {
  const { outgoing, setting } = await withClient(scope, (tx) => prepare(tx, scope, claim));
  if (outgoing.length === 0) return;
  const handed = await holding(scope, outgoing, () => handOverAll(outgoing));
  await withClient(scope, (tx) => recordSendResults(tx, scope, setting, outgoing, handed));
}

/**
 * Does something with claimed messages, and keeps their claims alive meanwhile: a slow gateway must not let another
 * worker take them over.
 */
async function holding<T>(scope: Scope, outgoing: readonly Outgoing[], work: () => Promise<T>): Promise<T> {
  const held = outgoing.map(({ message }) => message);
  const hold = () =>
    withClient(scope, (tx) => holdClaims(tx, scope, held)).catch((error) =>
      log.warn(describeError(error), "claims not prolonged"),
    );
  const holder = setInterval(hold, (environment().LEASE_SECONDS * 1000) / 3);
  try {
    return await work();
  } finally {
    clearInterval(holder);
  }
}

/**
 * Lets claims that are still ours run for LEASE_SECONDS from now. Waits for nobody: rows that are locked are being
 * settled.
 */
async function holdClaims(tx: Tx, scope: Scope, held: readonly Message[]): Promise<void> {
  const ids = sql`any(${sql.param(held.map(({ id }) => id))}::uuid[])`;
  const claims = sql`any(${sql.param([...new Set(held.map(({ claimId }) => claimId))])}::uuid[])`;
  await tx.execute(sql`
    update messages set claimed_until = clock_timestamp() + make_interval(secs => ${environment().LEASE_SECONDS}::numeric)
    where client_id = ${scope.clientId} and id in (
      select id from messages where client_id = ${scope.clientId} and id = ${ids} and claim_id = ${claims} and state in ('planned', 'sending')
      order by id for update skip locked)`);
}

async function prepare(tx: Tx, scope: Scope, claim: Claim): Promise<{ outgoing: Outgoing[]; setting: Setting }> {
  const now = await clockNow();
  const setting = await loadSetting(tx);
  const mine = and(
    eq(messages.clientId, scope.clientId),
    anyOf(messages.id, claim.messageIds),
    eq(messages.claimId, claim.claimId),
    inArray(messages.state, ["planned", "sending"]),
  );
  const askIds = await tx.selectDistinct({ id: messages.askId }).from(messages).where(mine);
  // Locked in the order asks, then messages, as everything that stops an ask does: a stop comes wholly before or after.
  const contexts = await loadContexts(
    tx,
    scope,
    askIds.flatMap(({ id }) => id ?? []),
    true,
  );
  const unwanted = contexts.filter((context) => isUnwanted(context, setting, now)).map(({ ask }) => ask.id);
  await stopAsks(tx, scope, unwanted, "not to be asked", now);
  for (const context of contexts)
    if (unwanted.includes(context.ask.id))
      context.ask = { ...context.ask, stop: context.ask.stop ?? "not to be asked" };
  const byAsk = new Map(contexts.map((context) => [context.ask.id, context]));
  const rows = await tx.select().from(messages).where(mine).orderBy(messages.id).for("update");
  // The batch may have waited for its turn: its time begins now.
  await holdClaims(tx, scope, rows);

  // A ceiling lets those leave first that go first, then those that have waited longest.
  rows.sort(
    (a, b) =>
      Number(b.goesFirst) - Number(a.goesFirst) ||
      (a.dueAt ?? 0) - (b.dueAt ?? 0) ||
      ((a.personId ?? "") < (b.personId ?? "") ? -1 : 1),
  );
  const quota = await StoredQuota.load(tx, scope, setting, now);
  const changes: Change[] = [];
  const outgoing: Outgoing[] = [];
  const moved: AskContext[] = [];
  const retries = new Map<string, Retry>();
  const usedUp: AskContext[] = [];
  const short = new Set<Message["channel"]>();
  const leave = (message: Message, context: AskContext | null, filled: Partial<Message>) => {
    const ready: Message = { ...message, ...filled, state: "sending", attempts: message.attempts + 1 };
    changes.push({ ...filled, id: message.id, state: "sending", attempts: ready.attempts });
    if (message.attempts === 0) quota.count(ready.channel, now, ready.channel === "text" ? (ready.parts ?? 1) : 1);
    const { client } = setting;
    outgoing.push({
      message: ready,
      context,
      fromName: senderName(context, setting, message, now),
      senderEmail: client.senderEmail,
      business: client.name,
      colour: client.colour,
      postalAddress: client.postalAddress,
      textNumber: client.textNumber,
    });
  };
  for (const message of rows) {
    const context = message.askId ? byAsk.get(message.askId) : undefined;
    if (!context) {
      leave(message, null, {});
    } else if (message.state === "sending") {
      if (context.ask.stop || context.ask.ended) {
        changes.push({
          id: message.id,
          state: "stopped",
          reason: { code: "not repeated" },
        });
      } else leave(message, context, {});
    } else {
      const filled = readyToLeave(context, setting, message, now);
      const permit = (free: number) => {
        const then = nextOf(context, setting, now, { ceilingAt: free });
        return then.kind === "send" ? then.at : null;
      };
      if (!filled?.channel) {
        moved.push(context);
        continue;
      }
      const slot = quota.slot(filled.channel, now, message.hold === "ceiling" ? message.dueAt : null, permit);
      if (slot > now) {
        moved.push(context);
        retries.set(context.ask.id, { at: slot, ceiling: true });
      } else if (
        message.attempts === 0 &&
        !quota.affords(filled.channel, now, filled.channel === "text" ? (filled.parts ?? 1) : 1)
      ) {
        context.ask = { ...context.ask, allowanceFrom: nextMonth(setting.client.zone, now) };
        usedUp.push(context);
        short.add(filled.channel);
        moved.push(context);
      } else leave(message, context, filled);
    }
  }
  await writeChanges(tx, changes);
  await quota.keep(tx, scope);
  for (const { ask } of usedUp) await setAllowanceFrom(tx, scope, ask.id, ask.allowanceFrom);
  for (const channel of short) await noticeAllowanceUsedUp(tx, scope, setting, channel, now);
  await planNext(tx, scope, setting, moved, now, { retries });
  return { outgoing, setting };
}

/** The message filled in, when its ask still says that it leaves now; else null. */
function readyToLeave(context: AskContext, setting: Setting, message: Message, now: number): Partial<Message> | null {
  const { ask, plan, person } = context;
  const next = nextOf(context, setting, now);
  if (next.kind !== "send" || next.leg !== message.step || message.planVersion !== ask.planVersion || next.at > now)
    return null;
  const to = writtenTo(context, setting, now);
  const step = plan.rules.steps[next.step];
  const wording = wordingFor(step, plan.id, person.id);
  const words = composeAsk(wording, next.channel, wordingFacts(context, setting, now), answerLink(ask.token, next.leg));
  return {
    channel: next.channel,
    address: next.channel === "email" ? to.email : to.phone,
    subject: words.subject,
    body: words.body,
    parts: words.parts,
    stepName: step.name,
    wording: step.others.length > 0 ? wording.key : null,
    reason: scheduledOf(context, setting, next, now),
  };
}

/** Whose name an email comes from: the business, or one of its team where the step says so. */
function senderName(context: AskContext | null, setting: Setting, message: Message, now: number): string {
  const leg = context && message.step !== null ? legsOf(context.plan.rules)[message.step] : null;
  const name =
    context && leg && context.plan.rules.steps[leg.step].from === "team member"
      ? plainName(wordingFacts(context, setting, now).teamMember)
      : null;
  return name ? `${name}, ${setting.client.name}` : setting.client.name;
}

async function handOverAll(outgoing: Outgoing[]): Promise<Handed[]> {
  const results: Handed[] = new Array(outgoing.length);
  let next = 0;
  const lane = async () => {
    while (next < outgoing.length) {
      const index = next++;
      results[index] = await handOver(outgoing[index]);
    }
  };
  await Promise.all(Array.from({ length: Math.min(environment().SEND_CONCURRENCY, outgoing.length) }, lane));
  return results;
}

function handOver({ message, context, ...from }: Outgoing): Promise<Handed> {
  const address = message.address ?? "";
  if (message.channel === "text")
    return handOverText({ id: message.id, from: from.textNumber, to: address, body: message.body ?? "" });
  const { APP_URL } = environment();
  const ask = context?.ask;
  const optOut = ask ? optOutLink(ask.token) : null;
  const { text, html } = emailPage(message.body ?? "", {
    business: from.business,
    colour: from.colour,
    postalAddress: from.postalAddress,
    link: ask && message.step !== null ? answerLink(ask.token, message.step) : null,
    optOut,
    picture: ask ? `${APP_URL}/o/${message.id}.gif` : null,
  });
  return handOverMail({
    id: message.id,
    from: { name: from.fromName, address: from.senderEmail },
    to: address,
    replyTo: replyAddress(from.senderEmail, message.id),
    subject: message.subject ?? from.business,
    text,
    html,
    unsubscribe: optOut ?? undefined,
  });
}

/** Where a customer's reply to a message goes: the sender's address with the message's id and a tag that proves it. */
export function replyAddress(sender: string, messageId: string): string {
  const at = sender.lastIndexOf("@");
  return `${sender.slice(0, at)}+${messageId}.${tagFor("reply", messageId)}${sender.slice(at)}`.toLowerCase();
}

async function recordSendResults(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  outgoing: Outgoing[],
  handed: Handed[],
): Promise<void> {
  const now = await clockNow();
  const ids = outgoing.map(({ message }) => message.id);
  // In the one order in which everything locks: people, asks, messages.
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
    if (context) context.ask = { ...context.ask, stop, ended };
  }

  // Only what nobody took over meanwhile.
  const still = await tx
    .select({ id: messages.id, claimId: messages.claimId })
    .from(messages)
    .where(and(eq(messages.clientId, scope.clientId), anyOf(messages.id, ids), eq(messages.state, "sending")))
    .orderBy(messages.id)
    .for("update");
  const open = new Map(still.map(({ id, claimId }) => [id, claimId]));

  const changes: Change[] = [];
  const onward: AskContext[] = [];
  const retries = new Map<string, Retry>();
  const sentTo: { id: string; first: boolean }[] = [];
  const sentAsks: { id: string; done: number }[] = [];
  const bounced: Bounced[] = [];

  for (const [index, { message }] of outgoing.entries()) {
    if (open.get(message.id) !== message.claimId) continue;
    const result = handed[index];
    const context = message.askId ? byAsk.get(message.askId) : undefined;
    const live = context && !context.ask.stop && !context.ask.ended;
    if (result.kind === "sent") {
      changes.push({ id: message.id, state: "sent", gatewayId: result.gatewayId, sentAt: now });
      if (message.personId) sentTo.push({ id: message.personId, first: context?.ask.firstSentAt === null });
      if (context?.guardian && writtenTo(context, setting, now).id === context.guardian.id) {
        sentTo.push({ id: context.guardian.id, first: false });
        context.guardian = { ...context.guardian, lastMessageAt: now };
      }
      if (context && message.step !== null) {
        const { ask } = context;
        context.ask = {
          ...ask,
          sentCount: ask.sentCount + 1,
          done: message.step + 1,
          firstSentAt: ask.firstSentAt ?? now,
          lastSentAt: now,
          sendNow: null,
          allowanceFrom: null,
        };
        context.person = { ...context.person, lastMessageAt: now };
        sentAsks.push({ id: ask.id, done: message.step + 1 });
        if (live) onward.push(context);
      }
    } else if (result.kind === "bounced") {
      changes.push({
        id: message.id,
        state: "bounced",
        reason: { code: "refused", reply: result.reply },
        gatewaySaid: result.said,
        endedAt: now,
      });
      const to = context ? writtenTo(context, setting, now).id : message.personId;
      if (to) bounced.push({ personId: to, channel: message.channel, why: result.reply });
      if (context) {
        const flag = message.channel === "email" ? { emailBouncedAt: now } : { textBouncedAt: now };
        if (context.guardian?.id === to) context.guardian = { ...context.guardian, ...flag };
        else context.person = { ...context.person, ...flag };
        if (live) onward.push(context);
      }
    } else if (message.attempts >= MOST_ATTEMPTS || result.kind === "failed") {
      changes.push({
        id: message.id,
        state: "failed",
        reason: { code: "given up", attempts: message.attempts, reply: result.reply },
        gatewaySaid: result.said,
        endedAt: now,
      });
      log.error({ messageId: message.id, attempts: message.attempts }, "message given up");
    } else if (context && !live) {
      const { stop, ended } = context.ask;
      const reason: MessageReason = stop
        ? { code: "ask stopped", stop }
        : { code: "ask ended", ended: ended ?? "all sent" };
      changes.push({ id: message.id, state: "stopped", reason, endedAt: now });
    } else {
      const again = now + backoff(message.attempts, Math.random());
      const reason: MessageReason = { code: "tried again", reply: result.reply };
      changes.push({ id: message.id, state: "planned", reason, gatewaySaid: result.said, dueAt: again });
      if (context) {
        retries.set(context.ask.id, { at: again, reason });
        onward.push(context);
      }
    }
  }
  await writeChanges(tx, changes);
  await recordEvents(tx, scope, eventsOf(outgoing, changes, now));
  await markSent(tx, scope, sentAsks, sentTo, now);
  for (const { personId, channel, why } of bounced)
    await recordBounce(tx, scope, [personId], { channel, why, at: now });
  await planNext(tx, scope, setting, onward, now, { retries, hasOthers: false });
  const back = outgoing.filter(({ message }) => bounced.length > 0 && message.askId);
  await pauseIfRejected(
    tx,
    scope,
    back.flatMap(({ context }) => (context?.plan.rules.portions ? context.plan.id : [])),
    now,
  );
}

type Change = { id: string } & Partial<Omit<Message, "id">>;

/** Writes all changes of a batch in one statement. Fields that a change does not name stay as they are. */
async function writeChanges(tx: Tx, changes: Change[]): Promise<void> {
  if (changes.length === 0) return;
  const time = (value: number | null | undefined) => (value ? new Date(value).toISOString() : null);
  const data = changes.map((change) => ({
    ...change,
    sentAt: time(change.sentAt),
    endedAt: time(change.endedAt),
    dueAt: time(change.dueAt),
  }));
  await tx.execute(sql`
    update messages m set
      state = case when d.state = 'sent' and m.delivered_at is not null then 'delivered' else d.state end, channel = coalesce(d.channel, m.channel), reason = coalesce(d.reason, m.reason),
      gateway_said = coalesce(d."gatewaySaid", m.gateway_said),
      address = coalesce(d.address, m.address), subject = coalesce(d.subject, m.subject), body = coalesce(d.body, m.body),
      step_name = coalesce(d."stepName", m.step_name), wording = coalesce(d.wording, m.wording), hold = null,
      parts = coalesce(d.parts, m.parts), attempts = coalesce(d.attempts, m.attempts),
      gateway_id = coalesce(d."gatewayId", m.gateway_id), sent_at = coalesce(d."sentAt", m.sent_at),
      ended_at = coalesce(d."endedAt", m.ended_at), due_at = coalesce(d."dueAt", m.due_at),
      claimed_until = case when d.state = 'sending' then m.claimed_until end
    from jsonb_to_recordset(${JSON.stringify(data)}::jsonb) as d(
      id uuid, state text, channel text, reason jsonb, "gatewaySaid" text, address text, subject text, body text, parts int, attempts int, "stepName" text, wording text,
      "gatewayId" text, "sentAt" timestamptz, "endedAt" timestamptz, "dueAt" timestamptz)
    where m.id = d.id`);
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
    const { id: messageId, askId, step, wording, channel } = message;
    return [{ kind: state, source: "gateway" as const, at: now, messageId, askId, step, wording, channel }];
  });
}

type Bounced = { personId: string; channel: Message["channel"]; why: GatewayReply };
