import { and, eq, isNull, sql } from "drizzle-orm";
import { alias } from "drizzle-orm/pg-core";
import { type AskSoFar, type NextStep, nextStep } from "@/core/asks/nextStep";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { calendarOf, type Setting, todayOf } from "../clients";
import type { WordingFacts } from "../messages";
import { addresseeOf, addressesOf, type Person, people } from "../people";
import { type Plan, plans } from "../plans";
import { type Visit, visits } from "../visits";
import { asks } from "./tables";

export type Ask = typeof asks.$inferSelect;

/** An ask with everything its next step depends on. */
export type AskContext = { ask: Ask; plan: Plan; person: Person; visit: Visit /** Written to instead, for a minor. */; guardian: Person | null };

const guardians = alias(people, "guardians");

/** Whom the messages of an ask go to; for what has been sent or is shown, also where there is nobody to send to now. */
export function writtenTo({ person, guardian }: Pick<AskContext, "person" | "guardian">, setting: Setting, now: number): Person {
  return addresseeOf(person, guardian, todayOf(setting, now)) ?? person;
}

/** Loads asks with their plan, person and visit, and locks the ask rows when they are about to change. */
export async function loadContexts(tx: Tx, scope: Scope, askIds: string[], forUpdate = false): Promise<AskContext[]> {
  if (askIds.length === 0) return [];
  const query = tx
    .select({ ask: asks, plan: plans, person: people, visit: visits, guardian: guardians })
    .from(asks)
    .innerJoin(plans, eq(plans.id, asks.planId))
    .innerJoin(people, eq(people.id, asks.personId))
    .innerJoin(visits, eq(visits.id, asks.visitId))
    .leftJoin(guardians, eq(guardians.id, people.guardianId))
    .where(and(eq(asks.clientId, sql.placeholder("clientId")), sql`${asks.id} = any(${sql.placeholder("ids")})`))
    .orderBy(asks.id);
  // Planned once per connection: this join over four guarded tables takes longer to plan than to run.
  const prepared = forUpdate ? query.for("update", { of: asks }).prepare("asks_locked") : query.prepare("asks_seen");
  return prepared.execute({ clientId: scope.clientId, ids: askIds });
}

/** Locks asks and tells whether each still runs. Locked in the order of their ids, as everywhere. */
export async function lockAsks(tx: Tx, scope: Scope, askIds: string[]): Promise<Pick<Ask, "id" | "stop" | "ended">[]> {
  if (askIds.length === 0) return [];
  return tx
    .select({ id: asks.id, stop: asks.stop, ended: asks.ended })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.id, askIds)))
    .orderBy(asks.id)
    .for("update");
}

/** Open asks of a person, oldest first. */
export async function openAsksOf(tx: Tx, scope: Scope, personIds: string[]): Promise<Ask[]> {
  if (personIds.length === 0) return [];
  return tx
    .select()
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.personId, personIds), isNull(asks.stop), isNull(asks.ended)))
    .orderBy(asks.createdAt);
}

/** An ask that was begun and of which nothing has left yet: asking by hand brings it forward instead of adding another. */
export function isUnsent(ask: Ask): boolean {
  return ask.sentCount === 0;
}

/** The ask as the rules of core see it. */
export function soFar({ ask, plan, person }: Pick<AskContext, "ask" | "plan" | "person">, setting: Setting, retryAt: number | null = null): AskSoFar {
  return {
    anchorAt: ask.anchorAt,
    sentCount: ask.sentCount,
    lastSentAt: ask.lastSentAt,
    byHand: ask.byHand,
    chosenChannel: ask.chosenChannel,
    stop: ask.stop,
    retryAt,
    held: plan.state === "paused",
    lastToPersonAt: person.lastMessageAt,
    gapMinutes: setting.client.gapMinutes,
  };
}

/** What an ask does next: the facts of the database handed to the one function that decides. */
export function nextOf(context: AskContext, setting: Setting, now: number, retryAt: number | null = null): NextStep {
  // Nothing goes to a minor, also when the guardian is lost on the way.
  const to = addresseeOf(context.person, context.guardian, todayOf(setting, now));
  if (!to) return context.ask.stop ? { kind: "end", outcome: "stopped", stop: context.ask.stop } : { kind: "end", outcome: "unreachable" };
  // A guardian's messages keep their distance from those to every ward.
  const lastToPersonAt = latest(context.person.lastMessageAt, to.lastMessageAt);
  return nextStep(
    context.plan.rules,
    { ...soFar(context, setting, retryAt), lastToPersonAt },
    addressesOf(to, setting.tags),
    calendarOf(setting, context.ask.branchId, now),
    context.person.zone,
    now,
  );
}

function latest(a: number | null, b: number | null): number | null {
  return a === null ? b : b === null ? a : Math.max(a, b);
}

/** What the wording of an ask can speak of: a guardian is greeted, and reads of the minor. */
export function wordingFacts({ person, visit, guardian }: Pick<AskContext, "person" | "visit" | "guardian">, setting: Setting, now: number): WordingFacts {
  const to = writtenTo({ person, guardian }, setting, now);
  const nameIn = (list: { id: string; name: string }[], id: string | null) => list.find((one) => one.id === id)?.name ?? null;
  return {
    person: to,
    business: setting.client.name,
    branch: nameIn(setting.branches, visit.branchId) ?? setting.client.name,
    service: nameIn(setting.services, visit.serviceId) ?? "visit",
    about: visit.about ?? (to.id === person.id ? null : person.given),
    teamMember: nameIn(setting.team, visit.teamMemberId),
  };
}

/** The ask that `plan` would begin about `visit`: for looking ahead, never kept. */
export function wouldBeAsk(visit: Visit, plan: Plan, now: number): Ask {
  return {
    id: visit.id,
    clientId: visit.clientId,
    planId: plan.id,
    personId: visit.personId,
    visitId: visit.id,
    branchId: visit.branchId,
    token: "",
    anchorAt: visit.endsAt,
    byHand: false,
    askedBy: null,
    chosenChannel: null,
    sentCount: 0,
    lastSentAt: null,
    stop: null,
    ended: null,
    endedAt: null,
    answeredAt: null,
    siteFollowedAt: null,
    trace: null,
    createdAt: now,
    requestKey: null,
  };
}
