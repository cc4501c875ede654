import { and, asc, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { GROUPS } from "@/core/answers/recommendation";
import { REASONS } from "@/core/asks/findings";
import { DAY, fromLocal, parseDay } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { people, views } from "@/schema/people";
import type { Person } from "./service";

/** The list of people: filters that live in the address, pages by key, named views. */

export const PEOPLE_STATES = [
  "planned",
  "asked",
  "answered",
  "reviewed",
  ...GROUPS,
  "concern",
  "resting",
  "opted out",
  "unreachable",
  "excluded",
] as const;
export const ASKED = ["never", "month", "year", "longer"] as const;

export const PEOPLE_PAGE = 50;

const text = (most: number) => z.string().max(most).transform(cleanText);

/** Filters as they stand in the address. What makes no sense is left out. */
export const directoryQuery = z.object({
  q: text(100).catch(""),
  tag: text(60).optional().catch(undefined),
  branch: z.uuid().optional().catch(undefined),
  asked: z.enum(ASKED).optional().catch(undefined),
  state: z.enum(PEOPLE_STATES).optional().catch(undefined),
  list: z.uuid().optional().catch(undefined),
  leftout: z.enum(REASONS).optional().catch(undefined),
  day: z.string().optional().catch(undefined),
});
export type DirectoryQuery = z.output<typeof directoryQuery>;

/** One place in the list: the key of the last person of a page. */
export const afterKey = z
  .string()
  .optional()
  .transform((value): [string, string, string] | null => {
    const parts = value && cleanText(value).split("~");
    return parts?.length === 3 && z.uuid().safeParse(parts[2]).success ? [parts[0], parts[1], parts[2]] : null;
  })
  .catch(null);

/** The address part that shows the page after a person. */
export function keyAfter(person: Person): string {
  return `${person.family}~${person.given}~${person.id}`;
}

/** The filters as an address, without the empty ones. */
export function queryString(query: Partial<DirectoryQuery>): string {
  const entries = Object.entries(query).flatMap(([name, value]) => (value ? [[name, String(value)]] : []));
  return new URLSearchParams(entries).toString();
}

/** The words to look for. A phone typed the local way is found by its last digits. */
function wordsOf(typed: string): string[] {
  const digits = typed.replace(/[^\d]/g, "");
  if (/^[\d\s()+-]+$/.test(typed) && digits.length >= 5) return [digits.replace(/^0/, "")];
  // "Marsh, Odette" is how lists write a name.
  return typed
    .toLowerCase()
    .split(/[\s,;]+/)
    .filter(Boolean)
    .slice(0, 8);
}

/** What the database function takes. `zone` is the client's, for the day of the left-out filter. */
function filterOf(
  query: Partial<DirectoryQuery> & { ids?: string[]; household?: string },
  { now, zone, restDays }: { now: number; zone: string; restDays: number },
): Record<string, unknown> {
  const filter: Record<string, unknown> = { now: new Date(now).toISOString(), words: wordsOf(query.q ?? "") };
  if (query.tag) filter.tag = query.tag;
  if (query.branch) filter.branch = query.branch;
  if (query.asked) filter.asked = query.asked;
  if (query.list) filter.intake = query.list;
  if (query.ids) filter.ids = query.ids;
  if (query.household) filter.household = query.household;
  if (query.state) Object.assign(filter, { state: query.state, restDays });
  if (query.leftout && query.day) {
    try {
      const from = fromLocal(zone, parseDay(query.day) * DAY);
      Object.assign(filter, {
        leftout: query.leftout,
        from: new Date(from).toISOString(),
        to: new Date(from + DAY).toISOString(),
      });
    } catch {
      // A day that is none filters nothing.
    }
  }
  return filter;
}

export type DirectoryFacts = { now: number; zone: string; restDays: number };

const listed = (filter: Record<string, unknown>, after: readonly string[] | null, most: number) =>
  sql`estima_list_people(${JSON.stringify(filter)}::jsonb, ${after ? sql.param([...after]) : null}::text[], ${most})`;

/**
 * One page of people after filters, by name; `after` is the key of the last one of the page before. One more than a
 * page tells that there are more.
 */
export async function listPeople(
  tx: Tx,
  query: Partial<DirectoryQuery>,
  after: readonly [string, string, string] | null,
  facts: DirectoryFacts,
  most = PEOPLE_PAGE + 1,
): Promise<Person[]> {
  const rows = await rowsIn<{ id: string }>(tx, sql`select id from ${listed(filterOf(query, facts), after, most)}`);
  return inOrder(
    tx,
    rows.map(({ id }) => id),
  );
}

/** The identifiers of everybody after filters, at most `most`. */
export async function listIds(
  tx: Tx,
  query: Partial<DirectoryQuery> & { ids?: string[] },
  facts: DirectoryFacts,
  most: number,
): Promise<string[]> {
  return (await rowsIn<{ id: string }>(tx, sql`select id from ${listed(filterOf(query, facts), null, most)}`)).map(
    ({ id }) => id,
  );
}

/** How many there are after filters; counts no further than `most`. */
export async function countListed(
  tx: Tx,
  query: Partial<DirectoryQuery>,
  facts: DirectoryFacts,
  most = 1000,
): Promise<number> {
  const [row] = await rowsIn<{ n: string }>(
    tx,
    sql`select count(*) as n from ${listed(filterOf(query, facts), null, most)}`,
  );
  return Number(row.n);
}

async function inOrder(tx: Tx, ids: string[]): Promise<Person[]> {
  if (ids.length === 0) return [];
  return tx
    .select()
    .from(people)
    .where(sql`${people.id} = any(${sql.param(ids)}::uuid[])`)
    .orderBy(asc(people.family), asc(people.given), asc(people.id));
}

/** People who match every word typed, at most `most`. */
export function searchPeople(tx: Tx, typed: string, most = 50): Promise<Person[]> {
  if (wordsOf(typed).length === 0) return Promise.resolve([]);
  return listPeople(tx, { q: typed.slice(0, 100) }, null, { now: 0, zone: "UTC", restDays: 0 }, most);
}

/** How many people the client has, or the branches to which whoever asks is bound. */
export async function countPeople(tx: Tx): Promise<number> {
  const [row] = await rowsIn<{ n: string }>(tx, sql`select estima_count_people() as n`);
  return Number(row.n);
}

export type View = typeof views.$inferSelect;

/** The client's named views, in their order. */
export function listViews(tx: Tx, scope: Scope): Promise<View[]> {
  return tx
    .select()
    .from(views)
    .where(eq(views.clientId, scope.clientId))
    .orderBy(asc(views.position), asc(views.name))
    .limit(40);
}

/** Keeps filters under a name; the same name is replaced. */
export async function saveView(
  tx: Tx,
  scope: Scope,
  who: string,
  name: string,
  query: Partial<DirectoryQuery>,
): Promise<void> {
  await tx
    .insert(views)
    .values({ id: newId(), clientId: scope.clientId, name, query: queryString(query), madeBy: who })
    .onConflictDoUpdate({ target: [views.clientId, views.name], set: { query: queryString(query), madeBy: who } });
}

/** Forgets a view. */
export async function deleteView(tx: Tx, scope: Scope, id: string): Promise<void> {
  await tx.delete(views).where(and(eq(views.clientId, scope.clientId), eq(views.id, id)));
}
