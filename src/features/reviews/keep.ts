import { and, eq, sql } from "drizzle-orm";
import type { SiteReview } from "@/connectors";
import { isAllegation } from "@/core/replies/gravity";
import { normaliseRating, type Scale } from "@/core/reviews/rating";
import { shortKey } from "@/core/shortKey";
import { DAY } from "@/core/time/zone";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import type { listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { reviews } from "@/schema/reviews";
import { recognise } from "./recognise";

/** What a site shows is kept, in one statement a page; what it tells twice, late or out of order changes nothing. */

type Page = Pick<typeof listings.$inferSelect, "id" | "branchId" | "scale"> & {
  /** The site shows replies: one that it does not show any more was taken down. */
  hasReplies: boolean;
  /** It is read for the first time: what lies long back there waits for no reply. */
  isFirst: boolean;
};

/** A review that is new, or that now says something for which people are notified straight away. */
export type Added = { id: string; rating: number; writtenAt: number; isUrgent: boolean };

/** What was written longer ago than this when a site is first read is set aside. */
export const LONG_BACK = 60 * DAY;

/** Nothing of PostgreSQL's text may be a NUL, and half a pair of surrogates is no letter. */
const clean = (text: string) => text.replaceAll("\0", "").toWellFormed();

/**
 * Keeps reviews of a page as they stood at its site at `seenAt`, just before it was asked. What changed here since, or
 * is on its way there, is left as it is. Gives how many are new or changed, and which of them wait for a reply about
 * which nothing was decided.
 */
export async function keepReviews(
  tx: Tx,
  scope: Scope,
  listing: Page,
  found: readonly SiteReview[],
  seenAt: number,
  now: number,
): Promise<{ count: number; undecided: string[]; added: Added[] }> {
  if (found.length === 0) return { count: 0, undecided: [], added: [] };
  const latest = new Map<string, SiteReview>();
  for (const review of found) {
    const known = latest.get(review.id);
    if (!known || known.changedAt <= review.changedAt) latest.set(review.id, review);
  }
  const iso = (at: number) => new Date(at).toISOString();
  const rows = [...latest.values()].map((it) => ({
    id: newId(),
    external_id: it.id,
    author: clean(it.author),
    own_rating: it.value,
    rating: normaliseRating(it.value, listing.scale),
    words: clean(it.words),
    written_at: iso(it.writtenAt),
    deleted_at: it.isDeleted ? iso(it.changedAt) : null,
    is_reported: it.isReported,
    reply: it.reply ? clean(it.reply.words) : null,
    replied_at: it.reply ? iso(it.reply.at) : null,
  }));
  const saidAnew = sql`(reviews.words, reviews.own_rating) is distinct from (excluded.words, excluded.own_rating)`;
  // Our own reply may be newer than what the site showed when it was asked, or on its way there now.
  const repliesHere = sql`(reviews.reply_state = 'posting' or coalesce(reviews.replied_at >= ${iso(seenAt)}, false))`;
  const isNewReply = sql`(excluded.reply is not null and (reviews.reply_state <> 'posted' or reviews.reply is distinct from excluded.reply))`;
  // What a rule has planned or drafted is decided anew where the review is another now, or gone.
  const isUndecided = sql`(reviews.reply_rule_id is not null and reviews.reply_state in ('planned', 'awaits approval', 'none') and (${saidAnew} or excluded.deleted_at is not null))`;
  const isTakenDown = sql`(${listing.hasReplies}::boolean and excluded.reply is null and reviews.reply_state = 'posted')`;
  const kept = await rowsIn<{
    id: string;
    author: string;
    written_at: string;
    is_unknown: boolean;
    is_undecided: boolean;
    is_shown: boolean;
    words: string;
    is_new: boolean;
    rating: number;
  }>(
    tx,
    sql`insert into reviews (id, client_id, listing_id, branch_id, external_id, author, scale, own_rating, rating, words,
        written_at, seen_at, collected_at, deleted_at, is_reported, reply, replied_at, reply_state)
      select x.id, ${scope.clientId}, ${listing.id}, ${listing.branchId}, x.external_id, x.author, ${listing.scale}, x.own_rating, x.rating, x.words,
        x.written_at, ${iso(seenAt)}, ${iso(now)}, x.deleted_at, x.is_reported, x.reply, x.replied_at,
        case when x.reply is not null then 'posted'
          when not ${listing.hasReplies}::boolean then 'not possible'
          when ${listing.isFirst}::boolean and x.written_at < ${iso(now - LONG_BACK)} then 'set aside'
          else 'none' end
      from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as x(id uuid, external_id text, author text, own_rating double precision,
        rating int, words text, written_at timestamptz, deleted_at timestamptz, is_reported boolean, reply text,
        replied_at timestamptz)
      on conflict (listing_id, external_id) do update set
        author = excluded.author, own_rating = excluded.own_rating, rating = excluded.rating, words = excluded.words,
        written_at = excluded.written_at, seen_at = excluded.seen_at, deleted_at = excluded.deleted_at, is_reported = excluded.is_reported,
        edited_at = case when ${saidAnew} then excluded.seen_at else reviews.edited_at end,
        reply = case when ${repliesHere} then reviews.reply when ${isNewReply} then excluded.reply when ${isTakenDown} or ${isUndecided} then null else reviews.reply end,
        replied_at = case when ${repliesHere} then reviews.replied_at when ${isNewReply} then excluded.replied_at when ${isTakenDown} then null else reviews.replied_at end,
        reply_by = case when not ${repliesHere} and (${isTakenDown} or (${isNewReply} and reviews.reply is distinct from excluded.reply)) then null else reviews.reply_by end,
        reply_error = case when not ${repliesHere} and ${isNewReply} then null else reviews.reply_error end,
        reply_state = case
          when ${repliesHere} then reviews.reply_state
          when ${isNewReply} then 'posted'
          when ${isTakenDown} then 'none'
          when ${isUndecided} or (reviews.reply_state = 'set aside' and ${saidAnew}) then 'none'
          else reviews.reply_state end,
        reply_due_at = case when not ${repliesHere} and (${isNewReply} or ${isUndecided}) then null else reviews.reply_due_at end,
        reply_rule_id = case when ${isUndecided} then null else reviews.reply_rule_id end,
        is_unread = reviews.is_unread or ${saidAnew},
        reply_why = case when ${isUndecided} then null else reviews.reply_why end
      where reviews.seen_at <= excluded.seen_at and (
        (reviews.author, reviews.written_at, reviews.deleted_at is null, reviews.is_reported)
          is distinct from (excluded.author, excluded.written_at, excluded.deleted_at is null, excluded.is_reported)
        or ${saidAnew} or (not ${repliesHere} and (${isNewReply} or ${isTakenDown})))
      returning id, author, written_at, rating, words, deleted_at is null as is_shown, (xmax = 0 and deleted_at is null) as is_new, (person_id is null and deleted_at is null) as is_unknown,
        (reply_state = 'none' and reply_rule_id is null and deleted_at is null) as is_undecided`,
  );
  await recognise(
    tx,
    scope,
    kept
      .filter(({ is_unknown }) => is_unknown)
      .map(({ id, author, written_at }) => ({
        id,
        author,
        writtenAt: new Date(written_at).getTime(),
        listingId: listing.id,
        branchId: listing.branchId,
      })),
    now,
  );
  return {
    count: kept.length,
    undecided: kept.filter(({ is_undecided }) => is_undecided).map(({ id }) => id),
    added: kept
      .map((row) => ({ ...row, isUrgent: row.is_shown && isAllegation(row.words, row.rating) }))
      .filter(({ is_new, isUrgent }) => is_new || isUrgent)
      .map(({ id, rating, written_at, isUrgent }) => ({
        id,
        rating,
        writtenAt: new Date(written_at).getTime(),
        isUrgent,
      })),
  };
}

/**
 * Marks as gone what a whole reading that began at `beganAt` did not come across. What came in meanwhile is not meant.
 */
export async function markGone(
  tx: Tx,
  scope: Scope,
  listingId: string,
  seen: readonly string[],
  beganAt: number,
  now: number,
): Promise<number> {
  const gone = await tx.execute(
    sql`update reviews set (deleted_at, seen_at) = (${new Date(now).toISOString()}, ${new Date(now).toISOString()}),
        reply_state = case when reply_state in ('planned', 'awaits approval') and reply_rule_id is not null then 'none' else reply_state end,
        reply_due_at = case when reply_state = 'planned' then null else reply_due_at end
      where client_id = ${scope.clientId} and listing_id = ${listingId} and deleted_at is null and collected_at < ${new Date(beganAt).toISOString()}
        and not exists (select 1 from unnest(${sql.param([...seen])}::text[]) as s(id) where s.id = external_id)`,
  );
  return gone.rowCount ?? 0;
}

/** A review that somebody brings in. Instants are milliseconds since the epoch. */
export type Imported = {
  author: string;
  value: number;
  rating: number;
  words: string;
  writtenAt: number;
  reply: string | null;
};

/**
 * Keeps reviews that somebody brought in, each once however often they are brought. Gives how many are new; what was
 * written long back waits for no reply.
 */
export async function keepImported(
  tx: Tx,
  scope: Scope,
  it: { listing: { id: string; branchId: string }; importId: string; scale: Scale; list: readonly Imported[] },
  now: number,
): Promise<number> {
  const { listing, importId, scale } = it;
  let count = 0;
  for (let from = 0; from < it.list.length; from += 500) {
    const rows = it.list.slice(from, from + 500).map((one): typeof reviews.$inferInsert => ({
      clientId: scope.clientId,
      listingId: listing.id,
      branchId: listing.branchId,
      externalId: `brought-${shortKey(`${one.author} ${one.writtenAt} ${one.value} ${one.words}`, 80)}`,
      author: clean(one.author),
      scale,
      ownRating: one.value,
      rating: one.rating,
      words: clean(one.words),
      writtenAt: one.writtenAt,
      collectedAt: now,
      seenAt: now,
      importId,
      ...(one.reply
        ? { reply: clean(one.reply), replyState: "posted" as const, repliedAt: one.writtenAt }
        : { replyState: one.writtenAt < now - LONG_BACK ? ("set aside" as const) : ("none" as const) }),
    }));
    const kept = await tx
      .insert(reviews)
      .values(rows)
      .onConflictDoNothing()
      .returning({ id: reviews.id, author: reviews.author, writtenAt: reviews.writtenAt });
    count += kept.length;
    await recognise(
      tx,
      scope,
      kept.map((one) => ({ ...one, listingId: listing.id, branchId: listing.branchId })),
      now,
    );
  }
  return count;
}

/** Takes back what was brought in at once; gives how many went. */
export async function dropImported(tx: Tx, scope: Scope, importId: string): Promise<number> {
  const gone = await tx
    .delete(reviews)
    .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.importId, importId)));
  return gone.rowCount ?? 0;
}
