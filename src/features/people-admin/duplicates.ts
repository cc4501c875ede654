import { and, desc, eq, inArray, isNull } from "drizzle-orm";
import { type Likeness, likelyPairs, pairKey } from "@/core/people/duplicates";
import { type HouseholdOffer, householdKey, householdOffers } from "@/core/people/households";
import { MINUTE } from "@/core/time/zone";
import type { Person } from "@/features/people";
import { realTime } from "@/platform/clock";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { dismissedMatches, people, peopleMatches } from "@/schema/people";

/** Looking for records that are one person, and for people who share a home. */

type Short = Pick<Person, "id" | "given" | "family" | "email" | "phone" | "postalAddress" | "householdId">;

const short = {
  id: people.id,
  given: people.given,
  family: people.family,
  email: people.email,
  phone: people.phone,
  postalAddress: people.postalAddress,
  householdId: people.householdId,
};

/** Records that are compared with one another at once; the newest of a client that has more. */
const COMPARED = 60_000;

/** So many are compared while one waits; more in the worker, whose finding is kept for a while (real time). */
const COMPARED_AT_ONCE = 3000;

const KEPT_FOR = 10 * MINUTE;

const MOST_PAIRS = 1000;

const MOST_HOMES = 100;

async function compared(tx: Tx, scope: Scope): Promise<Short[]> {
  return tx
    .select(short)
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), isNull(people.mergedInto), isNull(people.erasedAt)))
    .orderBy(desc(people.id))
    .limit(COMPARED);
}

async function apartKeys(tx: Tx, scope: Scope, kind: "duplicates" | "household"): Promise<Set<string>> {
  const rows = await tx
    .select({ key: dismissedMatches.key })
    .from(dismissedMatches)
    .where(and(eq(dismissedMatches.clientId, scope.clientId), eq(dismissedMatches.kind, kind)));
  return new Set(rows.map(({ key }) => key));
}

type Matches = { pairs: Likeness[]; homes: HouseholdOffer[]; foundAt: number };

function compare(
  records: Short[],
  apart: ReadonlySet<string>,
  apartHomes: ReadonlySet<string>,
): Omit<Matches, "foundAt"> {
  return { pairs: likelyPairs(records, apart, MOST_PAIRS), homes: householdOffers(records, apartHomes, MOST_HOMES) };
}

/** What comparing all records with one another finds; null while the worker is still at it for the first time. */
async function matchesOf(tx: Tx, scope: Scope): Promise<Matches | null> {
  const [apart, apartHomes] = [await apartKeys(tx, scope, "duplicates"), await apartKeys(tx, scope, "household")];
  const [beyond] = await tx
    .select({ id: people.id })
    .from(people)
    .where(eq(people.clientId, scope.clientId))
    .orderBy(people.id)
    .offset(COMPARED_AT_ONCE)
    .limit(1);
  if (!beyond) return { ...compare(await compared(tx, scope), apart, apartHomes), foundAt: realTime() };
  const [kept] = await tx.select().from(peopleMatches).where(eq(peopleMatches.clientId, scope.clientId));
  if (!kept || kept.foundAt < realTime() - KEPT_FOR)
    await addJob("matches", { clientId: scope.clientId }, `matches ${scope.clientId}`, tx);
  if (!kept) return null;
  return {
    pairs: kept.pairs.filter(({ a, b }) => !apart.has(pairKey(a, b))),
    homes: kept.homes.filter(({ members }) => !apartHomes.has(householdKey(members))),
    foundAt: kept.foundAt,
  };
}

/** What the worker does for a client with many people: compares them all, and keeps what it found. */
export async function findMatches(scope: Scope): Promise<void> {
  const { records, apart, apartHomes } = await withClient(scope, async (tx) => ({
    records: await compared(tx, scope),
    apart: await apartKeys(tx, scope, "duplicates"),
    apartHomes: await apartKeys(tx, scope, "household"),
  }));
  const found = { ...compare(records, apart, apartHomes), foundAt: realTime() };
  await withClient(scope, (tx) =>
    tx
      .insert(peopleMatches)
      .values({ clientId: scope.clientId, ...found })
      .onConflictDoUpdate({ target: peopleMatches.clientId, set: found }),
  );
}

export type FoundMatches = {
  pairs: { like: Likeness; a: Person; b: Person }[];
  more: number;
  homes: { offer: HouseholdOffer; people: Person[] }[];
  /** Real time at which they were compared; null while that is under way for the first time. */
  foundAt: number | null;
};

/** Pairs that may be one person and groups that may be one household, likeliest first, each with their records. */
export async function findDuplicatesAndHouseholds(tx: Tx, scope: Scope, most = 25): Promise<FoundMatches> {
  const matches = await matchesOf(tx, scope);
  if (!matches) return { pairs: [], more: 0, homes: [], foundAt: null };
  const [likes, offers] = [matches.pairs.slice(0, most), matches.homes.slice(0, most)];
  const ids = [...new Set([...likes.flatMap(({ a, b }) => [a, b]), ...offers.flatMap(({ members }) => members)])];
  // What was found a while ago may have been settled since.
  const persons = new Map(
    [...(await byIds(tx, scope, ids))].filter(
      ([, { mergedInto, erasedAt }]) => mergedInto === null && erasedAt === null,
    ),
  );
  return {
    pairs: likes.flatMap((like) => {
      const [a, b] = [persons.get(like.a), persons.get(like.b)];
      return a && b ? [{ like, a, b }] : [];
    }),
    more: matches.pairs.length - likes.length,
    homes: offers
      .map((offer) => ({ offer, people: offer.members.flatMap((id) => persons.get(id) ?? []) }))
      .filter(
        ({ people: members }) =>
          members.length > 1 &&
          !(members[0].householdId && members.every(({ householdId }) => householdId === members[0].householdId)),
      ),
    foundAt: matches.foundAt,
  };
}

/** The pairs alone. */
export async function findDuplicates(tx: Tx, scope: Scope, most = 25): Promise<Pick<FoundMatches, "pairs" | "more">> {
  return findDuplicatesAndHouseholds(tx, scope, most);
}

/** The households alone. */
export async function findHouseholds(tx: Tx, scope: Scope, most = 25): Promise<FoundMatches["homes"]> {
  return (await findDuplicatesAndHouseholds(tx, scope, most)).homes;
}

async function byIds(tx: Tx, scope: Scope, ids: string[]): Promise<Map<string, Person>> {
  if (ids.length === 0) return new Map();
  const rows = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), inArray(people.id, ids)));
  return new Map(rows.map((person) => [person.id, person]));
}

/**
 * Remembers that a pair is two people, or a group no household, so that it is not offered again. False when one of
 * them is not there.
 */
export async function dismissMatch(
  tx: Tx,
  scope: Scope,
  kind: "duplicates" | "household",
  ids: string[],
  who: string,
  now: number,
): Promise<boolean> {
  if ((await byIds(tx, scope, ids)).size < new Set(ids).size) return false;
  const key = kind === "duplicates" ? pairKey(ids[0], ids[1]) : householdKey(ids);
  await tx
    .insert(dismissedMatches)
    .values({ clientId: scope.clientId, kind, key, by: who, at: now })
    .onConflictDoNothing();
  return true;
}
