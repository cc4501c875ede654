import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { people } from "@/schema/people";
import { addresseeOf, type Person } from "./service";

/** One person, or null. */
export async function findPerson(tx: Tx, scope: Scope, id: string): Promise<Person | null> {
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)));
  return person ?? null;
}

/** Everybody with this phone (people of one household may share it), whom was last written to first. */
export async function peopleWithPhone(tx: Tx, scope: Scope, phone: string): Promise<Person[]> {
  return tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.phone, phone), isNull(people.mergedInto)))
    .orderBy(sql`${people.lastMessageAt} desc nulls last`, people.id);
}

/** Everybody with this mailbox, whom was last written to first. */
export async function peopleWithEmail(tx: Tx, scope: Scope, email: string): Promise<Person[]> {
  return tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.email, email), isNull(people.mergedInto)))
    .orderBy(sql`${people.lastMessageAt} desc nulls last`, people.id);
}

/** The wards of guardians: those who are written to through them. */
export async function wardsOf(tx: Tx, scope: Scope, guardianIds: string[]): Promise<string[]> {
  if (guardianIds.length === 0) return [];
  const rows = await tx
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), inArray(people.guardianId, guardianIds)));
  return rows.map(({ id }) => id);
}

/** The people whose guardian somebody is. */
export function findWards(tx: Tx, scope: Scope, guardianId: string): Promise<Person[]> {
  return tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.guardianId, guardianId), isNull(people.mergedInto)))
    .limit(20);
}

/**
 * Who is written to about a person on this ISO day: themselves, their guardian, or (for a minor without one) nobody.
 */
export async function findAddressee(tx: Tx, scope: Scope, person: Person, today: string): Promise<Person | null> {
  return addresseeOf(person, person.guardianId ? await findPerson(tx, scope, person.guardianId) : null, today);
}

/** The guardians of people, by their id. */
export async function guardiansOf(tx: Tx, persons: readonly Person[]): Promise<Map<string, Person>> {
  const ids = [...new Set(persons.flatMap(({ guardianId }) => guardianId ?? []))];
  if (ids.length === 0) return new Map();
  return new Map(
    (await tx.select().from(people).where(inArray(people.id, ids))).map((guardian) => [guardian.id, guardian]),
  );
}

/** Says at which branch somebody is known before any visit of theirs tells it. */
export async function placePerson(tx: Tx, scope: Scope, id: string, branchId: string): Promise<void> {
  await tx
    .update(people)
    .set({ lastBranchId: branchId })
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)));
}
