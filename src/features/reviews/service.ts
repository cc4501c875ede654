import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { normaliseRating } from "@/core/reviews/rating";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import { DAY } from "@/core/time/zone";
import { lockAsks, openAsksOf, recordEvents, setReviewed, stopAsks } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { refreshReviewSums, setCollected } from "@/features/clients";
import { recordReviewed } from "@/features/people";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { decrypt } from "@/platform/secrets";
import { listings } from "@/schema/clients";
import { reviews } from "@/schema/reviews";
import { putReply, readReviews, SiteUnreachable, type WaypostAccess, type WaypostReview } from "./waypost";

export type Review = typeof reviews.$inferSelect;

/** A page with the key of its connector. */
type Listing = typeof listings.$inferSelect;

const COLLECT_EVERY = 60_000;

function accessOf(listing: Listing): WaypostAccess | null {
  return listing.connector === "waypost" && listing.connectorUrl && listing.connectorKey
    ? { url: listing.connectorUrl, key: decrypt(listing.connectorKey) }
    : null;
}

/** Claims the listings whose reviews are due at `at`. */
export async function claimListings(at: number): Promise<{ clientId: string; listingId: string }[]> {
  const iso = (time: number) => new Date(time).toISOString();
  const rows = await rowsOf<{ client_id: string; listing_id: string }>(
    sql`select * from estima_claim_listings(${iso(at)}, ${iso(at + COLLECT_EVERY)}, 200)`,
  );
  return rows.map((row) => ({ clientId: row.client_id, listingId: row.listing_id }));
}

/**
 * Collects what is new, edited or deleted on one listing. Trouble is kept with the listing; the next turn tries
 * again.
 */
export async function collect(clientId: string, listingId: string): Promise<number> {
  const scope = workFor(clientId);
  const [listing] = await withClient(scope, (tx) => tx.select().from(listings).where(eq(listings.id, listingId)));
  const access = listing && accessOf(listing);
  if (!access) return 0;
  let cursor = listing.cursor ?? "";
  let count = 0;
  try {
    for (let more = true; more; ) {
      const page = await readReviews(access, cursor);
      const now = await clockNow();
      await withClient(scope, async (tx) => {
        for (const found of page.reviews) {
          const [kept] = await tx
            .insert(reviews)
            .values(valuesOf(found, listing, now))
            .onConflictDoUpdate({ target: [reviews.listingId, reviews.externalId], set: changesOf(found) })
            .returning();
          // Whoever changes their words has said something new.
          if (kept.replyState === "set aside" && kept.editedAt !== null && kept.editedAt > (listing.collectedAt ?? 0))
            await tx.update(reviews).set({ replyState: "none" }).where(eq(reviews.id, kept.id));
          if (!kept.personId && !kept.deletedAt) await recognise(tx, scope, kept, now);
        }
        await setCollected(tx, scope, listingId, { cursor: page.cursor, collectedAt: now, collectError: null });
      });
      if (page.reviews.length > 0 || listing.reviewCount === null)
        await withClient(scope, (tx) => refreshReviewSums(tx, scope, listingId));
      count += page.reviews.length;
      cursor = page.cursor;
      more = page.more && page.reviews.length > 0;
    }
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    await withClient(scope, (tx) => setCollected(tx, scope, listingId, { collectError: error.problem }));
  }
  return count;
}

/**
 * A review is taken for a person's when nobody else of this name was asked at the branch within this time before it.
 */
const RECOGNISED_WITHIN = 60 * DAY;

/**
 * Notes whose review it is, where exactly one person of the author's name was asked lately: they rest from it, are not
 * offered the site again, and what was still to be sent stops.
 */
async function recognise(tx: Tx, scope: Scope, review: Review, now: number): Promise<void> {
  const words = review.author.toLowerCase().replaceAll(".", "").trim().split(/\s+/);
  const [first, last] = [words[0], words.at(-1) ?? ""];
  if (words.length < 2 || !last) return;
  const named =
    last.length === 1
      ? sql`lower(p.given) = ${first} and left(lower(p.family), 1) = ${last}`
      : sql`lower(p.family) = ${last} and lower(p.given) = ${first}`;
  const iso = (at: number) => new Date(at).toISOString();
  const asked = await rowsIn<{ person_id: string; ask_id: string }>(
    tx,
    sql`select distinct on (p.id) p.id as person_id, a.id as ask_id from people p join asks a on a.client_id = p.client_id and a.person_id = p.id
        where p.client_id = ${scope.clientId} and p.merged_into is null and ${named} and a.branch_id = ${review.branchId}
          and a.first_sent_at > ${iso(review.writtenAt - RECOGNISED_WITHIN)} and a.first_sent_at <= ${iso(Math.max(review.writtenAt, now))}
        order by p.id, a.first_sent_at desc limit 2`,
  );
  if (asked.length !== 1) return;
  const [{ person_id: personId, ask_id: askId }] = asked;
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

function valuesOf(found: WaypostReview, listing: Listing, now: number): typeof reviews.$inferInsert {
  return {
    clientId: listing.clientId,
    listingId: listing.id,
    branchId: listing.branchId,
    externalId: found.id,
    scale: "five",
    writtenAt: Date.parse(found.writtenAt),
    collectedAt: now,
    ...changesOf(found),
  } as typeof reviews.$inferInsert;
}

function changesOf(found: WaypostReview) {
  const edited = found.changedAt !== found.writtenAt && !found.reply && !found.deleted;
  return {
    author: found.author,
    ownRating: found.stars,
    rating: normaliseRating(found.stars, "five"),
    words: found.words,
    ...(edited ? { editedAt: Date.parse(found.changedAt) } : {}),
    deletedAt: found.deleted ? Date.parse(found.changedAt) : null,
    ...(found.reply
      ? { reply: found.reply.words, replyState: "posted" as const, repliedAt: Date.parse(found.reply.at) }
      : {}),
  };
}

/** A review of the client, or null. */
export async function findReview(tx: Tx, scope: Scope, id: string): Promise<Review | null> {
  const [review] = await tx
    .select()
    .from(reviews)
    .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, id)));
  return review ?? null;
}

/**
 * Sets a review aside, which then waits for no reply, or takes it up again. False for one that is answered or gone;
 * twice is once.
 */
export async function setAside(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  isAside: boolean,
  now: number,
): Promise<boolean> {
  const [before] = await tx
    .select({ state: reviews.replyState })
    .from(reviews)
    .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, id)))
    .for("update");
  if (!before || before.state === "posted" || before.state === "posting") return false;
  if ((before.state === "set aside") === isAside) return true;
  await tx
    .update(reviews)
    .set({ replyState: isAside ? "set aside" : "none" })
    .where(eq(reviews.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: isAside ? "set aside" : "took",
    subject: "review",
    subjectId: id,
  });
  return true;
}

export const replyInput = z.object({
  words: z.string().trim().min(1, "Write the reply first.").max(4000, "Waypost takes 4,000 characters at most."),
});

/** Posts a reply in public and keeps it. When the site refuses, the words stay and the reason is shown. */
export async function postReply(
  scope: Scope,
  who: string,
  reviewId: string,
  words: string,
): Promise<{ refused: SiteProblem } | null> {
  const now = await clockNow();
  const found = await withClient(scope, async (tx) => {
    const [row] = await tx
      .select({ review: reviews, listing: listings })
      .from(reviews)
      .innerJoin(listings, eq(listings.id, reviews.listingId))
      .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, reviewId)))
      .for("update", { of: reviews });
    if (!row || row.review.deletedAt) return null;
    await tx
      .update(reviews)
      .set({ reply: words, replyState: "posting", replyBy: who, replyError: null })
      .where(eq(reviews.id, reviewId));
    return row;
  });
  if (!found) return { refused: { code: "review gone" } };
  const access = accessOf(found.listing);
  let refused: SiteProblem | null = access ? null : { code: "takes no replies" };
  try {
    if (access) await putReply(access, found.review.externalId, words);
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    refused = error.problem;
  }
  await withClient(scope, async (tx) => {
    const after = refused
      ? { replyState: "failed" as const, replyError: refused }
      : { replyState: "posted" as const, repliedAt: now };
    await tx.update(reviews).set(after).where(eq(reviews.id, reviewId));
    if (!refused)
      await recordAudit(tx, {
        clientId: scope.clientId,
        at: now,
        who,
        action: "replied",
        subject: "review",
        subjectId: reviewId,
      });
  });
  return refused ? { refused } : null;
}
