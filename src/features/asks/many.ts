import { and, desc, eq, inArray, lte, sql } from "drizzle-orm";
import { examineByHand, type Verdict } from "@/core/asks/eligibility";
import type { Reason } from "@/core/asks/findings";
import { sayPhone } from "@/core/contacts/phone";
import { planByHand } from "@/core/plans/takes";
import { loadSetting } from "@/features/clients";
import { nameOf, type Person } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { setDecisions } from "@/features/visits";
import { reasonWords } from "@/locales/asking";
import { answerLink } from "@/platform/customerLinks";
import { acrossBranches, anyOf, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { type AskContext, loadContexts, nextOf, openAsksOf, wouldBeAsk, writtenTo } from "./contexts";
import { beginAsks, beginningOf, type NewAsk } from "./decide";
import { EligibilityFacts, lockHomes } from "./eligibilityFacts";
import { foretellAsks, sayLeaves } from "./foretell";
import { planNext } from "./schedule";
import { composeStep } from "./wording";

/** Asking many at once: whom a plan would leave out is left out here too, save for visits that are long over. */

export const MOST_AT_ONCE = 500;

export type WouldAsk = {
  personId: string;
  name: string;
  to: string;
  channel: "text" | "email";
  subject: string | null;
  body: string;
  /** When it leaves as things stand, and in words. */
  leavesAt: number;
  leaves: string;
};
export type WouldLeaveOut = { personId: string; name: string; why: string };

type Candidate = {
  would: Omit<WouldAsk, "leaves">;
  visit: Visit;
  channel: "text" | "email";
  plan: Plan;
  person: Person;
  trace: Verdict["trace"];
  /** The ask that would begin. */
  context: AskContext;
};

/** What would be sent to each of these people, word for word, and who would be left out and why. */
export async function considerMany(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  now: number,
): Promise<{ asked: Candidate[]; leftOut: WouldLeaveOut[] }> {
  const setting = await loadSetting(tx);
  const plans = await listPlans(tx, scope);
  const persons = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), anyOf(people.id, ids.slice(0, MOST_AT_ONCE))))
    .orderBy(people.family, people.given, people.id);
  const personIds = persons.map(({ id }) => id);
  const last = await tx
    .selectDistinctOn([visits.personId])
    .from(visits)
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        anyOf(visits.personId, personIds),
        lte(visits.endsAt, now),
        inArray(visits.outcome, ["finished", "booked"]),
      ),
    )
    .orderBy(visits.personId, desc(visits.endsAt));
  const visitOf = new Map(last.map((visit) => [visit.personId, visit]));
  // Whether somebody may be asked does not end at a branch.
  const { facts, open } = await acrossBranches(tx, async () => ({
    facts: await EligibilityFacts.load(tx, scope, setting, persons, last, now),
    open: new Set((await openAsksOf(tx, scope, personIds)).map(({ personId }) => personId)),
  }));
  const asked: Candidate[] = [];
  const leftOut: WouldLeaveOut[] = [];
  for (const person of persons) {
    const leave = (why: string) => leftOut.push({ personId: person.id, name: nameOf(person), why });
    const found = visitOf.get(person.id);
    if (!found) {
      leave("hasn’t been in yet");
      continue;
    }
    const visit: Visit = { ...found, outcome: "finished" };
    const guardian = facts.guardianOf(person);
    const plan = planByHand(plans, beginningOf(visit));
    const verdict = examineByHand(facts.forVisit(plan, [], visit, person, open.has(person.id)));
    const advice = verdict.advice.find(({ rule }) => rule !== "too late");
    if (!verdict.asked || advice || !plan) {
      leave(reasonWords(verdict.asked ? ((advice?.rule ?? "no plan") as Reason) : verdict.reason));
      continue;
    }
    const context = {
      ask: { ...wouldBeAsk(visit, plan, now), anchorAt: now, byHand: true },
      plan,
      person,
      visit,
      guardian,
      along: [],
    };
    const next = nextOf(context, setting, now);
    if (next.kind !== "send") {
      leave(next.kind === "held" ? "the plan is paused" : "the send hours never open");
      continue;
    }
    const words = composeStep(context, setting, now, next.step, next.channel, answerLink("xxxxxxxxxxxxxx", 0));
    const to = writtenTo(context, setting, now);
    asked.push({
      visit,
      plan,
      person,
      trace: verdict.trace,
      channel: next.channel,
      context: { ...context, ask: { ...context.ask, chosenChannel: next.channel } },
      would: {
        personId: person.id,
        name: nameOf(person),
        to: next.channel === "email" ? (to.email ?? "") : sayPhone(to.phone ?? ""),
        channel: next.channel,
        subject: words.subject,
        body: words.body,
        leavesAt: Math.max(now, next.at),
      },
    });
  }
  return { asked, leftOut };
}

/** As `considerMany`, with the moments at which their messages leave: what is limited leaves one after the other. */
export async function foretellMany(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  now: number,
): Promise<{ asked: WouldAsk[]; leftOut: WouldLeaveOut[] }> {
  const { asked, leftOut } = await considerMany(tx, scope, ids, now);
  const setting = await loadSetting(tx);
  const begun = asked.map(({ context }) => context);
  const firsts = await foretellAsks(tx, scope, setting, begun, [], now);
  return {
    asked: asked.map(({ would, visit }) => {
      const leavesAt = Math.max(now, firsts.get(would.personId) ?? would.leavesAt);
      return { ...would, leavesAt, leaves: sayLeaves(setting, visit.branchId, leavesAt, now) };
    }),
    leftOut,
  };
}

/**
 * Asks these people, each at most once for a request key, in a few statements however many they are. Whoever was asked
 * meanwhile is left out.
 */
export async function askMany(
  tx: Tx,
  scope: Scope,
  it: { ids: readonly string[]; who: string; requestKey: string; now: number },
): Promise<{ asked: number; leftOut: number }> {
  const wanted = it.ids.slice(0, MOST_AT_ONCE);
  const found = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), anyOf(people.id, wanted)));
  await acrossBranches(tx, () => lockHomes(tx, scope, found));
  const keyOf = (personId: string) => `${it.requestKey} ${personId}`;
  const known = await tx
    .select({ personId: asks.personId })
    .from(asks)
    .where(
      and(eq(asks.clientId, scope.clientId), sql`${asks.requestKey} = any(${sql.param(wanted.map(keyOf))}::text[])`),
    );
  const done = new Set(known.map(({ personId }) => personId));
  const { asked, leftOut } = await considerMany(
    tx,
    scope,
    wanted.filter((id) => !done.has(id)),
    it.now,
  );
  const setting = await loadSetting(tx);
  const fresh: NewAsk[] = asked.map(({ plan, visit, person, trace, channel }) => ({
    id: newId(),
    plan,
    visit,
    person,
    trace,
    anchorAt: it.now,
    createdAt: it.now,
    byHand: true,
    askedBy: it.who,
    chosenChannel: channel,
    requestKey: keyOf(person.id),
  }));
  await beginAsks(tx, scope, setting, fresh);
  await setDecisions(
    tx,
    scope,
    fresh.map(({ id, visit, trace }) => ({
      id: visit.id,
      outcome: visit.outcome,
      decision: "asked" as const,
      reason: null,
      trace,
      ask: id,
    })),
    it.now,
  );
  await planNext(
    tx,
    scope,
    setting,
    await loadContexts(
      tx,
      scope,
      fresh.map(({ id }) => id),
      true,
    ),
    it.now,
    { hasOthers: false },
  );
  return { asked: fresh.length + done.size, leftOut: leftOut.length };
}
