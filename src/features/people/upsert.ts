import { type SQL, sql } from "drizzle-orm";
import type { ArrivingPerson } from "@/core/intake/arrival";
import { compareNames } from "@/core/people/sameness";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { tagFor } from "@/platform/secrets";
import { type RowChange, updateRows } from "@/platform/updateRows";
import { newId } from "@/schema/columns";
import { type Consent, people } from "@/schema/people";
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
  /** Whom somebody with a known address and another given name is taken for. */
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
export type Doubt = { code: "taken for the same" | "taken for another"; name: string };

export type UpsertedPerson =
  | { kind: "new" | "unchanged"; person: Person; doubt: Doubt | null }
  | { kind: "changed"; person: Person; doubt: Doubt | null; before: Partial<Person>; after: Partial<Person> }
  | { kind: "refused"; person: null; why: "erased" };

/** What is said of a row that names somebody who was erased. */

/** The keyed hash by which an erased person's address is recognised, and nothing else. */
export function erasureHash(address: string): string {
  return tagFor("erased", address);
}

/**
 * One at a time decides who is new for a client: two lists at once would add the same person twice. Ends with the
 * transaction.
 */
export async function lockPeople(tx: Tx, scope: Scope): Promise<void> {
  await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`people ${scope.clientId}`}, 0))`);
}

/**
 * Adds people, or finds those who are here already: the same number in the client's books, email or phone is the same
 * person. Missing details are filled in; only a source that keeps its people itself replaces any. In order: a later row
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
    const { person, doubt } = known.find(row, options.sharedAddress, guardianId);
    if (!person) {
      const fresh = newPerson(scope, row, guardianId, now, options);
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

type Addressed = { email: string | null; phone: { number: string } | null; externalId?: string | null };

/** The identifiers of everybody with one of these addresses or numbers. */
function metIds(scope: Scope, incoming: readonly Addressed[]): SQL {
  const emails = [...new Set(incoming.flatMap(({ email }) => email ?? []))];
  const phones = [...new Set(incoming.flatMap(({ phone }) => phone?.number ?? []))];
  const numbers = [...new Set(incoming.flatMap(({ externalId }) => externalId ?? []))];
  const present = sql`client_id = ${scope.clientId} and erased_at is null`;
  return sql`
    select id from people where ${present} and email = any(${sql.param(emails)}::text[])
    union select id from people where ${present} and phone = any(${sql.param(phones)}::text[])
    union select id from people where ${present} and external_id = any(${sql.param(numbers)}::text[])`;
}

/**
 * Locks everybody who could be meant until the transaction ends: whatever somebody changes at that moment comes
 * wholly before or wholly after.
 */
async function lockMet(tx: Tx, scope: Scope, incoming: readonly Addressed[]): Promise<void> {
  const ids = metIds(scope, incoming);
  await tx.execute(sql`
    with met as (${ids})
    select id from people where id in (select id from met union select merged_into from people where merged_into is not null and id in (select id from met))
    order by id for no key update`);
}

/**
 * Everybody who could be meant. A record that was made one with another stands for that other one, under its own
 * addresses.
 */
async function loadKnown(
  tx: Tx,
  scope: Scope,
  incoming: readonly Incoming[],
): Promise<{ person: Person; addresses: Person }[]> {
  const ids = metIds(scope, incoming);
  const found = await tx
    .select()
    .from(people)
    .where(sql`${people.id} in (${ids})`)
    .orderBy(people.createdAt, people.id);
  const gone = found.flatMap(({ mergedInto }) => mergedInto ?? []);
  const kept = gone.length > 0 ? await tx.select().from(people).where(anyOf(people.id, gone)) : [];
  const byId = new Map([...kept, ...found].map((person) => [person.id, person]));
  return found.flatMap((addresses) => {
    const person = byId.get(addresses.mergedInto ?? addresses.id);
    return person ? [{ person, addresses }] : [];
  });
}

async function loadErased(tx: Tx, scope: Scope, incoming: readonly Incoming[]): Promise<Set<string>> {
  const [any] = (await tx.execute(sql`select 1 from erasures where client_id = ${scope.clientId} limit 1`)).rows;
  if (!any) return new Set();
  const hashes = incoming.flatMap(({ email, phone, externalId }) =>
    [email, phone?.number, externalId && `number ${externalId}`]
      .filter((each) => !!each)
      .map((each) => erasureHash(each as string)),
  );
  const { rows } = await tx.execute(
    sql`select hash from erasures where client_id = ${scope.clientId} and hash = any(${sql.param(hashes)}::text[])`,
  );
  return new Set(rows.map(({ hash }) => String(hash)));
}

/** The people who could be meant, found by each of their addresses. */
class Known {
  private readonly emails = new Map<string, Person[]>();
  private readonly phones = new Map<string, Person[]>();
  private readonly numbers = new Map<string, Person>();
  private readonly ids = new Map<string, Person>();

  /** Takes a record in that was loaded, unless it is here (and perhaps changed) already. */
  meet(person: Person, addresses: Person): void {
    this.add(this.ids.get(person.id) ?? person, addresses);
  }

  add(person: Person, addresses: Person = person): void {
    this.ids.set(person.id, person);
    const into = (map: Map<string, Person[]>, address: string | null) => {
      if (!address) return;
      const list = map.get(address);
      if (!list) map.set(address, [person]);
      else if (!list.includes(person)) list.push(person);
    };
    into(this.emails, addresses.email);
    into(this.phones, addresses.phone);
    if (addresses.externalId && !this.numbers.has(addresses.externalId)) this.numbers.set(addresses.externalId, person);
  }

  hasNumber(externalId: string): boolean {
    return this.numbers.has(externalId);
  }

  find(
    row: Incoming,
    shared: UpsertOptions["sharedAddress"],
    guardianId: string | null,
  ): { person: Person | null; doubt: Doubt | null } {
    const byNumber = row.externalId ? this.numbers.get(row.externalId) : undefined;
    if (byNumber) return { person: byNumber, doubt: null };
    const met = [
      ...new Set([
        ...((row.email && this.emails.get(row.email)) || []),
        ...((row.phone && this.phones.get(row.phone.number)) || []),
      ]),
    ];
    // A ward shares the guardian's addresses and is somebody else all the same; so is whoever has another number in
    // the same books.
    const candidates = met.filter((one) => {
      if (one.id === guardianId) return false;
      const isOther = compareNames(one, row) === "different" && (row.given || row.family) !== "";
      return !(
        isOther &&
        (guardianId !== null || (row.externalId && one.externalId && one.externalId !== row.externalId))
      );
    });
    if (candidates.length === 0) return { person: null, doubt: null };
    if (!row.given && !row.family) return { person: candidates[0], doubt: null };
    const named = candidates.map((one) => ({ one, names: compareNames(one, row) }));
    const same =
      named.find(({ names }) => names === "same") ??
      named.find(({ names }) => names !== "different") ??
      named.find(({ one }) => !one.given && !one.family);
    if (same) return { person: same.one, doubt: null };
    const [first] = candidates;
    const other = `${first.given} ${first.family}`.trim();
    return shared === "same person"
      ? { person: first, doubt: { code: "taken for the same", name: other } }
      : { person: null, doubt: { code: "taken for another", name: other } };
  }
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
  if (row.note && !person.note.includes(row.note))
    change.note = [person.note, row.note].filter(Boolean).join(" · ").slice(0, 2000);
  if (row.consent !== null && row.consent !== person.consent?.given) change.consent = consentOf(row, now, options);
  for (const name of Object.keys(change) as (keyof Person)[]) if (change[name] === person[name]) delete change[name];
  return change;
}

/** The columns that arrivals write, with their types in the database. */
const COLUMNS = {
  id: "uuid",
  client_id: "uuid",
  given: "text",
  family: "text",
  email: "text",
  email_bounced_at: "timestamptz",
  email_bounced_why: "jsonb",
  phone: "text",
  phone_takes_texts: "boolean",
  text_bounced_at: "timestamptz",
  text_bounced_why: "jsonb",
  external_id: "text",
  language: "text",
  birth_date: "text",
  postal_address: "text",
  guardian_id: "uuid",
  tags: "text[]",
  note: "text",
  do_not_ask: "text",
  consent: "jsonb",
  source: "text",
  intake_id: "uuid",
  last_visit_at: "timestamptz",
  last_branch_id: "uuid",
  created_at: "timestamptz",
};

const names = sql.raw(Object.keys(COLUMNS).join(", "));
const shape = sql.raw(
  Object.entries(COLUMNS)
    .map(([column, type]) => `${column} ${type}`)
    .join(", "),
);
/**
 * Rows for `json_to_recordset`. Written out, since building them from a list of names takes longer than the rest of
 * the intake; what is null is left out.
 */
function asJson(list: readonly Person[]): string {
  const time = (at: number | null) => (at === null ? undefined : new Date(at).toISOString());
  return JSON.stringify(
    list.map((person) => ({
      id: person.id,
      client_id: person.clientId,
      given: person.given,
      family: person.family,
      email: person.email ?? undefined,
      email_bounced_at: time(person.emailBouncedAt),
      email_bounced_why: person.emailBouncedWhy ?? undefined,
      phone: person.phone ?? undefined,
      phone_takes_texts: person.phoneTakesTexts,
      text_bounced_at: time(person.textBouncedAt),
      text_bounced_why: person.textBouncedWhy ?? undefined,
      external_id: person.externalId ?? undefined,
      language: person.language ?? undefined,
      birth_date: person.birthDate ?? undefined,
      postal_address: person.postalAddress ?? undefined,
      guardian_id: person.guardianId ?? undefined,
      tags: person.tags,
      note: person.note,
      do_not_ask: person.doNotAsk ?? undefined,
      consent: person.consent ?? undefined,
      source: person.source,
      intake_id: person.intakeId ?? undefined,
      last_visit_at: time(person.lastVisitAt),
      last_branch_id: person.lastBranchId ?? undefined,
      created_at: time(person.createdAt),
    })),
  );
}

async function insertPeople(tx: Tx, list: readonly Person[]): Promise<void> {
  if (list.length === 0) return;
  await tx.execute(
    sql`insert into people (${names}) select ${names} from json_to_recordset(${asJson(list)}::json) as d(${shape})`,
  );
}

/** What changes of one person. */
export type PersonChange = RowChange<Person>;

/** Of `before`, what may be put back: that which nobody has changed since something made it what it was `after`. */
export function untouchedSince(before: Partial<Person>, after: Partial<Person>, current: Person): Partial<Person> {
  const same = (name: keyof Person) =>
    !(name in after) || JSON.stringify(after[name]) === JSON.stringify(current[name]);
  return Object.fromEntries(Object.entries(before).filter(([name]) => same(name as keyof Person)));
}

/**
 * Writes what changed of people, and nothing else of them. Whoever calls it has locked the rows (`lockPeopleRows`, or
 * a `select ... for update`).
 */
export function updatePeople(tx: Tx, scope: Scope, list: readonly PersonChange[]): Promise<void> {
  return updateRows(tx, scope, people, list);
}

/**
 * Locks people's rows until the transaction ends, in the order of their ids. Everything that changes people and asks
 * locks in one order: people, visits, asks, messages.
 */
export async function lockPeopleRows(tx: Tx, scope: Scope, ids: readonly (string | null | undefined)[]): Promise<void> {
  const wanted = [...new Set(ids.filter((id) => !!id))];
  if (wanted.length === 0) return;
  await tx.execute(
    sql`select id from people where client_id = ${scope.clientId} and id = any(${sql.param(wanted)}::uuid[]) order by id for no key update`,
  );
}

/** Notes the latest visit of each person, and where it was. */
export async function noteVisits(
  tx: Tx,
  scope: Scope,
  seen: readonly { personId: string; endsAt: number; branchId: string }[],
): Promise<void> {
  if (seen.length === 0) return;
  const latest = new Map<string, { person: string; at: string; branch: string }>();
  for (const { personId, endsAt, branchId } of [...seen].sort((a, b) => a.endsAt - b.endsAt))
    latest.set(personId, { person: personId, at: new Date(endsAt).toISOString(), branch: branchId });
  await rowsIn(
    tx,
    sql`update people p set last_visit_at = d.at, last_branch_id = d.branch from json_to_recordset(${JSON.stringify([...latest.values()])}::json) as d(person uuid, at timestamptz, branch uuid)
        where p.id = d.person and p.client_id = ${scope.clientId} and (p.last_visit_at is null or p.last_visit_at < d.at)`,
  );
}

/** A person of whom nothing is known. */
export const NOBODY: Person = {
  id: "",
  clientId: "",
  given: "",
  family: "",
  email: null,
  emailBouncedAt: null,
  emailBouncedWhy: null,
  emailOptedOutAt: null,
  emailOptedOutHow: null,
  phone: null,
  phoneTakesTexts: false,
  textBouncedAt: null,
  textBouncedWhy: null,
  textOptedOutAt: null,
  textOptedOutHow: null,
  wrongAddresses: [],
  externalId: null,
  language: null,
  birthDate: null,
  postalAddress: null,
  guardianId: null,
  householdId: null,
  consent: null,
  restUntil: null,
  restReason: null,
  zone: null,
  prefers: null,
  tags: [],
  doNotAsk: null,
  note: "",
  lastAskedAt: null,
  lastMessageAt: null,
  lastReviewedAt: null,
  lastAnsweredAt: null,
  lastVisitAt: null,
  lastBranchId: null,
  source: "by hand",
  intakeId: null,
  mergedInto: null,
  erasedAt: null,
  createdAt: 0,
  search: null,
};
