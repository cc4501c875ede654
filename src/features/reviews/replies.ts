import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { connectorOf, SiteUnreachable } from "@/connectors";
import type { AuditAction } from "@/core/audit/actions";
import { isPassing, type SiteProblem, siteBackoff } from "@/core/reviews/siteProblems";
import { recordAudit } from "@/features/audit";
import { tell } from "@/features/notices";
import { atPage } from "@/features/sites";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { reviews } from "@/schema/reviews";
import { MOST_REPLY } from "./drafts";
import { repliesAt } from "./repliesAt";

/**
 * Replies on their way to a site. What is to be posted is kept before the site is asked, with a key by which it knows
 * one that comes twice; where it does not get through the worker tries again, and so does another worker where this one
 * is killed.
 */

type Listing = typeof listings.$inferSelect;
type Review = typeof reviews.$inferSelect;

export const replyInput = z.object({
  words: z
    .string()
    .trim()
    .min(1, "Write the reply first.")
    .max(MOST_REPLY, "No site accepts more than 4,000 characters."),
  /** The reply that stood there when the form was opened; "" for none. */
  seen: z.string().max(20_000).default(""),
});

/** How often a reply is handed over before it counts as failed. */
const MOST_ATTEMPTS = 8;
/** A reply under way is nobody else's for so long. */
const LEASE = 2 * 60_000;

export type Posted =
  | { kind: "posted" }
  /** It does not get through now, and is tried again by itself. */
  | { kind: "later"; at: number; problem: SiteProblem }
  | { kind: "refused"; problem: SiteProblem }
  /** Somebody else has replied since the form was opened. */
  | { kind: "meanwhile"; who: string | null; words: string };

const note = (tx: Tx, scope: Scope, who: string, action: AuditAction, reviewId: string, now: number) =>
  recordAudit(tx, { clientId: scope.clientId, at: now, who, action, subject: "review", subjectId: reviewId });

async function lockReview(tx: Tx, scope: Scope, id: string): Promise<{ review: Review; listing: Listing } | null> {
  const [row] = await tx
    .select({ review: reviews, listing: listings })
    .from(reviews)
    .innerJoin(listings, eq(listings.id, reviews.listingId))
    .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, id)))
    .for("update", { of: reviews });
  return row ?? null;
}

/** The reply that stands in public, or is on its way there. */
const standing = ({ replyState, reply }: Review) =>
  replyState === "posted" || replyState === "posting" ? (reply ?? "") : "";

/** What keeps words from being the reply to this review, or null. */
function hindrance(row: { review: Review; listing: Listing } | null, words: string, seen: string): Posted | null {
  if (!row || row.review.deletedAt) return { kind: "refused", problem: { code: "review gone" } };
  const { review, listing } = row;
  const stands = standing(review);
  if (stands !== "" && stands !== seen && stands !== words)
    return { kind: "meanwhile", who: review.replyBy, words: stands };
  const longest = repliesAt(listing.connector)?.longest;
  if (longest === undefined) return { kind: "refused", problem: { code: "takes no replies" } };
  return words.length > longest
    ? {
        kind: "refused",
        problem: { code: "not taken", why: `it allows no more than ${longest.toLocaleString("en-GB")} characters` },
      }
    : null;
}

/**
 * Posts a reply in public, or changes the one that stands there. `seen` is the reply that stood there when somebody began
 * to write. Where the site refuses, the words stay with its reason; where it cannot be reached, they go later.
 */
export async function postReply(
  scope: Scope,
  who: string,
  reviewId: string,
  words: string,
  seen = "",
): Promise<Posted> {
  const now = await clockNow();
  const hindered = await withClient(scope, async (tx): Promise<Posted | null> => {
    const row = await lockReview(tx, scope, reviewId);
    const hindered = hindrance(row, words, seen);
    if (hindered) return hindered;
    const { review, listing } = row as { review: Review; listing: Listing };
    // The same words again are a double click.
    if (standing(review) === words) return { kind: "posted" };
    if (!listing.connector) return { kind: "refused", problem: { code: "takes no replies" } };
    await tx
      .update(reviews)
      .set({
        reply: words,
        replyState: "posting",
        replyDraftedBy: review.replyState === "awaits approval" ? (review.replyDraftedBy ?? review.replyBy) : null,
        replyBy: who,
        replyError: null,
        replyKey: newId(),
        replyAttempts: 0,
        replyDueAt: now + LEASE,
        ...(review.replyState === "awaits approval" ? {} : { replyRuleId: null, replyWhy: null }),
      })
      .where(eq(reviews.id, reviewId));
    return null;
  });
  return hindered ?? handOver(scope, reviewId);
}

/** Hands the reply of a review that is "posting" to its site, and notes what came of it. */
async function handOver(scope: Scope, reviewId: string): Promise<Posted> {
  const [row] = await withClient(scope, (tx) =>
    tx
      .select({ review: reviews, listing: listings })
      .from(reviews)
      .innerJoin(listings, eq(listings.id, reviews.listingId))
      .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, reviewId))),
  );
  if (row?.review.replyState !== "posting" || row.review.reply === null) return { kind: "posted" };
  const { review, listing } = row;
  const words = row.review.reply;
  const put = listing.connector ? connectorOf(listing.connector).putReply : undefined;
  let failure: SiteUnreachable | null = put ? null : new SiteUnreachable({ code: "takes no replies" });
  try {
    if (put)
      await atPage(scope, listing, (access) => put(access, review.externalId, words, review.replyKey ?? review.id));
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    failure = error.problem.code === "not there" ? new SiteUnreachable({ code: "review gone" }) : error;
  }
  const now = await clockNow();
  return withClient(scope, async (tx): Promise<Posted> => {
    // Only what was handed over: a reply that somebody wrote in its place is another's business.
    const mine = and(
      eq(reviews.id, reviewId),
      eq(reviews.replyState, "posting"),
      eq(reviews.replyKey, review.replyKey ?? review.id),
    );
    if (!failure) {
      const [done] = await tx
        .update(reviews)
        .set({ replyState: "posted", repliedAt: now, replyDueAt: null, replyError: null })
        .where(mine)
        .returning({ id: reviews.id });
      if (done)
        await recordAudit(tx, {
          clientId: scope.clientId,
          at: now,
          who: review.replyBy ?? "Estima",
          action: "replied",
          subject: "review",
          subjectId: reviewId,
          ...(review.replyDraftedBy ? { details: { by: review.replyDraftedBy } } : {}),
        });
      return { kind: "posted" };
    }
    const attempts = review.replyAttempts + 1;
    const { problem, waitSeconds } = failure;
    if (isPassing(problem) && attempts < MOST_ATTEMPTS) {
      const at = now + siteBackoff(attempts, waitSeconds === null ? null : waitSeconds * 1000);
      await tx.update(reviews).set({ replyAttempts: attempts, replyDueAt: at, replyError: problem }).where(mine);
      return { kind: "later", at, problem };
    }
    await tx
      .update(reviews)
      .set({ replyState: "failed", replyError: problem, replyAttempts: attempts, replyDueAt: null })
      .where(mine);
    return { kind: "refused", problem };
  });
}

export type ReplyClaim = { clientId: string; reviewId: string };

/** Claims the replies that are due at `at`, for LEASE_SECONDS of real time. */
export async function claimReplies(at: number): Promise<ReplyClaim[]> {
  const lease = Math.max(LEASE, environment().LEASE_SECONDS * 1000);
  const rows = await rowsOf<{ client_id: string; review_id: string }>(
    sql`select * from estima_claim_replies(${new Date(at).toISOString()}, ${new Date(at + lease).toISOString()}, 100)`,
  );
  return rows.map((row) => ({ clientId: row.client_id, reviewId: row.review_id }));
}

/** Posts a reply whose time has come; one that was planned for a review that is gone or answered is let go. */
export async function postDueReply({ clientId, reviewId }: ReplyClaim): Promise<void> {
  const scope = workFor(clientId);
  const goes = await withClient(scope, async (tx) => {
    const row = await lockReview(tx, scope, reviewId);
    if (!row) return false;
    const { replyState, deletedAt } = row.review;
    if (replyState === "posting") return true;
    const isOff = replyState !== "planned" || deletedAt !== null;
    await tx
      .update(reviews)
      .set(
        isOff
          ? { replyDueAt: null, ...(replyState === "planned" ? { replyState: "none", reply: null } : {}) }
          : { replyState: "posting", replyAttempts: 0, replyKey: newId() },
      )
      .where(eq(reviews.id, reviewId));
    return !isOff;
  });
  if (goes) await handOver(scope, reviewId);
}

/** Takes a reply down from its site. */
export async function takeDownReply(scope: Scope, who: string, reviewId: string): Promise<Posted> {
  const row = await withClient(scope, (tx) => lockReview(tx, scope, reviewId));
  if (row?.review.replyState !== "posted") return { kind: "refused", problem: { code: "review gone" } };
  const { listing, review } = row;
  const take = listing.connector ? connectorOf(listing.connector).takeDownReply : undefined;
  if (listing.connector && !take) return { kind: "refused", problem: { code: "takes no replies" } };
  try {
    if (take) await atPage(scope, listing, (access) => take(access, review.externalId));
  } catch (error) {
    if (!(error instanceof SiteUnreachable)) throw error;
    return { kind: "refused", problem: error.problem };
  }
  const now = await clockNow();
  await withClient(scope, async (tx) => {
    await tx
      .update(reviews)
      .set({
        reply: null,
        replyState: "none",
        repliedAt: null,
        replyBy: null,
        replyDraftedBy: null,
        replyRuleId: null,
        replyWhy: null,
      })
      .where(and(eq(reviews.clientId, scope.clientId), eq(reviews.id, reviewId)));
    await note(tx, scope, who, "took down reply", reviewId, now);
  });
  return { kind: "posted" };
}

/** Tells whoever may approve that a reply waits for them. */
export async function tellOfApproval(
  tx: Tx,
  scope: Scope,
  { id, branchId }: Pick<Review, "id" | "branchId">,
  now: number,
): Promise<void> {
  const told = { code: "approval" as const, reviewId: id };
  await tell(tx, scope, [{ about: `approval ${id}`, matter: { kind: "approval", branchId }, told }], now);
}

/** Hands words in for somebody to approve. */
export async function draftForApproval(
  tx: Tx,
  scope: Scope,
  who: string,
  reviewId: string,
  words: string,
  seen: string,
  now: number,
): Promise<Posted | null> {
  const row = await lockReview(tx, scope, reviewId);
  const hindered = hindrance(row, words, seen);
  if (hindered) return hindered;
  const { review } = row as { review: Review };
  if (review.replyState === "posted" || review.replyState === "posting")
    return { kind: "meanwhile", who: review.replyBy, words: review.reply ?? "" };
  if (review.replyState === "awaits approval" && review.reply !== seen && review.reply !== words)
    return { kind: "meanwhile", who: review.replyDraftedBy, words: review.reply ?? "" };
  await tx
    .update(reviews)
    .set({
      reply: words,
      replyState: "awaits approval",
      replyDraftedBy: who,
      replyBy: null,
      replyError: null,
      replyDueAt: null,
      replyRuleId: null,
      replyWhy: null,
    })
    .where(eq(reviews.id, reviewId));
  await note(tx, scope, who, "drafted reply", reviewId, now);
  await tellOfApproval(tx, scope, review, now);
  return null;
}

/** Lets a reply go that waits for approval, or that a rule has planned: the review waits for a reply again. */
export async function dropReply(tx: Tx, scope: Scope, who: string, reviewId: string, now: number): Promise<boolean> {
  const row = await lockReview(tx, scope, reviewId);
  if (row?.review.replyState !== "planned" && row?.review.replyState !== "awaits approval") return false;
  await tx
    .update(reviews)
    .set({ replyState: "none", reply: null, replyDueAt: null, replyDraftedBy: null, replyBy: null })
    .where(eq(reviews.id, reviewId));
  await note(tx, scope, who, "dropped reply", reviewId, now);
  return true;
}

/** Notes that somebody has posted a reply by hand on a site that takes none from here. */
export async function markPosted(
  tx: Tx,
  scope: Scope,
  who: string,
  reviewId: string,
  words: string,
  now: number,
): Promise<Posted | null> {
  const row = await lockReview(tx, scope, reviewId);
  if (!row || row.review.deletedAt) return { kind: "refused", problem: { code: "review gone" } };
  if (row.listing.connector) return { kind: "refused", problem: { code: "takes no replies" } };
  await tx
    .update(reviews)
    .set({ reply: words, replyState: "posted", replyBy: who, repliedAt: now, replyError: null })
    .where(eq(reviews.id, reviewId));
  await note(tx, scope, who, "replied", reviewId, now);
  return null;
}
