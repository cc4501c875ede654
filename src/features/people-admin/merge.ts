import { and, desc, eq, inArray, isNull } from "drizzle-orm";
import { dropSameTriggers, openAsksOf, stopAsks } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import {
  moveLinks,
  type Person,
  refreshLastVisits,
  setMergedInto,
  untouchedSince,
  updatePeople,
} from "@/features/people";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { merges, people } from "@/schema/people";
import { moveRows, moveRowsBack } from "./personalRows";

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
  await refreshLastVisits(tx, scope, [keptId]);
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
    lastRecommend:
      (gone.lastAnsweredAt ?? 0) > (kept.lastAnsweredAt ?? 0)
        ? (gone.lastRecommend ?? kept.lastRecommend)
        : (kept.lastRecommend ?? gone.lastRecommend),
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
  await refreshLastVisits(tx, scope, [merge.keptId, merge.goneId]);
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
