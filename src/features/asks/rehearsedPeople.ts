import { and, eq, sql } from "drizzle-orm";
import type { RehearsedPerson } from "@/core/asks/rehearsal";
import { isMinor } from "@/core/people/households";
import { DAY, MINUTE } from "@/core/time/zone";
import { type Setting, todayOf } from "@/features/clients";
import { addresseeOf, addressesOf, NOBODY, nameOf, type Person, recipientZones, wishesOf } from "@/features/people";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { people } from "@/schema/people";
import { homeKeyOf } from "./eligibilityFacts";

/** The people of a rehearsal, as they stood when it begins: `isPast`, at the beginning of a period that is over. */

const personColumns = {
  id: people.id,
  given: people.given,
  family: people.family,
  email: people.email,
  emailBouncedAt: people.emailBouncedAt,
  emailOptedOutAt: people.emailOptedOutAt,
  phone: people.phone,
  phoneTakesTexts: people.phoneTakesTexts,
  textBouncedAt: people.textBouncedAt,
  textOptedOutAt: people.textOptedOutAt,
  birthDate: people.birthDate,
  guardianId: people.guardianId,
  householdId: people.householdId,
  consent: people.consent,
  restUntil: people.restUntil,
  zone: people.zone,
  prefers: people.prefers,
  tags: people.tags,
  doNotAsk: people.doNotAsk,
  lastAskedAt: people.lastAskedAt,
  lastMessageAt: people.lastMessageAt,
  lastReviewedAt: people.lastReviewedAt,
};

export async function personsOf(tx: Tx, scope: Scope, ids: string[]): Promise<Person[]> {
  if (ids.length === 0) return [];
  const rows = await tx
    .select(personColumns)
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), anyOf(people.id, ids)));
  return rows.map((row) => ({ ...NOBODY, ...row, clientId: scope.clientId }));
}

export async function rehearsedPeople(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  persons: ReadonlyMap<string, Person>,
  wanted: ReadonlySet<string>,
  isPast: boolean,
  now: number,
): Promise<Map<string, RehearsedPerson>> {
  const ids = [...persons.keys()];
  const iso = new Date(now).toISOString();
  const asked = await rowsIn<{ person_id: string; plan_id: string; by_hand: boolean; at: string }>(
    tx,
    sql`select person_id, plan_id, by_hand, max(first_sent_at) as at from asks
        where client_id = ${scope.clientId} and person_id = any(${sql.param(ids)}::uuid[]) and first_sent_at ${isPast ? sql`< ${iso}` : sql`is not null`} group by 1, 2, 3`,
  );
  const gap = new Date(now - setting.client.gapMinutes * MINUTE - 2 * DAY).toISOString();
  // What left shortly before a period that is over: those that were due within the gap.
  const written = isPast
    ? await rowsIn<{ person_id: string; at: string }>(
        tx,
        sql`select person_id, max(sent_at) as at from messages where client_id = ${scope.clientId} and due_at >= ${gap} and due_at < ${iso} and sent_at < ${iso} and direction = 'out' group by 1`,
      )
    : [];
  const writtenAt = new Map(written.map((row) => [row.person_id, new Date(row.at).getTime()]));
  const byPlan = new Map<string, Record<string, number>>();
  const byHand = new Map<string, number>();
  const lastAsked = new Map<string, number>();
  for (const row of asked) {
    const at = new Date(row.at).getTime();
    lastAsked.set(row.person_id, Math.max(at, lastAsked.get(row.person_id) ?? 0));
    if (row.by_hand) byHand.set(row.person_id, Math.max(at, byHand.get(row.person_id) ?? 0));
    const own = byPlan.get(row.person_id) ?? {};
    own[row.plan_id] = Math.max(at, own[row.plan_id] ?? 0);
    byPlan.set(row.person_id, own);
  }
  const today = todayOf(setting, now);
  const before = (at: number | null) => (at !== null && (!isPast || at < now) ? at : null);
  const first = new Set(setting.tags.filter(({ effect }) => effect === "ask first").map(({ name }) => name));
  const found = new Map<string, RehearsedPerson>();
  for (const person of persons.values()) {
    if (!wanted.has(person.id)) continue;
    const guardian = persons.get(person.guardianId ?? "") ?? null;
    const to = addresseeOf(person, guardian, today);
    const lastMessage = (id: string, own: number | null) => (isPast ? (writtenAt.get(id) ?? null) : own);
    const times = [
      lastMessage(person.id, person.lastMessageAt),
      to ? lastMessage(to.id, to.lastMessageAt) : null,
    ].filter((at) => at !== null);
    found.set(person.id, {
      id: person.id,
      name: nameOf(person),
      doNotAsk: person.doNotAsk,
      tags: person.tags,
      addresses: addressesOf(to ?? person, setting.tags),
      toId: (to ?? person).id,
      isMinor: isMinor(person.birthDate, today),
      hasGuardian: guardian !== null,
      home: homeKeyOf(person),
      zones: recipientZones(to ?? person, setting.client.country),
      consent: person.consent?.given ?? null,
      guardian: to && to.id !== person.id ? wishesOf(to) : null,
      restUntil: person.restUntil,
      lastAskedAt: isPast ? (lastAsked.get(person.id) ?? null) : person.lastAskedAt,
      lastAskedByHandAt: byHand.get(person.id) ?? null,
      lastAskedByPlan: byPlan.get(person.id) ?? {},
      lastReviewedAt: before(person.lastReviewedAt),
      lastMessageAt: times.length > 0 ? Math.max(...times) : null,
      goesFirst: person.tags.some((tag) => first.has(tag)),
    });
  }
  return found;
}
