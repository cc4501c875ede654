import { and, desc, eq, inArray, isNull, sql } from "drizzle-orm";
import { type Likeness, likelyPairs, pairKey } from "@/core/people/duplicates";
import { type HouseholdOffer, householdKey, householdOffers } from "@/core/people/households";
import { MINUTE } from "@/core/time/zone";
import { dropSameTriggers, openAsksOf, stopAsks } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { moveLinks, type Person, setHousehold, setMergedInto, untouchedSince, updatePeople } from "@/features/people";
import { realTime } from "@/platform/clock";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { newId } from "@/schema/columns";
import { dismissedMatches, households, merges, people, peopleMatches } from "@/schema/people";
import { moveRows, moveRowsBack } from "./personalRows";

/** Duplicates and households: found by looking, made by a person, and undone by one. */

/** What leads to a record, and leads to the one that is kept. */
const LINKS = ["wards", "earlier"] as const;

export type Merge = typeof merges.$inferSelect;

/**
 * Makes two records one: `keptId` stays, with what it lacks filled in from the other and both histories; `goneId`
 * lives on inside it, so that lists that name it still find it. Null when either is not there. An ask that both have
 * open goes on once.
 */
export async function mergePeople(
  tx: Tx,
  scope: Scope,
  keptId: string,
  goneId: string,
  who: string,
  now: number,
): Promise<Merge | null> {
  const both = await lockPair(tx, scope, keptId, goneId);
  const kept = both.find(({ id }) => id === keptId);
  const gone = both.find(({ id }) => id === goneId);
  if (!kept || !gone || keptId === goneId) return null;
  const open = await openAsksOf(tx, scope, [keptId, goneId]);
  // The one that has got furthest goes on.
  const [, ...rest] = [...open].sort((a, b) => b.sentCount - a.sentCount || a.createdAt - b.createdAt);
  await stopAsks(
    tx,
    scope,
    rest.map(({ id }) => id),
    "cancelled by hand",
    now,
  );
  // What a plan has looked at for both it has looked at for the one.
  await dropSameTriggers(tx, scope, goneId, keptId);
  const moved = await moveRows(tx, scope, goneId, keptId);
  for (const link of LINKS) moved[link] = await moveLinks(tx, scope, link, goneId, keptId);
  await setMergedInto(tx, scope, goneId, keptId);
  await updatePeople(tx, scope, [{ id: keptId, change: changesBetween(kept, joined(kept, gone)) }]);
  const [merge] = await tx
    .insert(merges)
    .values({ id: newId(), clientId: scope.clientId, keptId, goneId, before: { kept, gone }, moved, by: who, at: now })
    .returning();
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "merged",
    subject: "person",
    subjectId: keptId,
    details: { with: goneId },
  });
  return merge;
}

async function lockPair(tx: Tx, scope: Scope, a: string, b: string): Promise<Person[]> {
  return tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        inArray(people.id, [a, b]),
        isNull(people.mergedInto),
        isNull(people.erasedAt),
      ),
    )
    .orderBy(people.id)
    .for("update");
}

const latestOf = (a: number | null, b: number | null) => (a === null ? b : b === null ? a : Math.max(a, b));

/** What the one record says: its own word first, the other's where it is silent. Whoever opted out has opted out. */
function joined(kept: Person, gone: Person): Person {
  const takesEmail =
    (!kept.email || (kept.emailBouncedAt !== null && gone.emailBouncedAt === null)) && gone.email !== null;
  const takesPhone =
    (!kept.phone ||
      ((kept.textBouncedAt !== null || !kept.phoneTakesTexts) &&
        gone.phoneTakesTexts &&
        gone.textBouncedAt === null)) &&
    gone.phone !== null;
  return {
    ...kept,
    given: kept.given.length > 1 || !gone.given ? kept.given || gone.given : gone.given,
    family: kept.family || gone.family,
    ...(takesEmail
      ? { email: gone.email, emailBouncedAt: gone.emailBouncedAt, emailBouncedWhy: gone.emailBouncedWhy }
      : {}),
    ...(takesPhone
      ? {
          phone: gone.phone,
          phoneTakesTexts: gone.phoneTakesTexts,
          textBouncedAt: gone.textBouncedAt,
          textBouncedWhy: gone.textBouncedWhy,
        }
      : {}),
    externalId: kept.externalId ?? gone.externalId,
    language: kept.language ?? gone.language,
    birthDate: kept.birthDate ?? gone.birthDate,
    postalAddress: kept.postalAddress ?? gone.postalAddress,
    guardianId: kept.guardianId ?? (gone.guardianId === kept.id ? null : gone.guardianId),
    householdId: kept.householdId ?? gone.householdId,
    consent: kept.consent ?? gone.consent,
    doNotAsk: kept.doNotAsk ?? gone.doNotAsk,
    note: [kept.note, kept.note.includes(gone.note) ? "" : gone.note].filter(Boolean).join(" · ").slice(0, 2000),
    tags: [...new Set([...kept.tags, ...gone.tags])],
    wrongAddresses: [...new Set([...kept.wrongAddresses, ...gone.wrongAddresses])],
    emailOptedOutAt: kept.emailOptedOutAt ?? gone.emailOptedOutAt,
    emailOptedOutHow: kept.emailOptedOutHow ?? gone.emailOptedOutHow,
    textOptedOutAt: kept.textOptedOutAt ?? gone.textOptedOutAt,
    textOptedOutHow: kept.textOptedOutHow ?? gone.textOptedOutHow,
    restUntil: latestOf(kept.restUntil, gone.restUntil),
    restReason: kept.restReason ?? gone.restReason,
    lastAskedAt: latestOf(kept.lastAskedAt, gone.lastAskedAt),
    lastMessageAt: latestOf(kept.lastMessageAt, gone.lastMessageAt),
    lastReviewedAt: latestOf(kept.lastReviewedAt, gone.lastReviewedAt),
    lastAnsweredAt: latestOf(kept.lastAnsweredAt, gone.lastAnsweredAt),
    lastVisitAt: latestOf(kept.lastVisitAt, gone.lastVisitAt),
    lastBranchId:
      (kept.lastVisitAt ?? 0) >= (gone.lastVisitAt ?? 0) ? (kept.lastBranchId ?? gone.lastBranchId) : gone.lastBranchId,
  };
}

/** What is different in `after`, column by column. */
function changesBetween(before: Person, after: Person): Partial<Person> {
  const names = (Object.keys(after) as (keyof Person)[]).filter(
    (name) => name !== "search" && JSON.stringify(after[name]) !== JSON.stringify(before[name]),
  );
  return Object.fromEntries(names.map((name) => [name, after[name]]));
}

/**
 * What takes a merge back in the record that was kept: each detail that still is as the merge left it is as it was
 * before; what somebody has changed since stays.
 */
function restoredKept(before: { kept: Person; gone: Person }, current: Person): Partial<Person> {
  const made = joined(before.kept, before.gone);
  return untouchedSince(changesBetween(made, before.kept), made, current);
}

/** What protects somebody and was said of the merged record since: it holds for both. */
function protectedSince(before: { kept: Person; gone: Person }, current: Person, mergedAt: number): Partial<Person> {
  const made = joined(before.kept, before.gone);
  return {
    ...(current.emailOptedOutAt !== null && current.emailOptedOutAt > mergedAt
      ? { emailOptedOutAt: current.emailOptedOutAt, emailOptedOutHow: current.emailOptedOutHow }
      : {}),
    ...(current.textOptedOutAt !== null && current.textOptedOutAt > mergedAt
      ? { textOptedOutAt: current.textOptedOutAt, textOptedOutHow: current.textOptedOutHow }
      : {}),
    ...(current.doNotAsk !== null && current.doNotAsk !== made.doNotAsk ? { doNotAsk: current.doNotAsk } : {}),
    ...(current.consent?.given === false && made.consent?.given !== false ? { consent: current.consent } : {}),
  };
}

/**
 * Takes a merge back: both records are as they were, each with its own history; what happened since stays with the one
 * that was kept. Whoever opted out meanwhile stays so. False when it was undone already, or either was erased.
 */
export async function undoMerge(tx: Tx, scope: Scope, mergeId: string, who: string, now: number): Promise<boolean> {
  const [merge] = await tx
    .select()
    .from(merges)
    .where(and(eq(merges.clientId, scope.clientId), eq(merges.id, mergeId), isNull(merges.undoneAt)))
    .for("update");
  if (!merge) return false;
  const before = merge.before as { kept: Person; gone: Person };
  const current = await tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        inArray(people.id, [merge.keptId, merge.goneId]),
        isNull(people.erasedAt),
      ),
    )
    .orderBy(people.id)
    .for("update");
  const kept = current.find(({ id }) => id === merge.keptId);
  if (!kept || current.length < 2 || kept.mergedInto) return false;
  // The kept record gives the other's number in the books back before that takes it again.
  await updatePeople(tx, scope, [{ id: merge.keptId, change: restoredKept(before, kept) }]);
  await updatePeople(tx, scope, [
    {
      id: merge.goneId,
      change: { externalId: before.gone.externalId, mergedInto: null, ...protectedSince(before, kept, merge.at) },
    },
  ]);
  await moveRowsBack(tx, scope, merge.moved, merge.keptId, merge.goneId);
  for (const link of LINKS) await moveLinks(tx, scope, link, merge.keptId, merge.goneId, merge.moved[link] ?? []);
  await tx.update(merges).set({ undoneAt: now }).where(eq(merges.id, mergeId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "undid merge",
    subject: "person",
    subjectId: merge.keptId,
    details: { with: merge.goneId },
  });
  return true;
}

/** Merges into a person that can still be undone, latest first: only the latest can be undone at once. */
export function mergesOf(tx: Tx, scope: Scope, personId: string): Promise<Merge[]> {
  return tx
    .select()
    .from(merges)
    .where(and(eq(merges.clientId, scope.clientId), eq(merges.keptId, personId), isNull(merges.undoneAt)))
    .orderBy(desc(merges.at));
}

/** The last merges of the client, for undoing. */
export function recentMerges(tx: Tx, scope: Scope, most = 10): Promise<Merge[]> {
  return tx
    .select()
    .from(merges)
    .where(and(eq(merges.clientId, scope.clientId), isNull(merges.undoneAt)))
    .orderBy(desc(merges.at))
    .limit(most);
}

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

/** Makes people one household. Those who have one already bring the others into it. */
export async function makeHousehold(
  tx: Tx,
  scope: Scope,
  ids: string[],
  who: string,
  now: number,
): Promise<string | null> {
  const members = await tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        inArray(people.id, ids),
        isNull(people.mergedInto),
        isNull(people.erasedAt),
      ),
    )
    .orderBy(people.id)
    .for("update");
  if (members.length < 2) return null;
  const homes = [...new Set(members.flatMap(({ householdId }) => householdId ?? []))];
  const [home = newId(), ...others] = homes;
  if (homes.length === 0)
    await tx.insert(households).values({ id: home, clientId: scope.clientId, confirmedBy: who, createdAt: now });
  await setHousehold(
    tx,
    scope,
    members.map(({ id }) => id),
    home,
    others,
  );
  if (others.length > 0) await tx.delete(households).where(inArray(households.id, others));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "made household",
    subject: "person",
    subjectId: members[0].id,
    details: { members: members.map(({ id }) => id) },
  });
  return home;
}

/**
 * Takes one person out of their household; a household of one is none. False when there is nothing to take them out
 * of.
 */
export async function leaveHousehold(tx: Tx, scope: Scope, id: string, who: string, now: number): Promise<boolean> {
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)))
    .for("update");
  if (!person?.householdId) return false;
  await setHousehold(tx, scope, [id], null);
  const left = await tx
    .select({ id: people.id })
    .from(people)
    .where(eq(people.householdId, person.householdId))
    .limit(2);
  if (left.length < 2) await tx.delete(households).where(eq(households.id, person.householdId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "left household",
    subject: "person",
    subjectId: id,
  });
  return true;
}

/** The others of a person's household. */
export function housemates(tx: Tx, scope: Scope, person: Person): Promise<Person[]> {
  if (!person.householdId) return Promise.resolve([]);
  return tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        eq(people.householdId, person.householdId),
        sql`${people.id} <> ${person.id}`,
      ),
    )
    .limit(20);
}
