import { setImmediate } from "node:timers/promises";
import { and, asc, eq, gte, inArray, isNotNull, lt, lte, or, sql } from "drizzle-orm";
import type { Reason } from "@/core/asks/findings";
import type { Rehearsal } from "@/core/asks/rehearsal";
import { rehearseInTurns } from "@/core/asks/rehearse";
import { sayWhen } from "@/core/time/say";
import { DAY } from "@/core/time/zone";
import { allowanceOf, ceilingOf, type Setting, zoneOf } from "@/features/clients";
import type { Person } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { acrossBranches, anyOf, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import type { AskContext } from "./contexts";
import { isSpread } from "./decide";
import { homeKeyOf } from "./eligibilityFacts";
import {
  asksUnderWay,
  contextsOf,
  MOST_REHEARSED,
  partsOfRehearsed,
  rehearsedAsk,
  rehearsedClient,
  rehearsedVisit,
  type Spoken,
} from "./rehearsed";
import { personsOf, rehearsedPeople } from "./rehearsedPeople";
import { askedOnDay } from "./triggers";

/**
 * What will come of visits that are not kept yet, or of asks that have not begun: everything that is under way is
 * rehearsed together with them, so that ceilings, allowances, portions and households count as they will.
 */

/** A visit that would be kept, and whose it is. */
export type ComingVisit = { visit: Visit; person: Person };

/** `at`: when its first message leaves, as things stand. */
export type Fate = { kind: "asked"; at: number } | { kind: "left out"; reason: Reason } | { kind: "later" };

/** Three years: whoever waits for an allowance of nothing would wait for ever. */
const HORIZON = 3 * 365 * DAY;
/** How far ahead booked visits count, where they compete for what is limited. */
const BOOKED = 60 * DAY;

/** The fate of each coming visit, by its identifier. */
export async function foretell(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  coming: readonly ComingVisit[],
  now: number,
): Promise<Map<string, Fate>> {
  const fates = new Map<string, Fate>();
  if (coming.length === 0) return fates;
  const rehearsal = await rehearseAhead(tx, scope, setting, { coming, begun: [], replaced: [] }, now);
  const firstOf = new Map<string, number>();
  for (const { visitIds, at } of rehearsal.messages)
    for (const id of visitIds) if (!firstOf.has(id)) firstOf.set(id, at);
  const unsent = new Map(rehearsal.unsent.flatMap(({ visitIds, outcome }) => visitIds.map((id) => [id, outcome])));
  for (const { visitId, reason, joins } of rehearsal.verdicts) {
    const at = firstOf.get(visitId);
    if (reason !== null) fates.set(visitId, { kind: "left out", reason });
    else if (at !== undefined) fates.set(visitId, { kind: "asked", at });
    else if (unsent.has(visitId))
      fates.set(visitId, {
        kind: "left out",
        reason: unsent.get(visitId) === "too late" ? "too late" : "no reachable address",
      });
    // It joins what is held, or waits beyond the horizon.
    else fates.set(visitId, joins ? { kind: "left out", reason: "plan paused" } : { kind: "later" });
  }
  return fates;
}

/**
 * When the first message of each of these asks would leave if they began now, by their person; nobody where nothing but
 * their own rules limits that. `replaced`: asks under way in whose place they come.
 */
export async function foretellAsks(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  begun: readonly AskContext[],
  replaced: readonly string[],
  now: number,
): Promise<Map<string, number>> {
  if (!isLimited(setting)) return new Map();
  const { messages } = await rehearseAhead(tx, scope, setting, { coming: [], begun, replaced }, now);
  const wanted = new Set(begun.map(({ visit }) => visit.id));
  const firstOf = new Map<string, number>();
  for (const { personId, visitIds, at } of messages)
    if (visitIds.some((id) => wanted.has(id)) && !firstOf.has(personId)) firstOf.set(personId, at);
  return firstOf;
}

/** When a message of a branch leaves, in words. */
export const sayLeaves = (setting: Setting, branchId: string, at: number, now: number): string =>
  at <= now ? "now" : sayWhen(zoneOf(setting, branchId), at, now);

/** Whether anything but their own rules limits when messages leave. */
function isLimited(setting: Setting): boolean {
  return (["text", "email"] as const).some(
    (channel) => ceilingOf(setting, channel) !== null || allowanceOf(setting, channel) !== null,
  );
}

type Ahead = { coming: readonly ComingVisit[]; begun: readonly AskContext[]; replaced: readonly string[] };

async function rehearseAhead(tx: Tx, scope: Scope, setting: Setting, it: Ahead, now: number): Promise<Rehearsal> {
  // Whether somebody may be asked, and what a sender may still send, does not end at a branch.
  return acrossBranches(tx, async () => {
    const plans = await listPlans(tx, scope);
    const { underWay, pending, persons } = await besideOf(tx, scope, setting, plans, it, now);
    const begun = [...underWay, ...it.begun];
    // Of a list that is not kept yet, nothing says yet which it will be.
    const coming = it.coming.map(({ visit }) => ({
      ...visit,
      intakeId: visit.intakeId ?? visit.id,
      createdAt: visit.createdAt || now,
    }));
    const all = [...pending, ...coming];
    const spoken: Spoken = {
      setting,
      now,
      persons,
      seen: new Map([...begun.map(({ visit }) => visit), ...all].map((visit) => [visit.id, visit])),
    };
    const client = await rehearsedClient(tx, scope, setting, false, now);
    const askedToday: Record<string, number> = {};
    for (const { id, rules } of plans)
      if (rules.portions) askedToday[id] = await askedOnDay(tx, scope, setting, id, now);
    return rehearseInTurns(
      {
        plans,
        visits: all.map((visit) =>
          rehearsedVisit(visit, isSpread(visit), visit.examineAt ?? Math.max(visit.endsAt, now)),
        ),
        people: await rehearsedPeople(tx, scope, setting, persons, new Set(persons.keys()), false, now),
        client,
        underWay: begun.map((context) => rehearsedAsk(context, setting)),
        askedToday,
        now,
        until: now + HORIZON,
        // How long a text is counts only where texts are.
        partsOf: (message) => (client.allowances.text === null ? null : partsOfRehearsed(spoken, message)),
      },
      () => setImmediate(),
    );
  });
}

/**
 * What goes on beside: where anything is limited, everything; else what concerns these people and their households, and
 * those who wait for their turn on other lists.
 */
async function besideOf(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  plans: readonly Plan[],
  it: Ahead,
  now: number,
): Promise<{ underWay: AskContext[]; pending: Visit[]; persons: Map<string, Person> }> {
  const limited = isLimited(setting);
  const own = [...it.coming, ...it.begun].map(({ person }) => person);
  const near = await nearTo(tx, scope, own);
  const replaced = new Set(it.replaced);
  const underWay = (await asksUnderWay(tx, scope, limited ? null : near)).filter(({ ask }) => !replaced.has(ask.id));
  underWay.push(
    ...(await askedBefore(
      tx,
      scope,
      near,
      it.coming.map(({ visit }) => visit),
    )),
  );
  const known = new Set(it.coming.map(({ visit }) => visit.id));
  const waits = plans.filter(({ rules, state }) => rules.portions && state === "running").map(({ id }) => id);
  const due = and(isNotNull(visits.examineAt), lt(visits.examineAt, now + BOOKED));
  const pending = (
    await tx
      .select()
      .from(visits)
      .where(
        and(
          eq(visits.clientId, scope.clientId),
          or(
            limited ? due : and(due, anyOf(visits.personId, near)),
            waits.length > 0 ? inArray(visits.waitsFor, waits) : sql`false`,
          ),
        ),
      )
      .orderBy(asc(visits.endsAt), asc(visits.id))
      .limit(MOST_REHEARSED)
  ).filter(({ id }) => !known.has(id));
  const persons = new Map([...underWay.map(({ person }) => person), ...own].map((person) => [person.id, person]));
  const more = async (ids: (string | null)[]) => {
    const missing = [...new Set(ids)].filter((id): id is string => id !== null && !persons.has(id));
    for (const person of await personsOf(tx, scope, missing)) persons.set(person.id, person);
  };
  await more(pending.map(({ personId }) => personId));
  await more([...persons.values()].map(({ guardianId }) => guardianId));
  return { underWay, pending, persons };
}

/** Everybody who shares a household with them, and themselves. */
async function nearTo(tx: Tx, scope: Scope, persons: readonly Person[]): Promise<string[]> {
  const ids = persons.map(({ id }) => id);
  const homes = [...new Set([...ids, ...persons.map(homeKeyOf)])];
  const mates = await tx
    .select({ id: people.id })
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        or(anyOf(people.householdId, homes), anyOf(people.guardianId, homes), anyOf(people.id, homes)),
      ),
    );
  return [...new Set([...ids, ...mates.map(({ id }) => id)])];
}

/** Asks of theirs that are over, about the days of these visits: a household is asked once for a day. */
async function askedBefore(
  tx: Tx,
  scope: Scope,
  personIds: readonly string[],
  about: readonly Visit[],
): Promise<AskContext[]> {
  if (about.length === 0) return [];
  let [from, to] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { endsAt } of about) {
    from = Math.min(from, endsAt - 2 * DAY);
    to = Math.max(to, endsAt + 2 * DAY);
  }
  const over = await tx
    .select({ id: asks.id })
    .from(asks)
    .innerJoin(visits, eq(visits.id, asks.visitId))
    .where(
      and(
        eq(asks.clientId, scope.clientId),
        anyOf(asks.personId, personIds),
        or(isNotNull(asks.stop), isNotNull(asks.ended)),
        gte(visits.endsAt, from),
        lte(visits.endsAt, to),
      ),
    )
    .limit(MOST_REHEARSED);
  return contextsOf(
    tx,
    scope,
    over.map(({ id }) => id),
  );
}
