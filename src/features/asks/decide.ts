import { and, eq, inArray, isNotNull, sql } from "drizzle-orm";
import { checkEligibility, type Verdict } from "@/core/asks/eligibility";
import { nextPortion } from "@/core/plans/portions";
import { type BeginningVisit, planFor } from "@/core/plans/takes";
import { calendarOf, loadSetting, type Setting } from "@/features/clients";
import { nameOf, type Person } from "@/features/people";
import { bringForwardRun, listPlans, type Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { setDecisions, setWaitsFor, type VisitDecision } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { newToken } from "@/platform/secrets";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { type Ask, type AskContext, loadContexts } from "./contexts";
import { EligibilityFacts, lockHomes } from "./eligibilityFacts";
import { recordEvents } from "./events";
import { planNext } from "./schedule";
import { chooseFirstSites } from "./sites";
import { noticeAllowanceUsedUp } from "./usedUp";

/** Whether a list brought the visit. */
export function isFromList({ source }: Pick<Visit, "source">): boolean {
  return source === "file" || source === "drop-off";
}

/** Whether it was over already when its list came: its ask is spread with the list. */
export function isSpread(visit: Pick<Visit, "source" | "intakeId" | "endsAt" | "createdAt">): boolean {
  return isFromList(visit) && visit.intakeId !== null && visit.endsAt <= visit.createdAt;
}

/** What a plan's beginning looks at. */
export function beginningOf(visit: Pick<Visit, "serviceId" | "branchId" | "kind" | "source">): BeginningVisit {
  return { serviceId: visit.serviceId, branchId: visit.branchId, kind: visit.kind, fromList: isFromList(visit) };
}

/** The plan that takes a visit, and those further down that would. */
export function planOf(
  all: readonly Plan[],
  visit: Pick<Visit, "serviceId" | "branchId" | "kind" | "source">,
): { plan: Plan | null; alsoTakenBy: string[] } {
  return planFor(all, beginningOf(visit));
}

/** The first branch's hours are the hours of a list's portions. */
export function portionsFrom(setting: Setting, plan: Plan, from: number): number | null {
  const calendars = Object.fromEntries(
    setting.branches.slice(0, 1).map(({ id }) => [id, calendarOf(setting, id, from)]),
  );
  return nextPortion(plan.rules, { calendars }, from);
}

/** Lets plans decide about visits whose time has come; the verdict and its trace are kept with each. */
export async function decideVisits(
  tx: Tx,
  scope: Scope,
  visitIds: string[],
  now: number,
): Promise<{ asked: number; leftOut: number }> {
  const due = await tx
    .select()
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), inArray(visits.id, visitIds), isNotNull(visits.examineAt)))
    .orderBy(visits.endsAt, visits.id)
    .for("update");
  if (due.length === 0) return { asked: 0, leftOut: 0 };
  const setting = await loadSetting(tx);
  const all = await listPlans(tx, scope);
  const taken = due.map((visit) => ({ visit, ...planOf(all, visit) }));
  const waiting = taken.filter(
    (one): one is typeof one & { plan: Plan } => one.plan?.state === "running" && one.plan.rules.portions !== null,
  );
  await waitForPortions(tx, scope, setting, waiting, now);
  return decide(
    tx,
    scope,
    setting,
    taken.filter(({ visit }) => !waiting.some((one) => one.visit.id === visit.id)),
    now,
    false,
  );
}

/** Visits of lists that are asked in portions wait for their turn. */
async function waitForPortions(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  waiting: readonly { visit: Visit; plan: Plan }[],
  now: number,
): Promise<void> {
  const byPlan = new Map<string, { plan: Plan; ids: string[] }>();
  for (const { visit, plan } of waiting) {
    const found = byPlan.get(plan.id);
    if (found) found.ids.push(visit.id);
    else byPlan.set(plan.id, { plan, ids: [visit.id] });
  }
  for (const { plan, ids } of byPlan.values()) {
    await setWaitsFor(tx, scope, ids, plan.id);
    const first = portionsFrom(setting, plan, now);
    if (first !== null) await bringForwardRun(tx, scope, plan.id, first);
  }
}

type Taken = { visit: Visit; plan: Plan | null; alsoTakenBy: readonly string[] };

/**
 * Decides about visits, one after the other, and begins the asks. `most`: no more than so many are asked; the rest is
 * left as it is.
 */
export async function decide(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  taken: readonly Taken[],
  now: number,
  portion: boolean,
  most = Number.POSITIVE_INFINITY,
): Promise<{ asked: number; leftOut: number }> {
  if (taken.length === 0) return { asked: 0, leftOut: 0 };
  const personIds = [...new Set(taken.map(({ visit }) => visit.personId))];
  const before = await tx.select().from(people).where(inArray(people.id, personIds));
  await lockHomes(tx, scope, before);
  // Read again: whoever held the lock may have asked them.
  const persons = new Map(
    (await tx.select().from(people).where(inArray(people.id, personIds))).map((person) => [person.id, person]),
  );
  const facts = await EligibilityFacts.load(
    tx,
    scope,
    setting,
    [...persons.values()],
    taken.map(({ visit }) => visit),
    now,
  );
  if (!facts.allowanceLeft)
    for (const channel of ["text", "email"] as const) await noticeAllowanceUsedUp(tx, scope, setting, channel, now);
  const decided: VisitDecision[] = [];
  const fresh: NewAsk[] = [];
  const joined = new Map<string, number>();
  let asked = 0;
  for (const { visit, plan, alsoTakenBy } of taken) {
    const person = persons.get(visit.personId);
    if (!person) continue;
    if (asked >= most) break;
    const candidate = facts.forVisit(plan, alsoTakenBy, visit, person);
    const verdict = checkEligibility(candidate);
    const told = { id: visit.id, outcome: candidate.visit.outcome, trace: verdict.trace };
    if (!verdict.asked || !plan) {
      decided.push({ ...told, decision: "left out", reason: verdict.asked ? "no plan" : verdict.reason, ask: null });
      continue;
    }
    asked += 1;
    const home = verdict.joins ? facts.joinable(plan, person, visit) : null;
    if (home) {
      decided.push({ ...told, decision: "asked", reason: null, ask: home.id });
      joined.set(home.id, Math.max(joined.get(home.id) ?? 0, portion ? 0 : visit.endsAt));
      continue;
    }
    const ask: NewAsk = {
      id: newId(),
      plan,
      visit,
      person,
      trace: verdict.trace,
      anchorAt: portion ? now : visit.endsAt,
      isSpread: portion || isSpread(visit),
      createdAt: now,
    };
    fresh.push(ask);
    decided.push({ ...told, decision: "asked", reason: null, ask: ask.id });
    facts.add(person, {
      id: ask.id,
      open: true,
      endsAt: visit.endsAt,
      branchId: visit.branchId,
      soFar: { done: 0, byHand: false },
      plan: { id: plan.id },
      person: { id: person.id, name: nameOf(person) },
    });
  }
  const begun = await beginAsks(tx, scope, setting, fresh);
  await setDecisions(tx, scope, decided, now);
  for (const [askId, anchor] of joined) {
    await tx
      .update(asks)
      .set({ anchorAt: sql`greatest(${asks.anchorAt}, ${new Date(anchor).toISOString()})` })
      .where(and(eq(asks.clientId, scope.clientId), eq(asks.id, askId)));
  }
  // What has just begun is known; read are those that a visit joined.
  const isJoined = ({ id }: Pick<NewAsk, "id">) => joined.has(id);
  const contexts = [
    ...fresh.flatMap((one): AskContext | [] => {
      const ask = begun.get(one.id);
      const { plan, person, visit } = one;
      return !ask || isJoined(one) ? [] : { ask, plan, person, visit, guardian: facts.guardianOf(person), along: [] };
    }),
    ...(await loadContexts(tx, scope, [...joined.keys()])),
  ];
  await planNext(tx, scope, setting, contexts, now, { hasOthers: false });
  return { asked, leftOut: decided.filter(({ decision }) => decision === "left out").length };
}

export type NewAsk = {
  id: string;
  plan: Plan;
  visit: Visit;
  person: Person;
  trace: Verdict["trace"];
  anchorAt: number;
  createdAt: number;
} & Partial<Pick<typeof asks.$inferInsert, "byHand" | "askedBy" | "chosenChannel" | "requestKey" | "isSpread">>;

/** Begins asks, with the site that comes first for each; gives them by their identifiers. */
export async function beginAsks(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  fresh: readonly NewAsk[],
): Promise<Map<string, Ask>> {
  if (fresh.length === 0) return new Map();
  const sites = await chooseFirstSites(
    tx,
    scope,
    setting,
    fresh.map(({ plan, person, visit }) => ({ plan, person, branchId: visit.branchId })),
  );
  const begun = await tx
    .insert(asks)
    .values(
      fresh.map(({ plan, visit, person, ...rest }, index) => ({
        ...rest,
        ...sites[index],
        clientId: scope.clientId,
        planId: plan.id,
        planVersion: plan.version,
        personId: person.id,
        visitId: visit.id,
        branchId: visit.branchId,
        token: newToken(),
      })),
    )
    .returning();
  await recordEvents(
    tx,
    scope,
    fresh.map(({ id, createdAt, byHand }) => ({
      kind: "planned" as const,
      source: byHand ? ("staff" as const) : ("plan" as const),
      at: createdAt,
      askId: id,
    })),
  );
  return new Map(begun.map((ask) => [ask.id, ask]));
}
