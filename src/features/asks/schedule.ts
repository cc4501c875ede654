import { and, eq, gt, inArray, sql } from "drizzle-orm";
import { sourceOfStop } from "@/core/asks/askEvents";
import type { MessageReason, Scheduled } from "@/core/asks/messageReasons";
import type { AskEnd, Hold, Send, Stop } from "@/core/asks/nextStep";
import { whyThen } from "@/core/asks/whyThen";
import { groupBy } from "@/core/groups";
import { legsOf } from "@/core/plans/legs";
import type { Channel } from "@/core/time/sendHours";
import { calendarOf, loadSetting, type Setting } from "@/features/clients";
import { leaveAsks } from "@/features/visits";
import { now as clockNow } from "@/platform/clock";
import { anyOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { messages } from "@/schema/messages";
import { type Ask, type AskContext, loadContexts, nextOf } from "./contexts";
import { recordEvents } from "./events";

/** Why a planned message leaves when it does. */
export function scheduledOf(context: AskContext, setting: Setting, next: Send, now: number): Scheduled {
  const leg = legsOf(context.plan.rules)[next.leg];
  const opensReview = leg.part === "review" && legsOf(context.plan.rules)[next.leg - 1]?.part !== "review";
  return whyThen(next.why, next.at, {
    delay: leg.delay,
    after: opensReview ? "answer" : context.ask.done > 0 ? "message" : isOfPortion(context) ? "portion" : "visit",
    begins: context.plan.rules.begins.kind,
    channel: next.channel,
    calendar: calendarOf(setting, context.ask.branchId, now),
  });
}

/** Whether it waited for its turn on a list that is asked so many a day. */
const isOfPortion = ({ ask, plan }: AskContext) => ask.isSpread && plan.rules.portions !== null;

/**
 * Works out what each ask does next and writes it down: a planned message with its time and reason, or the ask's end.
 * A message of the same step that is still planned is moved, not added again. `hasOthers` false: nothing else of these
 * asks can be planned, as when one has just left.
 */
export async function planNext(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  contexts: AskContext[],
  now: number,
  { retries = new Map(), hasOthers = true }: { retries?: Map<string, Retry>; hasOthers?: boolean } = {},
): Promise<void> {
  const planned: Planned[] = [];
  const ends: { askId: string; ended: AskEnd }[] = [];
  for (const context of contexts) {
    const { ask, person } = context;
    const retry = retries.get(ask.id);
    const next = nextOf(context, setting, now, retry ? { [retry.ceiling ? "ceilingAt" : "retryAt"]: retry.at } : {});
    if (next.kind === "end") {
      if (next.outcome !== "stopped") ends.push({ askId: ask.id, ended: next.outcome });
      continue;
    }
    planned.push({
      id: newId(),
      person: person.id,
      branch: ask.branchId,
      ask: ask.id,
      channel: next.kind === "send" ? next.channel : heldChannel(context, next.leg),
      step: next.leg,
      version: ask.planVersion,
      name: context.plan.rules.steps[next.step].name,
      hold:
        next.kind === "held"
          ? next.hold
          : next.why.includes("allowance")
            ? "allowance"
            : retry?.isKept
              ? "ceiling"
              : null,
      state: next.kind === "send" ? "planned" : "held",
      reason:
        next.kind === "send"
          ? (retry?.reason ?? scheduledOf(context, setting, next, now))
          : holdReason(next.hold, ask.heldBy),
      due: new Date(next.kind === "send" ? next.at : now).toISOString(),
      first:
        context.plan.rules.goesFirst ||
        setting.tags.some(({ name, effect }) => effect === "ask first" && person.tags.includes(name)),
    });
  }
  await endAsks(tx, scope, ends, now);
  if (planned.length > 0) await writePlanned(tx, scope, planned, now, hasOthers);
}

/** A try that did not get through: when to try again, and what to say about it. */
export type Retry = {
  at: number;
  reason?: MessageReason;
  /** The sender's ceiling, and no failure. */
  ceiling?: boolean;
  /** The ceiling keeps this moment for it. */
  isKept?: boolean;
};

function holdReason(hold: Hold, by: string | null): MessageReason {
  return hold === "by hand" ? { code: "held by hand", by: by ?? "" } : { code: "plan paused" };
}

function heldChannel(context: AskContext, index: number): Channel {
  const { channel } = legsOf(context.plan.rules)[index];
  return channel === "preferred" ? (context.person.prefers ?? "text") : channel;
}

type Planned = {
  id: string;
  person: string;
  branch: string;
  ask: string;
  channel: Channel;
  step: number;
  version: number;
  name: string;
  hold: "plan paused" | "by hand" | "allowance" | "ceiling" | null;
  state: "planned" | "held";
  reason: MessageReason;
  due: string;
  first: boolean;
};

/** Adds planned messages, or moves those that are there already, in one statement however many they are. */
async function writePlanned(tx: Tx, scope: Scope, planned: Planned[], now: number, hasOthers: boolean): Promise<void> {
  const data = JSON.stringify(planned);
  const at = new Date(now).toISOString();
  if (hasOthers) await dropOthers(tx, scope, data, at);
  await insertPlanned(tx, scope, data, at);
}

/** Takes away what was planned of these asks in another place. */
async function dropOthers(tx: Tx, scope: Scope, data: string, at: string): Promise<void> {
  // Another version plans it anew, in its own place. What was planned of another leg of the same version was passed
  // over.
  await tx.execute(sql`
    delete from messages m using jsonb_to_recordset(${data}::jsonb) as d(ask uuid, version int)
    where m.client_id = ${scope.clientId} and m.ask_id = d.ask and m.state in ('planned', 'held') and m.plan_version <> d.version`);
  await tx.execute(sql`
    update messages m set state = 'stopped', hold = null, ended_at = ${at}, reason = '{"code": "condition changed"}'
    from jsonb_to_recordset(${data}::jsonb) as d(ask uuid, step int)
    where m.client_id = ${scope.clientId} and m.ask_id = d.ask and m.state in ('planned', 'held') and m.step <> d.step`);
}

async function insertPlanned(tx: Tx, scope: Scope, data: string, at: string): Promise<void> {
  await tx.execute(sql`
    insert into messages (id, client_id, person_id, branch_id, ask_id, direction, channel, step, plan_version, step_name, hold, state, reason, due_at, goes_first, created_at)
    select d.id, ${scope.clientId}, d.person, d.branch, d.ask, 'out', d.channel, d.step, d.version, d.name, d.hold, d.state, d.reason, d.due, d.first, ${at}
    from jsonb_to_recordset(${data}::jsonb) as d(
      id uuid, person uuid, branch uuid, ask uuid, channel text, step int, version int, name text, hold text, state text, reason jsonb, due timestamptz, first boolean)
    on conflict (ask_id, plan_version, step) where direction = 'out' and step is not null and state not in ('bounced', 'failed', 'stopped')
    do update set channel = excluded.channel, state = excluded.state, reason = excluded.reason, due_at = excluded.due_at, goes_first = excluded.goes_first,
      step_name = excluded.step_name, hold = excluded.hold, claim_id = null, claimed_until = null
    where messages.state in ('planned', 'held')`);
}

/** Ends asks that have run their course, in as many statements however many end alike. */
async function endAsks(
  tx: Tx,
  scope: Scope,
  ends: readonly { askId: string; ended: AskEnd }[],
  now: number,
): Promise<void> {
  for (const [ended, alike] of groupBy(ends, (one) => one.ended)) {
    const ids = alike.map(({ askId }) => askId);
    await tx
      .update(asks)
      .set({ ended, endedAt: now })
      .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.id, ids)));
    await dropPlanned(tx, scope, ids, { code: "ask ended", ended }, now);
  }
  await recordEvents(
    tx,
    scope,
    ends.map(({ askId, ended }) => ({ kind: "ended" as const, source: "plan" as const, at: now, askId, code: ended })),
  );
}

/**
 * Stops open asks at once: what was planned will not leave. What is being handed over this very moment may still
 * arrive.
 */
export async function stopAsks(tx: Tx, scope: Scope, askIds: string[], stop: Stop, now: number): Promise<void> {
  if (askIds.length === 0) return;
  const stopped = await tx
    .update(asks)
    .set({ stop, endedAt: now })
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.id, askIds), sql`${asks.stop} is null`))
    .returning({ id: asks.id });
  await recordEvents(
    tx,
    scope,
    stopped.map(({ id }) => ({ kind: "stopped" as const, source: sourceOfStop(stop), at: now, askId: id, code: stop })),
  );
  await dropPlanned(
    tx,
    scope,
    stopped.map(({ id }) => id),
    { code: "ask stopped", stop },
    now,
  );
}

/**
 * Notes that an ask was answered, and what of the answer its plan goes by; `stops`: nothing of it follows. The ask is as it
 * stands under its lock.
 */
export async function setAnswered(
  tx: Tx,
  scope: Scope,
  ask: Pick<Ask, "id" | "stop" | "answeredAt" | "answerRating">,
  answer: { rating: number | null; judged: number; recommend: number | null },
  stops: boolean,
  now: number,
): Promise<void> {
  const stop: Stop | null = stops && ask.stop === null ? "answered" : null;
  await tx
    .update(asks)
    .set({
      answeredAt: ask.answeredAt ?? now,
      answerRating: answer.rating,
      answerJudged: answer.judged,
      answerRecommend: answer.recommend,
      ...(stop ? { stop, endedAt: now } : {}),
    })
    .where(and(eq(asks.clientId, scope.clientId), eq(asks.id, ask.id)));
  const { rating } = answer;
  const isNew = ask.answeredAt === null || (rating !== null && rating !== ask.answerRating);
  const of = { at: now, askId: ask.id };
  await recordEvents(tx, scope, [
    ...(isNew ? [{ kind: "answered" as const, source: "person" as const, ...of, rating }] : []),
    ...(stop ? [{ kind: "stopped" as const, source: sourceOfStop(stop), ...of, code: stop }] : []),
  ]);
  if (stop) await dropPlanned(tx, scope, [ask.id], { code: "ask stopped", stop }, now);
}

/** Stops every open ask of the client. Gives how many. */
export async function stopEveryAsk(tx: Tx, scope: Scope, stop: Stop, now: number): Promise<number> {
  const open = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), sql`${asks.stop} is null and ${asks.ended} is null`));
  await stopAsks(
    tx,
    scope,
    open.map(({ id }) => id),
    stop,
    now,
  );
  return open.length;
}

/**
 * Stops the asks about visits that were cancelled or missed. An ask that is about other visits of the day too goes on
 * about those.
 */
export async function stopAsksOfVisits(tx: Tx, scope: Scope, visitIds: string[], now: number): Promise<void> {
  if (visitIds.length === 0) return;
  const gone = sql`${sql.param(visitIds)}::uuid[]`;
  await tx.execute(sql`
    update asks a set visit_id = o.id from (
      select distinct on (v.ask_id) v.ask_id, v.id from visits v
      where v.client_id = ${scope.clientId} and v.ask_id in (select id from asks where client_id = ${scope.clientId} and visit_id = any(${gone}))
        and v.outcome = 'finished' and not v.id = any(${gone}) order by v.ask_id, v.ends_at, v.id) o
    where a.id = o.ask_id and a.client_id = ${scope.clientId} and a.stop is null and a.ended is null`);
  await leaveAsks(tx, scope, visitIds);
  const found = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.visitId, visitIds)));
  await stopAsks(
    tx,
    scope,
    found.map(({ id }) => id),
    "visit cancelled",
    now,
  );
}

async function dropPlanned(tx: Tx, scope: Scope, askIds: string[], reason: MessageReason, now: number): Promise<void> {
  if (askIds.length === 0) return;
  await tx
    .update(messages)
    .set({ state: "stopped", hold: null, reason, endedAt: now })
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        anyOf(messages.askId, askIds),
        inArray(messages.state, ["planned", "held"]),
      ),
    );
}

/** So many asks are worked out anew while one waits; more in the worker. */
const AT_ONCE = 200;
const PORTION = 500;

/**
 * Works out anew what every open ask of the client (or of one plan) does next: after its plan, its hours or its state
 * changed. Few at once, many in the worker: until it has come to them, a message is worked out anew in any case before
 * it leaves.
 */
export async function replanAll(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  now: number,
  planId: string | null = null,
): Promise<void> {
  const open = await openIds(tx, scope, planId, null, AT_ONCE + 1);
  if (open.length <= AT_ONCE) await replan(tx, scope, setting, open, now);
  else await addJob("replan", { clientId: scope.clientId, planId }, `replan ${scope.clientId} ${planId}`, tx);
}

/** What the worker does for `replanAll`: portion by portion, each in a transaction of its own. */
export async function replanPortions(
  { clientId, planId }: { clientId: string; planId: string | null },
  signal?: AbortSignal,
): Promise<void> {
  const scope = workFor(clientId);
  for (let after: string | null = null; ; ) {
    signal?.throwIfAborted();
    const done: string[] = await withClient(scope, async (tx) => {
      const ids = await openIds(tx, scope, planId, after, PORTION);
      await replan(tx, scope, await loadSetting(tx), ids, await clockNow());
      return ids;
    });
    if (done.length < PORTION) return;
    after = done[done.length - 1];
  }
}

async function openIds(
  tx: Tx,
  scope: Scope,
  planId: string | null,
  after: string | null,
  most: number,
): Promise<string[]> {
  const rows = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(
      and(
        eq(asks.clientId, scope.clientId),
        sql`${asks.stop} is null and ${asks.ended} is null`,
        planId ? eq(asks.planId, planId) : undefined,
        after ? gt(asks.id, after) : undefined,
      ),
    )
    .orderBy(asks.id)
    .limit(most);
  return rows.map(({ id }) => id);
}

/** Messages that are being handed over are left alone. */
async function replan(tx: Tx, scope: Scope, setting: Setting, ids: string[], now: number): Promise<void> {
  await planNext(tx, scope, setting, await loadContexts(tx, scope, ids, true), now);
}
