import { type SQL, sql } from "drizzle-orm";
import { likeness } from "@/core/people/household";
import { compareNames } from "@/core/people/sameness";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { Multimap } from "@/platform/multimap";
import { tagFor } from "@/platform/secrets";
import { people } from "@/schema/people";
import type { Person } from "./service";
import type { Doubt, Incoming, UpsertOptions } from "./upsert";

/** Who is here already under the addresses and numbers that arrive, locked; and who was erased. */

/** The keyed hash by which an erased person's address is recognised, and nothing else. */
export function erasureHash(address: string): string {
  return tagFor("erased", address);
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
export async function lockMet(tx: Tx, scope: Scope, incoming: readonly Addressed[]): Promise<void> {
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
export async function loadKnown(
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

export async function loadErased(tx: Tx, scope: Scope, incoming: readonly Incoming[]): Promise<Set<string>> {
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
export class Known {
  private readonly emails = new Multimap<Person>();
  private readonly phones = new Multimap<Person>();
  private readonly numbers = new Map<string, Person>();
  /** Those that were loaded. */
  private readonly loaded = new Map<string, Person>();

  /** Takes a record in that was loaded, unless it is here (and perhaps changed) already. */
  meet(person: Person, addresses: Person): void {
    const met = this.loaded.get(person.id) ?? person;
    this.loaded.set(met.id, met);
    this.add(met, addresses);
  }

  add(person: Person, addresses: Person = person): void {
    if (addresses.email) this.emails.add(addresses.email, person);
    if (addresses.phone) this.phones.add(addresses.phone, person);
    if (addresses.externalId && !this.numbers.has(addresses.externalId)) this.numbers.set(addresses.externalId, person);
  }

  hasNumber(externalId: string): boolean {
    return this.numbers.has(externalId);
  }

  find(
    row: Incoming,
    shared: UpsertOptions["sharedAddress"],
    guardianId: string | null,
  ): { person: Person | null; doubt: Doubt | null; housemate?: Person } {
    const byNumber = row.externalId ? this.numbers.get(row.externalId) : undefined;
    if (byNumber) return { person: byNumber, doubt: null };
    const met = [
      ...new Set([
        ...(row.email ? this.emails.get(row.email) : []),
        ...(row.phone ? this.phones.get(row.phone.number) : []),
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
    const named = candidates.map((one) => ({ one, names: compareNames(one, row), likeness: likeness(one, row) }));
    const same =
      named.find(({ names }) => names === "same") ??
      named.find(({ names, likeness }) => names !== "different" && likeness === "same") ??
      named.find(({ likeness }) => likeness === "same");
    if (same) return { person: same.one, doubt: null };
    const unclear = named.find(({ likeness }) => likeness === "unclear");
    const first = unclear?.one ?? candidates[0];
    const name = `${first.given} ${first.family}`.trim();
    if (shared === "same person") return { person: first, doubt: { code: "taken for the same", name } };
    return {
      person: null,
      doubt: { code: unclear ? "may be the same" : "taken for another", name },
      housemate: first,
    };
  }
}
