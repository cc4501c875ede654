import { and, asc, desc, eq, isNull } from "drizzle-orm";
import { blockers, checkEligibility } from "@/core/asks/eligibility";
import type { TraceLine } from "@/core/asks/findings";
import type { Scheduled } from "@/core/asks/messageReasons";
import { projectAsk, type Send } from "@/core/asks/nextStep";
import { sayBegins } from "@/core/plans/sayRules";
import { calendarOf, type Setting } from "@/features/clients";
import { addressesOf, findPerson, type Person, recipientZones } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import { NO_VISIT, type Visit } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { messages } from "@/schema/messages";
import { visits } from "@/schema/visits";
import { type Ask, type AskContext, loadContexts, soFar, writtenTo } from "./contexts";
import { planOf } from "./decide";
import { EligibilityFacts } from "./eligibilityFacts";
import { scheduledOf } from "./schedule";

export type WhyVisit = {
  visit: Visit;
  person: Person;
  plans: Plan[];
  /** The plan that takes it as things stand. */
  plan: Plan | null;
  alsoTakenBy: readonly string[];
  /** Every rule that would object now. */
  objecting: TraceLine[];
  ask: Ask | null;
  context: AskContext | null;
  sent: (typeof messages.$inferSelect)[];
  /** What its ask would still send if nobody reacted. */
  ahead: { send: Send; why: Scheduled; name: string }[];
};

/** All that can be said about why somebody was or was not asked about one visit. */
export async function whyVisit(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  visitId: string,
  now: number,
): Promise<WhyVisit | null> {
  const [visit] = await tx
    .select()
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.id, visitId)));
  const person = visit && (await findPerson(tx, scope, visit.personId));
  if (!visit || !person) return null;
  const plans = await listPlans(tx, scope);
  const { plan, alsoTakenBy } = planOf(plans, visit);
  const facts = await EligibilityFacts.load(tx, scope, setting, [person], [visit], now);
  const [ask] = visit.askId
    ? await tx.select().from(asks).where(eq(asks.id, visit.askId))
    : await tx
        .select()
        .from(asks)
        .where(and(eq(asks.clientId, scope.clientId), eq(asks.visitId, visit.id)))
        .orderBy(desc(asks.createdAt))
        .limit(1);
  const [context] = ask ? await loadContexts(tx, scope, [ask.id]) : [];
  const sent = ask
    ? await tx
        .select()
        .from(messages)
        .where(and(eq(messages.clientId, scope.clientId), eq(messages.askId, ask.id)))
        .orderBy(asc(messages.createdAt), asc(messages.step))
    : [];
  return {
    visit,
    person,
    plans,
    plan,
    alsoTakenBy,
    objecting: blockers(facts.forVisit(plan, alsoTakenBy, visit, person)),
    ask: ask ?? null,
    context: context ?? null,
    sent,
    ahead: context && !context.ask.stop && !context.ask.ended ? aheadOf(context, setting, now) : [],
  };
}

function aheadOf(context: AskContext, setting: Setting, now: number): WhyVisit["ahead"] {
  const to = writtenTo(context, setting, now);
  const { messages: sends } = projectAsk(
    context.plan.rules,
    soFar(context, setting),
    addressesOf(to, setting.tags),
    calendarOf(setting, context.ask.branchId, now),
    recipientZones(to, setting.client.country),
    now,
  );
  return sends.map((send) => ({
    send,
    why: scheduledOf(context, setting, send, now),
    name: context.plan.rules.steps[send.step].name,
  }));
}

export type WhyPerson = { plan: Plan; begins: string; asked: boolean; trace: TraceLine[]; objecting: TraceLine[] };

/** What each plan would say to a person whose visit, like their last one, ended at this moment. */
export async function whyPerson(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  personId: string,
  now: number,
): Promise<{ person: Person; plans: WhyPerson[]; latest: Visit[] } | null> {
  const person = await findPerson(tx, scope, personId);
  if (!person) return null;
  const latest = await tx
    .select()
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.personId, personId), isNull(visits.examineAt)))
    .orderBy(desc(visits.endsAt))
    .limit(30);
  const last = latest[0];
  const visit: Visit = {
    ...NO_VISIT,
    personId,
    branchId: last?.branchId ?? setting.branches[0]?.id ?? "",
    serviceId: last?.serviceId ?? null,
    tags: last?.tags ?? [],
    endsAt: now,
    outcome: "finished",
  };
  const facts = await EligibilityFacts.load(tx, scope, setting, [person], [visit], now);
  const nameOf = (id: string) =>
    [...setting.services, ...setting.branches].find((one) => one.id === id)?.name ?? "something gone";
  const plans = (await listPlans(tx, scope))
    .filter(({ state }) => state === "running" || state === "paused")
    .map((plan): WhyPerson => {
      const candidate = facts.forVisit(plan, [], visit, person);
      const verdict = checkEligibility(candidate);
      return {
        plan,
        begins: sayBegins(plan.rules.begins, nameOf),
        asked: verdict.asked,
        trace: verdict.trace,
        objecting: blockers(candidate),
      };
    });
  return { person, plans, latest };
}
