import { and, desc, eq } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { auditEntries } from "./tables";

/** Notes who did what, inside the transaction that does it. */
export async function note(tx: Tx, entry: { clientId: string; at: number; who: string; deed: string; subject: string; subjectId?: string; details?: unknown }): Promise<void> {
  await tx.insert(auditEntries).values(entry);
}

/** The last changes of one thing, newest first. */
export function changesOf(tx: Tx, scope: Scope, subjectId: string, most = 8): Promise<(typeof auditEntries.$inferSelect)[]> {
  return tx
    .select()
    .from(auditEntries)
    .where(and(eq(auditEntries.clientId, scope.clientId), eq(auditEntries.subjectId, subjectId)))
    .orderBy(desc(auditEntries.at), desc(auditEntries.id))
    .limit(most);
}
