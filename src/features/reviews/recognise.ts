import { eq, sql } from "drizzle-orm";
import { DAY } from "@/core/time/zone";
import { lockAsks, openAsksOf, recordEvents, setReviewed, stopAsks } from "@/features/asks";
import { recordReviewed } from "@/features/people";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { reviews } from "@/schema/reviews";

/** Whose review one is. */

/**
 * A review is taken for a person's when nobody else of this name was asked at the branch within this time before it.
 */
const RECOGNISED_WITHIN = 60 * DAY;

/** A review whose writer is looked for. Instants are milliseconds since the epoch. */
export type Unrecognised = { id: string; listingId: string; branchId: string; author: string; writtenAt: number };

/**
 * Notes whose reviews these are, where exactly one person of the author's name was asked lately: they rest from it, are
 * not offered the site again, and what was still to be sent stops.
 */
export async function recognise(tx: Tx, scope: Scope, list: readonly Unrecognised[], now: number): Promise<void> {
  const named = list.flatMap((review) => {
    const words = review.author.toLowerCase().replaceAll(".", "").trim().split(/\s+/);
    const [first, last] = [words[0], words.at(-1) ?? ""];
    return words.length < 2 || !last ? [] : [{ ...review, first, last }];
  });
  if (named.length === 0) return;
  // Step by step, each by an index: who has the first name, and what these were asked.
  const firsts = [...new Set(named.map(({ first }) => first))];
  const namesakes = await rowsIn<{ id: string; first: string; family: string }>(
    tx,
    sql`select p.id, p.given_key as first, lower(p.family) as family from people p
      where p.client_id = ${scope.clientId} and p.merged_into is null and p.given_key = any(${sql.param(firsts)}::text[])`,
  );
  const isNamed = (review: (typeof named)[number], one: { first: string; family: string }) =>
    one.first === review.first &&
    (review.last.length === 1 ? one.family.startsWith(review.last) : one.family === review.last);
  const candidates = namesakes.filter((one) => named.some((review) => isNamed(review, one)));
  if (candidates.length === 0) return;
  const asks = await rowsIn<{ id: string; person_id: string; branch_id: string; sent_at: string }>(
    tx,
    sql`select a.id, a.person_id, a.branch_id, a.first_sent_at as sent_at from asks a
      where a.client_id = ${scope.clientId} and a.person_id = any(${sql.param(candidates.map(({ id }) => id))}::uuid[]) and a.first_sent_at is not null
      order by a.first_sent_at desc`,
  );
  const sent = asks.map((ask) => ({ ...ask, at: new Date(ask.sent_at).getTime() }));
  const askedBefore = (review: (typeof named)[number]) => {
    const own = new Set(candidates.filter((one) => isNamed(review, one)).map(({ id }) => id));
    const latest = new Map<string, string>();
    for (const { id, person_id, branch_id, at } of sent)
      if (
        own.has(person_id) &&
        branch_id === review.branchId &&
        at > review.writtenAt - RECOGNISED_WITHIN &&
        at <= Math.max(review.writtenAt, now) &&
        !latest.has(person_id)
      )
        latest.set(person_id, id);
    return [...latest].map(([personId, askId]) => ({ personId, askId }));
  };
  for (const review of named) {
    const found = askedBefore(review);
    if (found.length !== 1) continue;
    const [{ personId, askId }] = found;
    await tx.update(reviews).set({ personId, askId }).where(eq(reviews.id, review.id));
    await recordReviewed(tx, scope, personId, review.writtenAt);
    const open = (await openAsksOf(tx, scope, [personId])).map(({ id }) => id);
    await lockAsks(tx, scope, open);
    await setReviewed(tx, scope, askId, review.writtenAt);
    await recordEvents(tx, scope, [
      { kind: "reviewed", source: "person", at: review.writtenAt, askId, listingId: review.listingId },
    ]);
    await stopAsks(tx, scope, open, "reviewed", now);
  }
}
