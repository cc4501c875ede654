import { sql } from "drizzle-orm";
import { examineVisits } from "@/features/asks";
import { claimDeliveries, claimFeeds, fetchFeed, workOnDeliveries } from "@/features/feeds";
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

/** Does all that is due now, here, until nothing is left. For the seed and the tests. */
export async function doAllDue(): Promise<{ examined: number; handed: number }> {
  const done = { examined: 0, handed: 0 };
  for (;;) {
    const now = await clockNow();
    const delivered = await workOnDue();
    const examined = await examineDue(now);
    const handed = await sendDue(now);
    done.examined += examined;
    done.handed += handed;
    if (delivered === 0 && examined === 0 && handed === 0) break;
  }
  await fetchDue(await clockNow());
  await collectDue(await clockNow());
  return done;
}

/** Works on what feeds delivered; gives how many deliveries. */
export async function workOnDue(): Promise<number> {
  const claims = await claimDeliveries(500);
  for (const claim of claims) await workOnDeliveries(claim);
  return claims.reduce((sum, { ids }) => sum + ids.length, 0);
}

/** Fetches the feeds whose turn it is. */
export async function fetchDue(now: number): Promise<void> {
  for (const claim of await claimFeeds(now)) await fetchFeed(claim);
}

/** Examines the visits that are due; gives how many. */
export async function examineDue(now: number): Promise<number> {
  const claims = await claimVisits(now, 500);
  for (const claim of claims) await examineClaimed(claim);
  return claims.reduce((sum, { visitIds }) => sum + visitIds.length, 0);
}

/** Sends a batch of the messages that are due; gives how many it claimed. */
export async function sendDue(now: number): Promise<number> {
  const claims: Claim[] = await claimDue(now, 200);
  if (claims.length > 0) await deliver(claims);
  return claims.length;
}

/** Collects the reviews of the listings whose turn it is. */
export async function collectDue(now: number): Promise<void> {
  for (const { clientId, listingId } of await claimListings(now)) await collect(clientId, listingId);
}

/** When the next message or visit falls due, over all clients. */
export async function nextDue(): Promise<{ message: number | null; visit: number | null }> {
  const [row] = await rowsOf<{ message_at: Date | string | null; visit_at: Date | string | null }>(sql`select * from estima_next_due()`);
  const read = (value: Date | string | null) => (value ? new Date(value).getTime() : null);
  return { message: read(row?.message_at ?? null), visit: read(row?.visit_at ?? null) };
}
