import { sql } from "drizzle-orm";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { type RowChange, updateRows } from "@/platform/updateRows";
import { people } from "@/schema/people";
import type { Person } from "./service";

/** The rows of people: adding many, changing named columns of many, locking. */

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
  household_id: "uuid",
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

export const names = sql.raw(Object.keys(COLUMNS).join(", "));

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
      household_id: person.householdId ?? undefined,
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

export async function insertPeople(tx: Tx, list: readonly Person[]): Promise<void> {
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
  pageLanguage: null,
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
  lastRecommend: null,
  lastVisitAt: null,
  lastBranchId: null,
  source: "by hand",
  intakeId: null,
  mergedInto: null,
  erasedAt: null,
  createdAt: 0,
  search: null,
};
