import { and, eq, inArray, sql } from "drizzle-orm";
import type { NextStep, Stop } from "@/core/asks/nextStep";
import { sayWhyThen } from "@/core/asks/whyThen";
import type { Channel } from "@/core/time/sendHours";
import { newId } from "@/platform/columns";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { calendarOf, type Setting } from "../clients";
import { messages } from "../messages";
import { type AskContext, loadContexts, nextOf } from "./contexts";
import { type AskEnd, asks } from "./tables";

const END_WORDS: Record<AskEnd, string> = {
  "all sent": "Every message has been sent.",
  "too late": "Too late: it could not leave while the visit was fresh.",
  unreachable: "No address is left that reaches this person.",
  "never open": "The send hours never open.",
};

const STOP_WORDS: Record<Stop, string> = {
  answered: "Not needed: they answered.",
  "followed a site": "Not needed: they went to a review site.",
  "wrote back": "Not needed: they wrote back.",
  "opted out": "They want no more messages.",
  "visit cancelled": "The visit was cancelled.",
  "cancelled by hand": "Cancelled by hand.",
  reviewed: "Not needed: they wrote a review.",
};

/** Why a planned message leaves when it does. */
export function whySentence(context: AskContext, setting: Setting, next: Extract<NextStep, { kind: "send" }>, now: number): string {
  return sayWhyThen(next.why, next.at, {
    delay: context.plan.rules.steps[next.step].delay,
    isFirst: next.step === 0,
    channel: next.channel,
    calendar: calendarOf(setting, context.ask.branchId, now),
  });
}

/**
 * Works out what each ask does next and writes it down: a planned message with its time and reason, or the ask's end.
 * A message of the same step that is still planned is moved, not added again.
 */
export async function planNext(tx: Tx, scope: Scope, setting: Setting, contexts: AskContext[], now: number, retries: Map<string, Retry> = new Map()): Promise<void> {
  const planned: Planned[] = [];
  for (const context of contexts) {
    const { ask, person } = context;
    const retry = retries.get(ask.id);
    const next = nextOf(context, setting, now, retry?.at ?? null);
    if (next.kind === "end") {
      if (next.outcome !== "stopped") await endAsk(tx, scope, ask.id, next.outcome, now);
      continue;
    }
    planned.push({
      id: newId(),
      person: person.id,
      branch: ask.branchId,
      ask: ask.id,
      channel: next.kind === "send" ? next.channel : context.plan.rules.steps[next.step].channel,
      step: next.step,
      state: next.kind === "send" ? "planned" : "held",
      reason: next.kind === "send" ? (retry?.reason ?? whySentence(context, setting, next, now)) : "The plan is paused.",
      due: new Date(next.kind === "send" ? next.at : now).toISOString(),
      first: setting.tags.some(({ name, effect }) => effect === "ask first" && person.tags.includes(name)),
    });
  }
  if (planned.length > 0) await writePlanned(tx, scope, planned, now);
}

/** A try that did not get through: when to try again, and what to say about it. */
export type Retry = { at: number; reason: string };

type Planned = { id: string; person: string; branch: string; ask: string; channel: Channel; step: number; state: "planned" | "held"; reason: string; due: string; first: boolean };

/** Adds planned messages, or moves those that are there already, in one statement however many they are. */
async function writePlanned(tx: Tx, scope: Scope, planned: Planned[], now: number): Promise<void> {
  await tx.execute(sql`
    insert into messages (id, client_id, person_id, branch_id, ask_id, direction, channel, step, state, reason, due_at, goes_first, created_at)
    select d.id, ${scope.clientId}, d.person, d.branch, d.ask, 'out', d.channel, d.step, d.state, d.reason, d.due, d.first, ${new Date(now).toISOString()}
    from jsonb_to_recordset(${JSON.stringify(planned)}::jsonb) as d(
      id uuid, person uuid, branch uuid, ask uuid, channel text, step int, state text, reason text, due timestamptz, first boolean)
    on conflict (ask_id, step) where direction = 'out' and step is not null and state not in ('bounced', 'failed')
    do update set channel = excluded.channel, state = excluded.state, reason = excluded.reason, due_at = excluded.due_at, goes_first = excluded.goes_first,
      claim_id = null, claimed_until = null
    where messages.state in ('planned', 'held')`);
}

async function endAsk(tx: Tx, scope: Scope, askId: string, ended: AskEnd, now: number): Promise<void> {
  await tx
    .update(asks)
    .set({ ended, endedAt: now })
    .where(and(eq(asks.clientId, scope.clientId), eq(asks.id, askId)));
  await dropPlanned(tx, scope, [askId], END_WORDS[ended], now);
}

/** Stops open asks at once: what was planned will not leave. What is being handed over this very moment may still arrive. */
export async function stopAsks(tx: Tx, scope: Scope, askIds: string[], stop: Stop, now: number): Promise<void> {
  if (askIds.length === 0) return;
  const stopped = await tx
    .update(asks)
    .set({ stop, endedAt: now })
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.id, askIds), sql`${asks.stop} is null`))
    .returning({ id: asks.id });
  await dropPlanned(
    tx,
    scope,
    stopped.map(({ id }) => id),
    STOP_WORDS[stop],
    now,
  );
}

/** Stops the asks about visits that were cancelled or missed. */
export async function stopAsksOfVisits(tx: Tx, scope: Scope, visitIds: string[], now: number): Promise<void> {
  if (visitIds.length === 0) return;
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

async function dropPlanned(tx: Tx, scope: Scope, askIds: string[], reason: string, now: number): Promise<void> {
  if (askIds.length === 0) return;
  await tx
    .update(messages)
    .set({ state: "stopped", reason, endedAt: now })
    .where(and(eq(messages.clientId, scope.clientId), anyOf(messages.askId, askIds), inArray(messages.state, ["planned", "held"])));
}

/** What stopping says about a message. */
export function sayStop(stop: Stop): string {
  return STOP_WORDS[stop];
}

/** What an ask's end says about its messages. */
export function sayEnd(end: AskEnd): string {
  return END_WORDS[end];
}

/**
 * Works out anew what every open ask of the client does next: after its plan, its hours or its state changed.
 * Messages that are being handed over are left alone.
 */
export async function replanAll(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<number> {
  const open = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), sql`${asks.stop} is null and ${asks.ended} is null`));
  for (let index = 0; index < open.length; index += 500) {
    const contexts = await loadContexts(
      tx,
      scope,
      open.slice(index, index + 500).map(({ id }) => id),
      true,
    );
    await planNext(tx, scope, setting, contexts, now);
  }
  return open.length;
}
