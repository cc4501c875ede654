import { eq } from "drizzle-orm";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { clients } from "@/schema/clients";

/** Pauses everything of a client, until an instant or until somebody goes on. What is planned stays planned. */
export async function pauseClient(
  tx: Tx,
  scope: Scope,
  who: string,
  it: { until: number | null; why: string },
  now: number,
): Promise<void> {
  await tx
    .update(clients)
    .set({ pausedAt: now, pausedUntil: it.until, pausedBy: who, pausedWhy: it.why })
    .where(eq(clients.id, scope.clientId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "paused everything",
    subject: "client",
    subjectId: scope.clientId,
    details: { until: it.until, why: it.why },
  });
}

/** Lets a client go on; false where nothing was paused. */
export async function resumeClient(tx: Tx, scope: Scope, who: string, now: number): Promise<boolean> {
  const [client] = await tx.select().from(clients).where(eq(clients.id, scope.clientId)).for("update");
  if (!client?.pausedAt) return false;
  await tx
    .update(clients)
    .set({ pausedAt: null, pausedUntil: null, pausedBy: null, pausedWhy: null })
    .where(eq(clients.id, scope.clientId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "went on",
    subject: "client",
    subjectId: scope.clientId,
  });
  return true;
}
