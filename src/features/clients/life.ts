import { and, eq, isNull, sql } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { clients, listings } from "@/schema/clients";

/** The end of a client's life here: archived, then deleted. */

/** Archives the client, or (null) takes it back: its own row alone. */
export async function setArchived(tx: Tx, scope: Scope, it: { at: number; by: string } | null): Promise<void> {
  await tx
    .update(clients)
    .set({ archivedAt: it?.at ?? null, archivedBy: it?.by ?? null })
    .where(eq(clients.id, scope.clientId));
}

/** From now on nobody enters the client, and the worker deletes all of it. False where that was asked for before. */
export async function setDeleting(tx: Tx, scope: Scope, userId: string | null, now: number): Promise<boolean> {
  const set = await tx
    .update(clients)
    .set({ deletingAt: now, deletingFor: userId, deleted: {} })
    .where(and(eq(clients.id, scope.clientId), isNull(clients.deletingAt)));
  return Boolean(set.rowCount);
}

/** Lets another worker go on deleting at once. */
export async function releaseDeletion(tx: Tx, scope: Scope): Promise<void> {
  await tx.update(clients).set({ deleteClaimedUntil: null }).where(eq(clients.id, scope.clientId));
}

/** Notes that so many rows of a table are gone, and that somebody is still at it. */
export async function noteDeleted(tx: Tx, scope: Scope, table: string, count: number): Promise<void> {
  await tx.execute(
    sql`update clients set delete_claimed_until = clock_timestamp() + interval '60 seconds',
        deleted = coalesce(deleted, '{}') || jsonb_build_object(${table}::text, coalesce((deleted ->> ${table}::text)::int, 0) + ${count}::int)
      where id = ${scope.clientId}`,
  );
}

/** Reads the reviews of the client's listings from now on, or no more. */
export async function setCollecting(tx: Tx, scope: Scope, from: number | null): Promise<void> {
  await tx
    .update(listings)
    .set({ collectAt: from })
    .where(and(eq(listings.clientId, scope.clientId), sql`${listings.connector} is not null`));
}
