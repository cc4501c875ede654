import { sql } from "drizzle-orm";
import { examineVisits } from "@/features/asks";
import { claimListings, collect } from "@/features/reviews";
import { type Claim, claimDue, deliver } from "@/features/sending";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";

/** What is due, claimed in batches; who does it (a job elsewhere, or the caller itself) is up to the caller. */

export type VisitClaim = { clientId: string; visitIds: string[] };

export async function claimVisits(at: number, most: number): Promise<VisitClaim[]> {
  const rows = await rowsOf<{ client_id: string; visit_id: string }>(
    sql`select * from estima_claim_visits(${new Date(at).toISOString()}, ${most}, ${environment().LEASE_SECONDS})`,
  );
  const byClient = new Map<string, string[]>();
  for (const row of rows) byClient.set(row.client_id, [...(byClient.get(row.client_id) ?? []), row.visit_id]);
  return [...byClient].map(([clientId, visitIds]) => ({ clientId, visitIds }));
}

export async function examineClaimed({ clientId, visitIds }: VisitClaim): Promise<void> {
  const now = await clockNow();
  const scope = workFor(clientId);
  await withClient(scope, (tx) => examineVisits(tx, scope, visitIds, now));
}

/** Does all that is due now, here, until nothing is left. For the demo clock, the seed and the tests. */
export async function doAllDue(options: { collect?: boolean } = {}): Promise<{ examined: number; handed: number }> {
  const done = { examined: 0, handed: 0 };
  for (;;) {
    const now = await clockNow();
    const visits = await claimVisits(now, 500);
    for (const claim of visits) {
      await examineClaimed(claim);
      done.examined += claim.visitIds.length;
    }
    const messages: Claim[] = await claimDue(now, 200);
    if (messages.length > 0) await deliver(messages);
    done.handed += messages.length;
    if (visits.length === 0 && messages.length === 0) break;
  }
  if (options.collect !== false) for (const { clientId, listingId } of await claimListings(await clockNow())) await collect(clientId, listingId);
  return done;
}

/** When the next message or visit falls due, over all clients. */
export async function nextDue(): Promise<{ message: number | null; visit: number | null }> {
  const [row] = await rowsOf<{ message_at: Date | string | null; visit_at: Date | string | null }>(sql`select * from estima_next_due()`);
  const read = (value: Date | string | null) => (value ? new Date(value).getTime() : null);
  return { message: read(row?.message_at ?? null), visit: read(row?.visit_at ?? null) };
}
