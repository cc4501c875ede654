import { and, asc, eq, sql } from "drizzle-orm";
import { refusedOf } from "@/core/replies/draft";
import { fillReply } from "@/core/replies/saved";
import type { Scope, Tx } from "@/platform/database";
import { savedReplies } from "@/schema/replyRules";
import { type DraftDesk, draftInput } from "./drafts";
import type { Review } from "./service";

/** Words for replies that somebody has kept: everybody's at the client, or one's own. */

export type SavedReply = typeof savedReplies.$inferSelect;

/** Saved replies of everybody at the client; one's own as well where somebody is named. */
export async function listSaved(tx: Tx, scope: Scope, userId: string | null): Promise<SavedReply[]> {
  const rows = await tx
    .select()
    .from(savedReplies)
    .where(eq(savedReplies.clientId, scope.clientId))
    .orderBy(asc(savedReplies.purpose), asc(savedReplies.id));
  return rows.filter((row) => row.userId === null || row.userId === userId);
}

/** Fills the places of saved words as they would stand under a review. */
export function fillerOf({ setting, signature }: DraftDesk, review: Review): (words: string) => string {
  const branch = setting.branches.find(({ id }) => id === review.branchId)?.name ?? "";
  return (words) => fillReply(words, { author: review.author, business: setting.client.name, branch, signature });
}

/** Saved replies as they would stand under a review: its language and what breaks no guard first, then by use. */
export function filledSaved(desk: DraftDesk, review: Review, saved: readonly SavedReply[]) {
  const input = draftInput(desk, review, 0);
  const fill = fillerOf(desk, review);
  return saved
    .map((each) => {
      const words = fill(each.words);
      return { saved: each, words, refusals: refusedOf(words, input) };
    })
    .sort(
      (a, b) =>
        Number(b.saved.language === input.review.language) - Number(a.saved.language === input.review.language) ||
        a.refusals.length - b.refusals.length ||
        b.saved.uses - a.saved.uses,
    );
}

/** Keeps a saved reply, or changes one. False where it is gone, or somebody else's own. */
export async function keepSaved(
  tx: Tx,
  scope: Scope,
  who: { name: string; id: string },
  it: { id: string | null; isOwn: boolean; purpose: string; language: SavedReply["language"]; words: string },
  now: number,
): Promise<boolean> {
  const { id, isOwn, ...said } = it;
  const values = { ...said, userId: isOwn ? who.id : null, changedBy: who.name, changedAt: now };
  if (!id) {
    await tx.insert(savedReplies).values({ ...values, clientId: scope.clientId });
    return true;
  }
  const done = await tx
    .update(savedReplies)
    .set(values)
    .where(mine(scope, who.id, id));
  return Boolean(done.rowCount);
}

const mine = (scope: Scope, userId: string, id: string) =>
  and(
    eq(savedReplies.clientId, scope.clientId),
    eq(savedReplies.id, id),
    sql`(${savedReplies.userId} is null or ${savedReplies.userId} = ${userId})`,
  );

export async function removeSaved(tx: Tx, scope: Scope, userId: string, id: string): Promise<boolean> {
  return Boolean((await tx.delete(savedReplies).where(mine(scope, userId, id))).rowCount);
}

/** Counts that a saved reply was used. */
export async function countUse(tx: Tx, scope: Scope, userId: string, id: string, now: number): Promise<void> {
  await tx
    .update(savedReplies)
    .set({ uses: sql`${savedReplies.uses} + 1`, usedAt: now })
    .where(mine(scope, userId, id));
}
