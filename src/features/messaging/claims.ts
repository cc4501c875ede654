import { sql } from "drizzle-orm";
import { rowsOf, type Scope, type Tx } from "@/platform/database";
import { environment } from "@/platform/environment";
import type { messages } from "@/schema/messages";

/** Which due messages a worker holds, and for how long. */

/** Messages of one client that a worker has claimed. */
export type Claim = { clientId: string; claimId: string; messageIds: string[] };

export type Message = typeof messages.$inferSelect;

/**
 * Claims what is due at `at`, at most `most` messages, for LEASE_SECONDS of real time. Clients share a claim: ten
 * messages of one are not kept waiting by ten thousand of another.
 */
export async function claimDue(at: number, most: number): Promise<Claim[]> {
  const rows = await rowsOf<{ client_id: string; message_id: string; claim_id: string }>(
    sql`select * from estima_claim_messages(${new Date(at).toISOString()}, ${most}, ${environment().LEASE_SECONDS})`,
  );
  const claims = new Map<string, Claim>();
  for (const row of rows) {
    const claim = claims.get(row.client_id);
    if (claim) claim.messageIds.push(row.message_id);
    else claims.set(row.client_id, { clientId: row.client_id, claimId: row.claim_id, messageIds: [row.message_id] });
  }
  return [...claims.values()];
}

/**
 * Lets claims that are still ours run for LEASE_SECONDS from now. Waits for nobody: rows that are locked are being
 * settled.
 */
export async function holdClaims(tx: Tx, scope: Scope, held: readonly Message[]): Promise<void> {
  const ids = sql`any(${sql.param(held.map(({ id }) => id))}::uuid[])`;
  const claims = sql`any(${sql.param([...new Set(held.map(({ claimId }) => claimId))])}::uuid[])`;
  await tx.execute(sql`
    update messages set claimed_until = clock_timestamp() + make_interval(secs => ${environment().LEASE_SECONDS}::numeric)
    where client_id = ${scope.clientId} and id in (
      select id from messages where client_id = ${scope.clientId} and id = ${ids} and claim_id = ${claims} and state in ('planned', 'sending')
      order by id for update skip locked)`);
}
