import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { nextPermitted } from "@/core/time/sendHours";
import { recordAudit } from "@/features/audit";
import { calendarOf, loadSetting } from "@/features/clients";
import { recipientZones } from "@/features/people";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { messages } from "@/schema/messages";
import { type AskContext, loadContexts, lockAsks, nextOf, writtenTo } from "./contexts";
import { planNext, stopAsks } from "./schedule";

/** What a person does with asks under way: for one, or for many at once. Each action is noted with who did it. */

export const STEERS = ["send now", "send now at any hour", "hold", "release", "cancel", "send again"] as const;
export type Steer = (typeof STEERS)[number];

/** How many asks one action takes at most. */
export const MOST_STEERED = 500;

export type Steered = { done: number; passed: { why: string; count: number }[] };

/** Asks that still run, of those named; locked. */
async function running(tx: Tx, scope: Scope, askIds: readonly string[]): Promise<AskContext[]> {
  const ids = [...new Set(askIds)].slice(0, MOST_STEERED).sort();
  await lockAsks(tx, scope, ids);
  return (await loadContexts(tx, scope, ids)).filter(({ ask }) => !ask.stop && !ask.ended);
}

/** How many of these would wait for the hours to open if they were sent now: what somebody should know before. */
export async function outsideHours(
  tx: Tx,
  scope: Scope,
  askIds: readonly string[],
  now: number,
): Promise<{ asks: number; outside: number }> {
  const setting = await loadSetting(tx);
  const contexts = await running(tx, scope, askIds);
  let outside = 0;
  for (const context of contexts) {
    const next = nextOf({ ...context, ask: { ...context.ask, heldBy: null } }, setting, now);
    if (next.kind !== "send") continue;
    const permitted = nextPermitted(
      now,
      next.channel,
      calendarOf(setting, context.ask.branchId, now),
      recipientZones(writtenTo(context, setting, now), setting.client.country),
    );
    if (!permitted || permitted.at > now) outside += 1;
  }
  return { asks: contexts.length, outside };
}

/** Does one action with asks. What it cannot be done with is passed over, and the reason told. */
export async function steer(
  tx: Tx,
  scope: Scope,
  who: string,
  action: Steer,
  askIds: readonly string[],
  now: number,
): Promise<Steered> {
  const setting = await loadSetting(tx);
  const passed = new Map<string, number>();
  const pass = (why: string, count = 1) => passed.set(why, (passed.get(why) ?? 0) + count);
  const done: string[] = [];
  if (action === "send again") {
    for (const id of await sendAgain(tx, scope, askIds, now, pass)) done.push(id);
  } else {
    const contexts = await running(tx, scope, askIds);
    const over = new Set(askIds).size - contexts.length;
    if (over > 0) pass("had already ended", over);
    const changed: AskContext[] = [];
    const set = async (context: AskContext, change: Partial<typeof asks.$inferInsert>) => {
      await tx.update(asks).set(change).where(eq(asks.id, context.ask.id));
      changed.push({ ...context, ask: { ...context.ask, ...change } as AskContext["ask"] });
      done.push(context.ask.id);
    };
    for (const context of contexts) {
      const { ask, plan } = context;
      if (action === "hold") {
        if (ask.heldBy) pass("was already on hold");
        else await set(context, { heldBy: who, heldAt: now });
      } else if (action === "release") {
        if (!ask.heldBy) pass(plan.state === "paused" ? "is on hold because its plan is paused" : "wasn’t on hold");
        else await set(context, { heldBy: null, heldAt: null });
      } else if (action === "cancel") done.push(ask.id);
      else {
        const free = { ...context, ask: { ...ask, heldBy: null } };
        const next = nextOf(free, setting, now);
        if (next.kind === "held") pass("is on hold because its plan is paused");
        else if (next.kind === "end") pass("has nothing left to send out");
        else
          await set(context, {
            heldBy: null,
            heldAt: null,
            allowanceFrom: null,
            sendNow: { leg: next.leg, at: now, overHours: action === "send now at any hour" },
          });
      }
    }
    if (action === "cancel") await stopAsks(tx, scope, done, "cancelled by hand", now);
    else await planNext(tx, scope, setting, changed, now);
  }
  for (const askId of done)
    await recordAudit(tx, { clientId: scope.clientId, at: now, who, action, subject: "ask", subjectId: askId });
  return { done: done.length, passed: [...passed].map(([why, count]) => ({ why, count })) };
}

/** Sends the message again that came back or was given up, once what was wrong is put right. */
async function sendAgain(
  tx: Tx,
  scope: Scope,
  askIds: readonly string[],
  now: number,
  pass: (why: string) => void,
): Promise<string[]> {
  const setting = await loadSetting(tx);
  const ids = [...new Set(askIds)].slice(0, MOST_STEERED).sort();
  await lockAsks(tx, scope, ids);
  const contexts = await loadContexts(tx, scope, ids);
  const lost = await tx
    .select({ askId: messages.askId, step: messages.step, version: messages.planVersion })
    .from(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        anyOf(messages.askId, ids),
        inArray(messages.state, ["bounced", "failed"]),
      ),
    );
  const others = await tx
    .select({ personId: asks.personId, id: asks.id })
    .from(asks)
    .where(
      and(
        eq(asks.clientId, scope.clientId),
        anyOf(
          asks.personId,
          contexts.map(({ person }) => person.id),
        ),
        isNull(asks.stop),
        isNull(asks.ended),
      ),
    );
  const done: string[] = [];
  for (const context of contexts) {
    const { ask } = context;
    const back = lost.filter(({ askId }) => askId === ask.id);
    if (back.length === 0) pass("had nothing that bounced");
    else if (ask.stop) pass("was stopped for a reason that still applies");
    else if (others.some(({ personId, id }) => personId === ask.personId && id !== ask.id))
      pass("is now being asked about another visit");
    else {
      const first = Math.min(
        ...back.filter(({ version }) => version === ask.planVersion).map(({ step }) => step ?? 0),
        ask.done,
      );
      const again = {
        ...context,
        ask: { ...ask, done: first, ended: null, endedAt: null, sendNow: { leg: first, at: now, overHours: false } },
      };
      const next = nextOf(again, setting, now);
      if (next.kind !== "send") {
        pass("still has no working address");
        continue;
      }
      await tx
        .update(asks)
        .set({ done: first, ended: null, endedAt: null, sendNow: again.ask.sendNow })
        .where(and(eq(asks.id, ask.id), sql`${asks.stop} is null`));
      await planNext(tx, scope, setting, [again], now);
      done.push(ask.id);
    }
  }
  return done;
}
