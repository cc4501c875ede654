import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { normaliseRating } from "@/core/reviews/rating";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, withClient, workFor } from "@/platform/database";
import { decrypt } from "@/platform/secrets";
import { note } from "../audit";
import { type Listing, listings } from "../clients";
import { reviews } from "./tables";
import { putReply, readReviews, SiteTrouble, type WaypostAccess, type WaypostReview } from "./waypost";

export type Review = typeof reviews.$inferSelect;

const COLLECT_EVERY = 60_000;

function accessOf(listing: Listing): WaypostAccess | null {
  return listing.connector === "waypost" && listing.connectorUrl && listing.connectorKey ? { url: listing.connectorUrl, key: decrypt(listing.connectorKey) } : null;
}

/** Claims the listings whose reviews are due at `at`. */
export async function claimListings(at: number): Promise<{ clientId: string; listingId: string }[]> {
  const iso = (time: number) => new Date(time).toISOString();
  const rows = await rowsOf<{ client_id: string; listing_id: string }>(sql`select * from estima_claim_listings(${iso(at)}, ${iso(at + COLLECT_EVERY)}, 200)`);
  return rows.map((row) => ({ clientId: row.client_id, listingId: row.listing_id }));
}

/** Collects what is new, edited or deleted on one listing. Trouble is kept with the listing; the next turn tries again. */
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
          await tx
            .insert(reviews)
            .values(valuesOf(found, listing, now))
            .onConflictDoUpdate({ target: [reviews.listingId, reviews.externalId], set: changesOf(found) });
        }
        await tx.update(listings).set({ cursor: page.cursor, collectedAt: now, collectError: null }).where(eq(listings.id, listingId));
      });
      count += page.reviews.length;
      cursor = page.cursor;
      more = page.more && page.reviews.length > 0;
    }
  } catch (error) {
    if (!(error instanceof SiteTrouble)) throw error;
    await withClient(scope, (tx) =>
      tx
        .update(listings)
        .set({ collectError: error.message.slice(0, 300) })
        .where(eq(listings.id, listingId)),
    );
  }
  return count;
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
    ...(found.reply ? { reply: found.reply.words, replyState: "posted" as const, repliedAt: Date.parse(found.reply.at) } : {}),
  };
}

export const replyInput = z.object({
  words: z.string().trim().min(1, "Write the reply first.").max(4000, "Waypost takes 4,000 characters at most."),
});

/** Posts a reply in public and keeps it. When the site refuses, the words stay and the reason is shown. */
export async function postReply(scope: Scope, who: string, reviewId: string, words: string): Promise<{ refused: string } | null> {
  const now = await clockNow();
  const found = await withClient(scope, async (tx) => {
    const [row] = await tx
      .select({ review: reviews, listing: listings })
      .from(reviews)
      .innerJoin(listings, eq(listings.id, reviews.listingId))
      .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, reviewId)))
      .for("update", { of: reviews });
    if (!row || row.review.deletedAt) return null;
    await tx.update(reviews).set({ reply: words, replyState: "posting", replyBy: who, replyError: null }).where(eq(reviews.id, reviewId));
    return row;
  });
  if (!found) return { refused: "This review is not there any more." };
  const access = accessOf(found.listing);
  let refused: string | null = access ? null : `${found.listing.site} takes no replies through Estima.`;
  try {
    if (access) await putReply(access, found.review.externalId, words);
  } catch (error) {
    if (!(error instanceof SiteTrouble)) throw error;
    refused = error.message;
  }
  await withClient(scope, async (tx) => {
    const after = refused ? { replyState: "failed" as const, replyError: refused } : { replyState: "posted" as const, repliedAt: now };
    await tx.update(reviews).set(after).where(eq(reviews.id, reviewId));
    if (!refused) await note(tx, { clientId: scope.clientId, at: now, who, deed: "replied", subject: "review", subjectId: reviewId });
  });
  return refused ? { refused } : null;
}
