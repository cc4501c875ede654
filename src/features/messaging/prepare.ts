import { and, eq, inArray } from "drizzle-orm";
import { legsOf } from "@/core/plans/legs";
import { MINUTE, nextMonth } from "@/core/time/zone";
import { plainName } from "@/core/web/address";
import { mediaParts } from "@/core/words/namedPicture";
import {
  type AskContext,
  composeStep,
  isUnwanted,
  loadContexts,
  nextOf,
  noticeAllowanceUsedUp,
  planNext,
  type Retry,
  scheduledOf,
  setAllowanceFrom,
  stopAsks,
  wordingFacts,
  writtenTo,
} from "@/features/asks";
import { loadSetting, lookAt, type Setting, StoredQuota, senderOf } from "@/features/clients";
import { now as clockNow } from "@/platform/clock";
import { answerLink } from "@/platform/customerLinks";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { messages } from "@/schema/messages";
import { type Claim, holdClaims, type Message } from "./claims";
import { languageOfVariant, type Outgoing } from "./handOver";
import { type Change, writeChanges } from "./messageChanges";

/**
 * Fills in the claimed messages that leave now and notes that they are being sent; moves, holds or stops the others.
 * Gives those to hand over, each as it stands in its row.
 */
export async function prepare(tx: Tx, scope: Scope, claim: Claim): Promise<{ outgoing: Outgoing[]; setting: Setting }> {
  const now = await clockNow();
  const setting = await loadSetting(tx);
  const { rows, byAsk } = await lockClaimed(tx, scope, claim, setting, now);
  const quota = await StoredQuota.load(tx, scope, setting, now);
  const changes: Change[] = [];
  const outgoing: Outgoing[] = [];
  const moved: AskContext[] = [];
  const retries = new Map<string, Retry>();
  const usedUp = new Map<AskContext, Message["channel"]>();
  for (const message of rows) {
    const context = (message.askId && byAsk.get(message.askId)) || null;
    const turn = turnOf(message, context, setting, quota, now);
    if (turn.kind === "leave") {
      const { filled } = turn;
      const isFirstTry = message.attempts === 0;
      // The row was read for this batch alone: filled in where it stands, since a copy of it takes longer than all else here.
      Object.assign(message, filled, { state: "sending", attempts: message.attempts + 1 });
      changes.push({ id: message.id, state: "sending", attempts: message.attempts, ...filled });
      if (isFirstTry) quota.count(message.channel, now, partsOf(message, setting));
      outgoing.push(outgoingOf(message, context, setting, now));
    } else if (turn.kind === "stop") {
      changes.push({ id: message.id, state: "stopped", reason: { code: "not repeated" } });
    } else if (turn.kind === "too late") {
      changes.push({ id: message.id, state: "stopped", endedAt: now });
    } else if (context) {
      moved.push(context);
      if (turn.kind === "wait") retries.set(context.ask.id, { at: turn.until, ceiling: true, isKept: turn.isKept });
      if (turn.kind === "used up") {
        context.ask = { ...context.ask, allowanceFrom: nextMonth(setting.client.zone, now) };
        usedUp.set(context, turn.channel);
      }
    }
  }
  await writeChanges(tx, changes);
  await quota.keep(tx, scope);
  const held = [...usedUp.keys()].map(({ ask }) => ask.id);
  await setAllowanceFrom(tx, scope, held, nextMonth(setting.client.zone, now));
  for (const channel of new Set(usedUp.values())) await noticeAllowanceUsedUp(tx, scope, setting, channel, now);
  await planNext(tx, scope, setting, moved, now, { retries });
  return { outgoing, setting };
}

/**
 * The messages that are still this claim's, in the order in which they may leave, with their asks. Asks of people who
 * are not to be asked any more are stopped.
 */
async function lockClaimed(tx: Tx, scope: Scope, claim: Claim, setting: Setting, now: number) {
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
  return { rows, byAsk: new Map(contexts.map((context) => [context.ask.id, context])) };
}

/** An automatic word that is older than this is not said any more. */
const STALE = 30 * MINUTE;

/** What becomes of one claimed message now: it leaves, filled in so; or its ask says something else by now. */
type Turn =
  | { kind: "leave"; filled: Partial<Message> }
  | { kind: "stop" }
  | { kind: "too late" }
  | { kind: "plan anew" }
  | { kind: "wait"; until: number; isKept: boolean }
  | { kind: "used up"; channel: Message["channel"] };

function turnOf(message: Message, context: AskContext | null, setting: Setting, quota: StoredQuota, now: number): Turn {
  // What is said by itself is said at once, or not at all: nobody is told at night that the office was closed.
  if (!context && message.reason?.code === "automatic" && now > (message.dueAt ?? now) + STALE)
    return { kind: "too late" };
  if (!context) return { kind: "leave", filled: {} };
  // It was handed over before, by a worker that was killed: the very same once more.
  if (message.state === "sending")
    return context.ask.stop || context.ask.ended ? { kind: "stop" } : { kind: "leave", filled: {} };
  const filled = readyToLeave(context, setting, message, now);
  if (!filled?.channel) return { kind: "plan anew" };
  const permit = (free: number) => {
    const then = nextOf(context, setting, now, { ceilingAt: free });
    return then.kind === "send" && then.channel === filled.channel ? then.at : null;
  };
  // A moment was kept on the channel the message was planned for, and on no other.
  const promised = message.hold === "ceiling" && message.channel === filled.channel ? message.dueAt : null;
  const slot = quota.slot(filled.channel, now, promised, permit);
  if (slot.at > now) return { kind: "wait", until: slot.at, isKept: slot.isKept };
  if (message.attempts === 0 && !quota.affords(filled.channel, now, partsOf(filled, setting)))
    return { kind: "used up", channel: filled.channel };
  return { kind: "leave", filled };
}

/** What a message costs of the allowance: the parts of a text, those that a picture is worth, one for an email. */
function partsOf({ channel, parts, picture }: Partial<Message>, { client }: Setting): number {
  if (channel !== "text") return 1;
  return typeof picture === "string" ? mediaParts(client.mediaPrice, client.partPrice) : (parts ?? 1);
}

function outgoingOf(message: Message, context: AskContext | null, setting: Setting, now: number): Outgoing {
  const { client } = setting;
  return {
    message,
    context,
    fromName: senderName(context, setting, message, now),
    sender: senderOf(setting),
    business: client.name,
    postalAddress: client.postalAddress,
    textNumber: client.textNumber,
    look: lookAt(setting, context?.ask.branchId ?? message.branchId),
    language: languageOfVariant(message.variant, client.language),
  };
}

/** The message filled in, when its ask still says that it leaves now; else null. */
function readyToLeave(context: AskContext, setting: Setting, message: Message, now: number): Partial<Message> | null {
  const { ask, plan } = context;
  const next = nextOf(context, setting, now);
  if (next.kind !== "send" || next.leg !== message.step || message.planVersion !== ask.planVersion || next.at > now)
    return null;
  const to = writtenTo(context, setting, now);
  const words = composeStep(context, setting, now, next.step, next.channel, answerLink(ask.token, next.leg));
  return {
    channel: next.channel,
    address: next.channel === "email" ? to.email : to.phone,
    subject: words.subject,
    body: words.body,
    parts: words.parts,
    stepName: plan.rules.steps[next.step].name,
    wording: words.wording,
    variant: words.variant,
    picture: words.picture,
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
  if (name) return `${name}, ${setting.client.name}`;
  return lookAt(setting, context?.ask.branchId ?? message.branchId).senderName || setting.client.name;
}
