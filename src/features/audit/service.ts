import { and, desc, eq, getTableColumns, type SQL, sql } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { users } from "@/platform/tables";
import { auditEntries } from "./tables";

export type AuditEntry = typeof auditEntries.$inferSelect;

/** Notes who did what, inside the transaction that does it; whose name it was, the database notes itself. */
export async function note(tx: Tx, entry: { clientId: string; at: number; who: string; deed: string; subject: string; subjectId?: string; details?: unknown }): Promise<void> {
  await tx.insert(auditEntries).values(entry);
}

/** Entries with the names that people go by now, newest first. */
function entriesOf(tx: Tx, scope: Scope, where: (SQL | undefined)[], most: number): Promise<AuditEntry[]> {
  return tx
    .select({ ...getTableColumns(auditEntries), who: sql<string>`coalesce(${users.name}, ${auditEntries.who})` })
    .from(auditEntries)
    .leftJoin(users, eq(users.id, auditEntries.whoId))
    .where(and(eq(auditEntries.clientId, scope.clientId), ...where))
    .orderBy(desc(auditEntries.at), desc(auditEntries.id))
    .limit(most);
}

/** The last changes of one thing, newest first. */
export function changesOf(tx: Tx, scope: Scope, subjectId: string, most = 8): Promise<AuditEntry[]> {
  return entriesOf(tx, scope, [eq(auditEntries.subjectId, subjectId)], most);
}

/** A page of the client's whole trail, newest first, from before `before` on. */
export function auditTrail(tx: Tx, scope: Scope, before: { at: number; id: string } | null, most = 50): Promise<AuditEntry[]> {
  const earlier = before ? sql`(${auditEntries.at}, ${auditEntries.id}) < (${new Date(before.at).toISOString()}, ${before.id}::uuid)` : undefined;
  return entriesOf(tx, scope, [earlier], most);
}
