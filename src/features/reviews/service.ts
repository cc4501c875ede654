import { and, asc, eq, gt, inArray, ne, sql } from "drizzle-orm";
import type { Language } from "@/core/words/languages";
import { recordAudit } from "@/features/audit";
import { lastOfBatch } from "@/platform/batch";
import type { Scope, Tx } from "@/platform/database";
import { reviews } from "@/schema/reviews";

export type Review = typeof reviews.$inferSelect;

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
    .set({ replyState: isAside ? "set aside" : "none", replyDueAt: null })
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

/** Notes that the words of these reviews were read for what they name. */
export async function markReviewsRead(
  tx: Tx,
  scope: Scope,
  read: readonly { id: string; language: Language }[],
): Promise<void> {
  if (read.length === 0) return;
  await tx.execute(sql`
    update ${reviews} r set is_unread = false, language = d.language
    from jsonb_to_recordset(${JSON.stringify(read)}::jsonb) as d(id uuid, language text)
    where r.id = d.id and r.client_id = ${scope.clientId}`);
}

/**
 * Has the words of so many reviews read again, from the one after `after` on; gives the last of them, or null where
 * there are no more.
 */
export async function readReviewsAnew(
  tx: Tx,
  scope: Scope,
  after: string | null,
  most: number,
): Promise<string | null> {
  const some = tx
    .select({ id: reviews.id })
    .from(reviews)
    .where(and(eq(reviews.clientId, scope.clientId), ne(reviews.words, ""), after ? gt(reviews.id, after) : undefined))
    .orderBy(asc(reviews.id))
    .limit(most);
  const rows = await tx
    .update(reviews)
    .set({ isUnread: true })
    .where(inArray(reviews.id, some))
    .returning({ id: reviews.id });
  return lastOfBatch(rows, most);
}
