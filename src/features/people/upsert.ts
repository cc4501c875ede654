import { sql } from "drizzle-orm";
import type { ArrivingPerson } from "@/core/intake/arrival";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { type Consent, households } from "@/schema/people";
import { erasureHash, Known, loadErased, loadKnown, lockMet } from "./knownPeople";
import { insertPeople, NOBODY, type PersonChange, updatePeople } from "./personRows";
import type { Person } from "./service";

/** A person as they arrive, by whatever way; the tags are those of the client. */
export type Incoming = ArrivingPerson & {
  doNotAsk?: string | null /** The visit that they come with: written down with somebody new at once. */;
  visit?: { endsAt: number; branchId: string } | null;
};

export type UpsertOptions = {
  /** By which way they come; noted beside new people and consent. */
  source: string;
  intakeId?: string | null;
  /** Whom somebody with a known address and another name is taken for: the same person only where someone chose so. */
  sharedAddress: "same person" | "another person";
  /** The source keeps these people itself: what it says replaces what is here. */
  replaces: boolean;
  /** Nothing is written: what would happen is worked out, remembering what earlier calls would have added. */
  rehearsal?: PeopleDryRun;
};

/** The people that a rehearsal would have added or changed so far. */
export class PeopleDryRun {
  readonly known = new Known();
}

/** An address that was known with another name. */
export type Doubt = { code: "taken for the same" | "taken for another" | "may be the same"; name: string };

export type UpsertedPerson =
  | { kind: "new" | "unchanged"; person: Person; doubt: Doubt | null }
  | { kind: "changed"; person: Person; doubt: Doubt | null; before: Partial<Person>; after: Partial<Person> }
  | { kind: "refused"; person: null; why: "erased" };

/**
 * One at a time decides who is new for a client: two lists at once would add the same person twice. Ends with the
 * transaction.
 */
export async function lockPeople(tx: Tx, scope: Scope): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`people ${scope.clientId}`}, 0))`);
}

/** A note without the ways in which its lines are parted: a list has it on one. */
const flat = (note: string) => note.replace(/[\s·]+/g, " ").trim();

/**
 * Adds people, or finds those who are here already: the same number in the client's books is the same person; the same
 * email or phone is where the names may be one person's, and else somebody of the same household. Missing details are filled in; only a source that keeps its people itself replaces any. In order: a later row
 * meets the people that an earlier one added. Gives one result for each.
 */
export async function upsertPeople(
  tx: Tx,
  scope: Scope,
  incoming: readonly Incoming[],
  now: number,
  options: UpsertOptions,
): Promise<UpsertedPerson[]> {
  if (incoming.length === 0) return [];
  const { rehearsal } = options;
  if (!rehearsal) {
    await lockPeople(tx, scope);
    await lockMet(tx, scope, [...incoming, ...incoming.flatMap(({ guardian }) => guardian ?? [])]);
  }
  const guardians = await keepGuardians(tx, scope, incoming, now, options);
  const known = rehearsal?.known ?? new Known();
  for (const { person, addresses } of await loadKnown(tx, scope, incoming)) known.meet(person, addresses);
  const erased = await loadErased(tx, scope, incoming);
  const added: Person[] = [];
  const isAdded = new Set<Person>();
  const changed = new Map<string, PersonChange>();
  const homes: string[] = [];
  // Whoever shares an address is of one household: its rules hold for them together.
  const joinHome = (fresh: Person, housemate: Person) => {
    if (housemate.householdId === null) {
      const home = newId();
      homes.push(home);
      housemate.householdId = home;
      if (!isAdded.has(housemate))
        changed.set(housemate.id, {
          id: housemate.id,
          change: { ...changed.get(housemate.id)?.change, householdId: home },
        });
    }
    fresh.householdId = housemate.householdId;
  };
  const results = incoming.map((row, index): UpsertedPerson => {
    if (
      erased.size > 0 &&
      [row.email, row.phone?.number, row.externalId && `number ${row.externalId}`].some(
        (address) => address && erased.has(erasureHash(address)),
      )
    ) {
      return { kind: "refused", person: null, why: "erased" };
    }
    const guardianId = guardians[index];
    const { person, doubt, housemate } = known.find(row, options.sharedAddress, guardianId);
    if (!person) {
      const fresh = newPerson(scope, row, guardianId, now, options);
      if (housemate && guardianId === null) joinHome(fresh, housemate);
      known.add(fresh);
      added.push(fresh);
      isAdded.add(fresh);
      return { kind: "new", person: fresh, doubt };
    }
    const change = changeOf(person, row, guardianId, now, options, known);
    if (Object.keys(change).length === 0) return { kind: "unchanged", person, doubt };
    const before = Object.fromEntries(
      Object.keys(change).map((name) => [name, person[name as keyof Person]]),
    ) as Partial<Person>;
    Object.assign(person, change);
    known.add(person);
    if (!isAdded.has(person))
      changed.set(person.id, { id: person.id, change: { ...changed.get(person.id)?.change, ...change } });
    return { kind: "changed", person, doubt, before, after: change };
  });
  if (!rehearsal) {
    if (homes.length > 0)
      await tx
        .insert(households)
        .values(homes.map((id) => ({ id, clientId: scope.clientId, confirmedBy: options.source, createdAt: now })));
    await insertPeople(tx, added);
    await updatePeople(tx, scope, [...changed.values()]);
  }
  return results;
}

async function keepGuardians(
  tx: Tx,
  scope: Scope,
  incoming: readonly Incoming[],
  now: number,
  options: UpsertOptions,
): Promise<(string | null)[]> {
  const with_ = incoming.flatMap(({ guardian }, index) => (guardian ? [{ guardian, index }] : []));
  const ids: (string | null)[] = incoming.map(() => null);
  if (with_.length === 0) return ids;
  const blank = {
    externalId: null,
    language: null,
    birthDate: null,
    postalAddress: null,
    guardian: null,
    tags: [],
    note: "",
    consent: null,
  };
  const kept = await upsertPeople(
    tx,
    scope,
    with_.map(({ guardian }) => ({ ...blank, ...guardian })),
    now,
    { ...options, sharedAddress: "another person", replaces: false },
  );
  for (const [at, { index }] of with_.entries()) ids[index] = kept[at].person?.id ?? null;
  return ids;
}

function newPerson(
  scope: Scope,
  row: Incoming,
  guardianId: string | null,
  now: number,
  options: UpsertOptions,
): Person {
  return {
    ...NOBODY,
    id: newId(),
    clientId: scope.clientId,
    given: row.given,
    family: row.family,
    email: row.email,
    phone: row.phone?.number ?? null,
    phoneTakesTexts: row.phone?.canText ?? false,
    externalId: row.externalId,
    language: row.language,
    birthDate: row.birthDate,
    postalAddress: row.postalAddress,
    guardianId,
    tags: row.tags,
    note: row.note,
    doNotAsk: row.doNotAsk ?? null,
    consent: consentOf(row, now, options),
    source: options.source,
    intakeId: options.intakeId ?? null,
    lastVisitAt: row.visit?.endsAt ?? null,
    lastBranchId: row.visit?.branchId ?? null,
    createdAt: now,
  };
}

function consentOf(row: Incoming, now: number, options: UpsertOptions): Consent | null {
  return row.consent === null ? null : { given: row.consent, at: now, source: options.source };
}

function changeOf(
  person: Person,
  row: Incoming,
  guardianId: string | null,
  now: number,
  options: UpsertOptions,
  known: Known,
): Partial<Person> {
  const change: Partial<Person> = {};
  const isOwner = options.replaces && row.externalId !== null && row.externalId === person.externalId;
  const take = <Name extends "email" | "given" | "family" | "language" | "birthDate" | "postalAddress" | "guardianId">(
    name: Name,
    value: Person[Name] | null,
  ) => {
    if (value && value !== person[name] && (isOwner || !person[name])) change[name] = value as never;
  };
  if (isOwner || (!person.given && !person.family)) take("given", row.given);
  take("family", row.family);
  take("language", row.language);
  take("birthDate", row.birthDate);
  take("postalAddress", row.postalAddress);
  take("guardianId", guardianId);
  // An address that came back gives way to a new one, whoever brings it.
  const isWrong = (address: string) => person.wrongAddresses.includes(address);
  if (
    row.email &&
    row.email !== person.email &&
    !isWrong(row.email) &&
    (isOwner || !person.email || person.emailBouncedAt)
  )
    Object.assign(change, { email: row.email, emailBouncedAt: null, emailBouncedWhy: null });
  const number = row.phone?.number;
  if (number && number !== person.phone && !isWrong(number) && (isOwner || !person.phone || person.textBouncedAt)) {
    Object.assign(change, {
      phone: number,
      phoneTakesTexts: row.phone?.canText ?? false,
      textBouncedAt: null,
      textBouncedWhy: null,
    });
  }
  if (row.externalId && !person.externalId && !known.hasNumber(row.externalId)) change.externalId = row.externalId;
  const tags = row.tags.filter((tag) => !person.tags.includes(tag));
  if (tags.length > 0) change.tags = [...person.tags, ...tags];
  if (row.note && !flat(person.note).includes(flat(row.note)))
    change.note = [person.note, row.note].filter(Boolean).join(" · ").slice(0, 2000);
  if (row.consent !== null && row.consent !== person.consent?.given) change.consent = consentOf(row, now, options);
  for (const name of Object.keys(change) as (keyof Person)[]) if (change[name] === person[name]) delete change[name];
  return change;
}
