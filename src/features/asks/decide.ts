import { and, eq, gte, inArray, isNotNull, lte } from "drizzle-orm";
import { type Examined, examine, examineByHand, type Verdict } from "@/core/asks/examine";
import { isMinor } from "@/core/people/households";
import { DAY, dayNumber, toLocal } from "@/core/time/zone";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { newToken } from "@/platform/secrets";
import { loadSetting, type Setting, todayOf } from "../clients";
import { addresseeOf, addressesOf, nameOf, type Person, people } from "../people";
import { type Plan, standingPlan } from "../plans";
import { type Visit, visits } from "../visits";
import { isUnsent, loadContexts, openAsksOf } from "./contexts";
import { planNext } from "./schedule";
import { asks } from "./tables";

/** The facts that the rules look at. */
export function examined(
  setting: Setting,
  plan: Plan | null,
  visit: Pick<Visit, "outcome" | "endsAt" | "serviceId" | "tags">,
  person: Person,
  guardian: Person | null,
  hasOpenAsk: boolean,
  now: number,
  housemateAsked: string | null = null,
): Examined {
  const today = todayOf(setting, now);
  const service = setting.services.find((one) => one.id === visit.serviceId);
  return {
    now,
    visit: { outcome: visit.outcome, endsAt: visit.endsAt, service: { name: service?.name ?? "none named", neverAsk: service?.neverAsk ?? false } },
    person: {
      doNotAsk: person.doNotAsk,
      tags: [...person.tags, ...visit.tags],
      neverTags: setting.tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => name),
      isMinor: isMinor(person.birthDate, today),
      hasGuardian: guardian !== null,
      restUntil: person.restUntil,
      housemateAsked,
      addresses: addressesOf(addresseeOf(person, guardian, today) ?? person, setting.tags),
      lastAskedAt: person.lastAskedAt,
      lastReviewedAt: person.lastReviewedAt,
      hasOpenAsk,
    },
    plan: plan && { name: plan.name, running: plan.state === "running", rules: plan.rules },
  };
}

/** Lets the standing plan decide about visits whose time has come; the verdict and its trace are kept with each. */
export async function examineVisits(tx: Tx, scope: Scope, visitIds: string[], now: number): Promise<{ asked: number; leftOut: number }> {
  const due = await tx
    .select()
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), inArray(visits.id, visitIds), isNotNull(visits.examineAt)))
    .orderBy(visits.endsAt)
    .for("update");
  if (due.length === 0) return { asked: 0, leftOut: 0 };
  const setting = await loadSetting(tx);
  const plan = await standingPlan(tx, scope);
  // The person's row is locked so that two workers with two visits of one person decide one after the other.
  const persons = await tx
    .select()
    .from(people)
    .where(inArray(people.id, [...new Set(due.map((visit) => visit.personId))]))
    .orderBy(people.id)
    .for("update");
  const guardians = await guardiansOf(tx, persons);
  const open = new Set(
    (
      await openAsksOf(
        tx,
        scope,
        persons.map((person) => person.id),
      )
    ).map((ask) => ask.personId),
  );
  const homes = await Homes.load(tx, scope, persons, due, setting);
  const fresh: string[] = [];
  let leftOut = 0;
  for (const visit of due) {
    const person = persons.find((one) => one.id === visit.personId);
    if (!person) continue;
    const outcome = visit.outcome === "booked" && setting.client.bookedCountsAsFinished ? "finished" : visit.outcome;
    const verdict = examine(
      examined(setting, plan, { ...visit, outcome }, person, guardians.get(person.guardianId ?? "") ?? null, open.has(person.id), now, homes.other(person, visit)),
    );
    await tx
      .update(visits)
      .set({
        outcome,
        examineAt: null,
        claimedUntil: null,
        examinedAt: now,
        trace: verdict.trace,
        decision: verdict.asked ? "asked" : "left out",
        reason: verdict.asked ? null : verdict.reason,
      })
      .where(eq(visits.id, visit.id));
    if (verdict.asked && plan) {
      open.add(person.id);
      homes.add(person, visit);
      fresh.push(await beginAsk(tx, scope, { plan, visit, verdict, anchorAt: visit.endsAt, now }));
    } else leftOut += 1;
  }
  await planNext(tx, scope, setting, await loadContexts(tx, scope, fresh), now);
  return { asked: fresh.length, leftOut };
}

/** Which households are asked for which day, by whom. */
class Homes {
  private readonly asked = new Map<string, { personId: string; name: string }[]>();

  private constructor(private readonly setting: Setting) {}

  static async load(tx: Tx, scope: Scope, persons: readonly Person[], due: readonly Visit[], setting: Setting): Promise<Homes> {
    const homes = new Homes(setting);
    const ids = [...new Set(persons.flatMap(({ householdId }) => householdId ?? []))];
    if (ids.length === 0) return homes;
    const times = due.map(({ endsAt }) => endsAt);
    const rows = await tx
      .select({ person: people, visit: visits })
      .from(asks)
      .innerJoin(people, eq(people.id, asks.personId))
      .innerJoin(visits, eq(visits.id, asks.visitId))
      .where(
        and(eq(asks.clientId, scope.clientId), anyOf(people.householdId, ids), gte(visits.endsAt, Math.min(...times) - 2 * DAY), lte(visits.endsAt, Math.max(...times) + 2 * DAY)),
      );
    for (const { person, visit } of rows) homes.add(person, visit);
    return homes;
  }

  private key(person: Person, visit: Visit): string {
    const zone = this.setting.branches.find(({ id }) => id === visit.branchId)?.zone ?? this.setting.client.zone;
    return `${person.householdId} ${dayNumber(toLocal(zone, visit.endsAt))}`;
  }

  add(person: Person, visit: Visit): void {
    if (!person.householdId) return;
    const key = this.key(person, visit);
    this.asked.set(key, [...(this.asked.get(key) ?? []), { personId: person.id, name: nameOf(person) }]);
  }

  /** The name of another of the household who is asked for the day of this visit. */
  other(person: Person, visit: Visit): string | null {
    if (!person.householdId) return null;
    return this.asked.get(this.key(person, visit))?.find(({ personId }) => personId !== person.id)?.name ?? null;
  }
}

/** The guardians of people, by their id. */
export async function guardiansOf(tx: Tx, persons: readonly Person[]): Promise<Map<string, Person>> {
  const ids = [...new Set(persons.flatMap(({ guardianId }) => guardianId ?? []))];
  if (ids.length === 0) return new Map();
  return new Map((await tx.select().from(people).where(inArray(people.id, ids))).map((guardian) => [guardian.id, guardian]));
}

async function beginAsk(
  tx: Tx,
  scope: Scope,
  it: { plan: Plan; visit: Visit; verdict: Verdict; anchorAt: number; now: number } & Partial<
    Pick<typeof asks.$inferInsert, "byHand" | "askedBy" | "chosenChannel" | "requestKey">
  >,
): Promise<string> {
  const [{ id }] = await tx
    .insert(asks)
    .values({
      clientId: scope.clientId,
      planId: it.plan.id,
      personId: it.visit.personId,
      visitId: it.visit.id,
      branchId: it.visit.branchId,
      token: newToken(),
      anchorAt: it.anchorAt,
      byHand: it.byHand ?? false,
      askedBy: it.askedBy,
      chosenChannel: it.chosenChannel,
      requestKey: it.requestKey,
      trace: it.verdict.trace,
      createdAt: it.now,
    })
    .returning({ id: asks.id });
  return id;
}

/** What would happen if this person were asked by hand now. */
export async function considerByHand(tx: Tx, scope: Scope, setting: Setting, visit: Pick<Visit, "outcome" | "endsAt" | "serviceId" | "tags">, person: Person, now: number) {
  const guardian = (await guardiansOf(tx, [person])).get(person.guardianId ?? "") ?? null;
  const plan = await standingPlan(tx, scope);
  const open = await openAsksOf(tx, scope, [person.id]);
  const unsent = open.find(isUnsent) ?? null;
  return {
    plan,
    unsent,
    guardian,
    verdict: examineByHand(
      examined(
        setting,
        plan,
        visit,
        person,
        guardian,
        open.some((ask) => !isUnsent(ask)),
        now,
      ),
    ),
  };
}

/**
 * Asks one person by hand about `visit`; an ask that is planned for later leaves now instead. The request key makes a double click one ask; a second tab meets the open ask
 * and gets its refusal.
 */
export async function askByHand(
  tx: Tx,
  scope: Scope,
  it: { visit: Visit; channel: "text" | "email"; who: string; requestKey: string; now: number },
): Promise<{ askId: string } | { refused: Exclude<Verdict, { asked: true }> }> {
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, it.visit.personId)))
    .for("update");
  const [known] = await tx
    .select()
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), eq(asks.requestKey, it.requestKey)));
  if (known) return { askId: known.id };
  const setting = await loadSetting(tx);
  const { plan, unsent, verdict } = await considerByHand(tx, scope, setting, it.visit, person, it.now);
  if (!verdict.asked) return { refused: verdict };
  if (!plan) throw new Error("A client without a plan cannot ask.");
  if (unsent) {
    await tx
      .update(asks)
      .set({
        byHand: true,
        askedBy: it.who,
        chosenChannel: it.channel,
        anchorAt: it.now,
        requestKey: it.requestKey,
        visitId: it.visit.id,
        branchId: it.visit.branchId,
        trace: verdict.trace,
      })
      .where(eq(asks.id, unsent.id));
    await markAsked(tx, it.visit.id, verdict, it.now);
    await planNext(tx, scope, setting, await loadContexts(tx, scope, [unsent.id], true), it.now);
    return { askId: unsent.id };
  }
  const askId = await beginAsk(tx, scope, {
    plan,
    visit: it.visit,
    verdict,
    anchorAt: it.now,
    now: it.now,
    byHand: true,
    askedBy: it.who,
    chosenChannel: it.channel,
    requestKey: it.requestKey,
  });
  await markAsked(tx, it.visit.id, verdict, it.now);
  await planNext(tx, scope, setting, await loadContexts(tx, scope, [askId]), it.now);
  return { askId };
}

async function markAsked(tx: Tx, visitId: string, verdict: Verdict, now: number): Promise<void> {
  await tx.update(visits).set({ decision: "asked", reason: null, trace: verdict.trace, examinedAt: now, examineAt: null }).where(eq(visits.id, visitId));
}
