import { and, asc, eq, sql } from "drizzle-orm";
import { refusedOf } from "@/core/replies/draft";
import { fillReply } from "@/core/replies/saved";
import type { AgencyScope, Scope, Tx } from "@/platform/database";
import { agencyReplyUses, agencySavedReplies, type SavedUse, savedReplies } from "@/schema/replyRules";
import { type DraftDesk, draftInput } from "./drafts";
import type { Review } from "./service";

/** Words for replies that somebody has kept: the agency's for all its clients, everybody's at the client, or one's own. */

export type SavedReply = Pick<
  typeof savedReplies.$inferSelect,
  "id" | "userId" | "use" | "purpose" | "language" | "words" | "uses" | "usedAt"
> & { of: "agency" | "client" | "own" };

/**
 * Saved replies for reviews or for conversations: the agency's and everybody's at the client; one's own as well where
 * somebody is named.
 */
export async function listSaved(
  tx: Tx,
  scope: Scope,
  userId: string | null,
  use: SavedUse = "reviews",
): Promise<SavedReply[]> {
  const rows = await tx
    .select()
    .from(savedReplies)
    .where(and(eq(savedReplies.clientId, scope.clientId), eq(savedReplies.use, use)))
    .orderBy(asc(savedReplies.purpose), asc(savedReplies.id));
  const ofAgency = await tx
    .select({ reply: agencySavedReplies, used: agencyReplyUses })
    .from(agencySavedReplies)
    .leftJoin(
      agencyReplyUses,
      and(eq(agencyReplyUses.replyId, agencySavedReplies.id), eq(agencyReplyUses.clientId, scope.clientId)),
    )
    .where(eq(agencySavedReplies.use, use))
    .orderBy(asc(agencySavedReplies.purpose), asc(agencySavedReplies.id));
  return [
    ...rows
      .filter((row) => row.userId === null || row.userId === userId)
      .map((row) => ({ ...row, of: row.userId === null ? ("client" as const) : ("own" as const) })),
    ...ofAgency.map(({ reply, used }) => ({
      ...reply,
      userId: null,
      uses: used?.uses ?? 0,
      usedAt: used?.usedAt ?? null,
      of: "agency" as const,
    })),
  ];
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

/** What a saved reply says, of what, in which language, and where it is offered. */
export type SavedWords = Pick<SavedReply, "purpose" | "language" | "words"> & { use?: SavedUse };

/** Who keeps replies. Those of everyone at the client are not changed by people who are bound to some of its branches. */
export type Keeper = { name: string; id: string; isBound?: boolean };

/** Keeps a saved reply, or changes one. False where it is gone, somebody else's own, or everybody's and not theirs to change. */
export async function keepSaved(
  tx: Tx,
  scope: Scope,
  who: Keeper,
  it: SavedWords & { id: string | null; isOwn: boolean },
  now: number,
): Promise<boolean> {
  const { id, isOwn, ...said } = it;
  if (!isOwn && who.isBound) return false;
  const values = { ...said, userId: isOwn ? who.id : null, changedBy: who.name, changedAt: now };
  if (!id) {
    await tx.insert(savedReplies).values({ ...values, clientId: scope.clientId });
    return true;
  }
  const done = await tx
    .update(savedReplies)
    .set(values)
    .where(changeable(scope, who, id));
  return Boolean(done.rowCount);
}

const mine = (scope: Scope, userId: string, id: string) =>
  and(
    eq(savedReplies.clientId, scope.clientId),
    eq(savedReplies.id, id),
    sql`(${savedReplies.userId} is null or ${savedReplies.userId} = ${userId})`,
  );

const changeable = (scope: Scope, who: Keeper, id: string) =>
  and(mine(scope, who.id, id), who.isBound ? eq(savedReplies.userId, who.id) : undefined);

export async function removeSaved(tx: Tx, scope: Scope, who: Keeper, id: string): Promise<boolean> {
  return Boolean((await tx.delete(savedReplies).where(changeable(scope, who, id))).rowCount);
}

/** Counts that a saved reply was used: one of the client's or of one's own, or one of the agency's. */
export async function countUse(tx: Tx, scope: Scope, userId: string | null, id: string, now: number): Promise<void> {
  const done = await tx
    .update(savedReplies)
    .set({ uses: sql`${savedReplies.uses} + 1`, usedAt: now })
    .where(mine(scope, userId ?? "", id));
  if (done.rowCount) return;
  const [ofAgency] = await tx
    .select({ id: agencySavedReplies.id })
    .from(agencySavedReplies)
    .where(eq(agencySavedReplies.id, id));
  if (!ofAgency) return;
  await tx
    .insert(agencyReplyUses)
    .values({ clientId: scope.clientId, replyId: id, uses: 1, usedAt: now })
    .onConflictDoUpdate({
      target: [agencyReplyUses.clientId, agencyReplyUses.replyId],
      set: { uses: sql`${agencyReplyUses.uses} + 1`, usedAt: now },
    });
}

/** What an agency keeps for all its clients. */
export function listAgencySaved(tx: Tx, scope: AgencyScope) {
  return tx
    .select()
    .from(agencySavedReplies)
    .where(eq(agencySavedReplies.agencyId, scope.agencyId))
    .orderBy(asc(agencySavedReplies.purpose), asc(agencySavedReplies.id));
}

/** Keeps a saved reply of the agency, or changes one. False where it is gone. */
export async function keepAgencySaved(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  id: string | null,
  it: SavedWords,
  now: number,
): Promise<boolean> {
  const values = { ...it, changedBy: who, changedAt: now };
  if (!id) {
    await tx.insert(agencySavedReplies).values({ ...values, agencyId: scope.agencyId });
    return true;
  }
  const done = await tx.update(agencySavedReplies).set(values).where(ofAgency(scope, id));
  return Boolean(done.rowCount);
}

const ofAgency = (scope: AgencyScope, id: string) =>
  and(eq(agencySavedReplies.agencyId, scope.agencyId), eq(agencySavedReplies.id, id));

export async function removeAgencySaved(tx: Tx, scope: AgencyScope, id: string): Promise<boolean> {
  return Boolean((await tx.delete(agencySavedReplies).where(ofAgency(scope, id))).rowCount);
}
