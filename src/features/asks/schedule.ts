import { and, eq, inArray, sql } from "drizzle-orm";
import type { NextStep, Stop } from "@/core/asks/nextStep";
import { sayWhyThen } from "@/core/asks/whyThen";
import { newId } from "@/platform/columns";
import type { Scope, Tx } from "@/platform/database";
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
export async function planNext(tx: Tx, scope: Scope, setting: Setting, contexts: AskContext[], now: number, retryAt: Map<string, number> = new Map()): Promise<void> {
  const planned: (typeof messages.$inferInsert)[] = [];
  for (const context of contexts) {
    const { ask, person } = context;
    const next = nextOf(context, setting, now, retryAt.get(ask.id) ?? null);
    if (next.kind === "end") {
      if (next.outcome !== "stopped") await endAsk(tx, scope, ask.id, next.outcome, now);
      continue;
    }
    planned.push({
      id: newId(),
      clientId: scope.clientId,
      personId: person.id,
      branchId: ask.branchId,
      askId: ask.id,
      direction: "out",
      channel: next.kind === "send" ? next.channel : context.plan.rules.steps[next.step].channel,
      step: next.step,
      state: next.kind === "send" ? "planned" : "held",
      reason: next.kind === "send" ? whySentence(context, setting, next, now) : "The plan is paused.",
      dueAt: next.kind === "send" ? next.at : now,
      createdAt: now,
    });
  }
  if (planned.length === 0) return;
  await tx
    .insert(messages)
    .values(planned)
    .onConflictDoUpdate({
      target: [messages.askId, messages.step],
      targetWhere: sql`direction = 'out' and step is not null and state not in ('bounced', 'failed')`,
      set: {
        channel: sql`excluded.channel`,
        state: sql`excluded.state`,
        reason: sql`excluded.reason`,
        dueAt: sql`excluded.due_at`,
        claimId: null,
        claimedUntil: null,
      },
      setWhere: sql`${messages.state} in ('planned', 'held')`,
    });
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
    .where(and(eq(asks.clientId, scope.clientId), inArray(asks.id, askIds), sql`${asks.stop} is null`))
    .returning({ id: asks.id });
  await dropPlanned(
    tx,
    scope,
    stopped.map(({ id }) => id),
    STOP_WORDS[stop],
    now,
  );
}

async function dropPlanned(tx: Tx, scope: Scope, askIds: string[], reason: string, now: number): Promise<void> {
  if (askIds.length === 0) return;
  await tx
    .update(messages)
    .set({ state: "stopped", reason, endedAt: now })
    .where(and(eq(messages.clientId, scope.clientId), inArray(messages.askId, askIds), inArray(messages.state, ["planned", "held"])));
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
