import type { Tx } from "@/platform/database";
import { auditEntries } from "./tables";

/** Notes who did what, inside the transaction that does it. */
export async function note(tx: Tx, entry: { clientId: string; at: number; who: string; deed: string; subject: string; subjectId?: string; details?: unknown }): Promise<void> {
  await tx.insert(auditEntries).values(entry);
}
