import { and, asc, desc, eq, inArray, sql } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import type { Person } from "./service";
import { people } from "./tables";

export const PEOPLE_PAGE = 50;

/** One page of people by name; `after` is the last person of the page before. */
export async function listPeople(tx: Tx, scope: Scope, after: { family: string; given: string; id: string } | null): Promise<Person[]> {
  const own = eq(people.clientId, scope.clientId);
  const beyond = after ? sql`(${people.family}, ${people.given}, ${people.id}) > (${after.family}, ${after.given}, ${after.id})` : undefined;
  return tx
    .select()
    .from(people)
    .where(and(own, beyond))
    .orderBy(asc(people.family), asc(people.given), asc(people.id))
    .limit(PEOPLE_PAGE + 1);
}

/** People whose name, email, phone or note contains every word of `query`, at most `most`. */
export async function searchPeople(tx: Tx, query: string, most = 50): Promise<Person[]> {
  const words = query.trim().slice(0, 100).split(/\s+/).filter(Boolean);
  if (words.length === 0) return [];
  // A phone typed the local way is found by its last digits.
  const digits = query.replace(/[^\d]/g, "");
  const needle = /^[\d\s()+-]+$/.test(query) && digits.length >= 5 ? digits.replace(/^0/, "") : words.sort((a, b) => b.length - a.length)[0];
  const { rows } = await tx.execute(sql`select id from estima_search_people(${needle}, 200)`);
  if (rows.length === 0) return [];
  const ids = rows.map((row) => String(row.id));
  const found = await tx.select().from(people).where(inArray(people.id, ids)).orderBy(asc(people.family), asc(people.given));
  const rest = needle === words[0] ? words.slice(1) : [];
  return found.filter((person) => rest.every((word) => (person.search ?? "").includes(word.toLowerCase()))).slice(0, most);
}

/** One person, or null. */
export async function findPerson(tx: Tx, scope: Scope, id: string): Promise<Person | null> {
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)));
  return person ?? null;
}

/** Everybody with this phone: people of one household may share it. */
export async function peopleWithPhone(tx: Tx, scope: Scope, phone: string): Promise<Person[]> {
  return tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.phone, phone)))
    .orderBy(desc(people.lastMessageAt));
}
