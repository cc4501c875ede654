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
  const asked = await rowsIn<{ review_id: string; person_id: string; ask_id: string }>(
    tx,
    sql`select f.id as review_id, w.person_id, w.ask_id
      from jsonb_to_recordset(${JSON.stringify(
        named.map(({ id, branchId, first, last, writtenAt }) => ({
          id,
          branch: branchId,
          first,
          last,
          since: new Date(writtenAt - RECOGNISED_WITHIN).toISOString(),
          until: new Date(Math.max(writtenAt, now)).toISOString(),
        })),
      )}::jsonb) as f(id uuid, branch uuid, first text, last text, since timestamptz, until timestamptz)
      cross join lateral (
        select distinct on (p.id) p.id as person_id, a.id as ask_id
        from people p join asks a on a.client_id = p.client_id and a.person_id = p.id
        where p.client_id = ${scope.clientId} and p.merged_into is null and p.given_key = f.first
          and (case when length(f.last) = 1 then left(lower(p.family), 1) else lower(p.family) end) = f.last
          and a.branch_id = f.branch and a.first_sent_at > f.since and a.first_sent_at <= f.until
        order by p.id, a.first_sent_at desc limit 2) w`,
  );
  for (const review of named) {
    const found = asked.filter(({ review_id }) => review_id === review.id);
    if (found.length !== 1) continue;
    const [{ person_id: personId, ask_id: askId }] = found;
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
