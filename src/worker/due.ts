import { sql } from "drizzle-orm";
import { decideVisits, lookUpMailHosts, runPlanSchedule, runTriggers } from "@/features/asks";
import { claimReminders, remindOf } from "@/features/concerns";
import { claimFeeds, claimInboundEvents, fetchFeed, processEventsOf } from "@/features/intake";
import { claimDue, claimPictures, deliver, fetchPicture } from "@/features/messaging";
import { claimNotices, claimTellings, deliverNotice, deliverTellings } from "@/features/notices";
import { claimListings, claimReplies, collect, postDueReply } from "@/features/reviews";
import { clientsToRead, readThemesOf } from "@/features/themes";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";

/** What is due, claimed in batches; who does it (a job elsewhere, or the caller itself) is up to the caller. */

/** Messages of one batch: enough to spread the cost of its statements, few enough to be lost for a minute only. */
export const BATCH = 100;

/** Jobs that one worker does at the same time. */
export const JOBS_AT_ONCE = 4;

export type VisitClaim = { clientId: string; visitIds: string[] };

export async function claimVisits(at: number, most: number): Promise<VisitClaim[]> {
  const rows = await rowsOf<{ client_id: string; visit_id: string }>(
    sql`select * from estima_claim_visits(${new Date(at).toISOString()}, ${most}, ${environment().LEASE_SECONDS})`,
  );
  return byClient(rows, "visit_id").map(([clientId, visitIds]) => ({ clientId, visitIds }));
}

/** The identifiers of claimed rows, client by client. */
function byClient<Key extends string>(
  rows: readonly ({ client_id: string } & Record<Key, string>)[],
  key: Key,
): [string, string[]][] {
  const found = new Map<string, string[]>();
  for (const row of rows) {
    const ids = found.get(row.client_id);
    if (ids) ids.push(row[key]);
    else found.set(row.client_id, [row[key]]);
  }
  return [...found];
}

export async function examineClaimed({ clientId, visitIds }: VisitClaim): Promise<void> {
  const now = await clockNow();
  const scope = workFor(clientId);
  await lookUpMailHosts(scope, { visitIds });
  await withClient(scope, (tx) => decideVisits(tx, scope, visitIds, now));
}

export type TriggerClaim = { clientId: string; triggerIds: string[] };

export async function claimTriggers(at: number, most: number): Promise<TriggerClaim[]> {
  const rows = await rowsOf<{ client_id: string; trigger_id: string }>(
    sql`select * from estima_claim_triggers(${new Date(at).toISOString()}, ${most}, ${environment().LEASE_SECONDS})`,
  );
  return byClient(rows, "trigger_id").map(([clientId, triggerIds]) => ({ clientId, triggerIds }));
}

export async function runClaimedTriggers({ clientId, triggerIds }: TriggerClaim): Promise<void> {
  const now = await clockNow();
  const scope = workFor(clientId);
  await lookUpMailHosts(scope, { triggerIds });
  await withClient(scope, (tx) => runTriggers(tx, scope, triggerIds, now));
}

/** Plans that have something to do by themselves at `at`. */
export async function duePlans(at: number): Promise<{ clientId: string; planId: string }[]> {
  const rows = await rowsOf<{ client_id: string; plan_id: string }>(
    sql`select * from estima_due_plans(${new Date(at).toISOString()})`,
  );
  return rows.map((row) => ({ clientId: row.client_id, planId: row.plan_id }));
}

export async function lookWithDuePlan({ clientId, planId }: { clientId: string; planId: string }): Promise<void> {
  const now = await clockNow();
  const scope = workFor(clientId);
  await lookUpMailHosts(scope, { planId });
  await withClient(scope, (tx) => runPlanSchedule(tx, scope, planId, now));
}

/** Lets plans look by themselves; gives how much there was to look at. */
export async function lookDue(now: number): Promise<number> {
  const due = await duePlans(now);
  for (const one of due) await lookWithDuePlan(one);
  const claims = await claimTriggers(now, 500);
  for (const claim of claims) await runClaimedTriggers(claim);
  return due.length + claims.reduce((sum, { triggerIds }) => sum + triggerIds.length, 0);
}

/** Does all that is due now, here, until nothing is left. For the seed and the tests. */
export async function doAllDue(): Promise<{ examined: number; handed: number }> {
  const done = { examined: 0, handed: 0 };
  for (;;) {
    const now = await clockNow();
    const delivered = await processInboundEvents();
    const examined = (await examineDue(now)) + (await lookDue(now));
    const handed = await sendDue(now);
    done.examined += examined;
    done.handed += handed;
    if (delivered === 0 && examined === 0 && handed === 0) break;
  }
  await tellDue(await clockNow());
  await fetchDue(await clockNow());
  await collectDue(await clockNow());
  for (const clientId of await clientsToRead(100)) await readThemesOf(clientId);
  return done;
}

/** Works on what feeds delivered; gives how many deliveries. */
export async function processInboundEvents(): Promise<number> {
  const claims = await claimInboundEvents(await clockNow(), 500);
  for (const claim of claims) await processEventsOf(claim);
  return claims.reduce((sum, { ids }) => sum + ids.length, 0);
}

/** Tells those who look after clients what cannot wait. */
export async function tellDue(now: number): Promise<void> {
  for (const claim of await claimNotices(now)) await deliverNotice(claim);
  for (const claim of await claimPictures(now)) await fetchPicture(claim);
  for (const claim of await claimReminders(now)) await remindOf(claim);
  for (const claim of await claimTellings(now)) await deliverTellings(claim);
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
  const claims = await claimDue(now, 200);
  for (const claim of claims) await deliver(claim);
  return claims.reduce((sum, { messageIds }) => sum + messageIds.length, 0);
}

/** Collects the reviews of the listings whose turn it is, and posts the replies whose time has come. */
export async function collectDue(now: number): Promise<void> {
  for (const { clientId, listingId } of await claimListings(now)) await collect(clientId, listingId);
  await replyDue(now);
}

/** Posts the replies whose time has come; gives how many it tried. */
export async function replyDue(now: number): Promise<number> {
  const claims = await claimReplies(now);
  for (const claim of claims) await postDueReply(claim);
  return claims.length;
}

/** When the next message, visit, trigger, plan or reply falls due, over all clients. */
export type Due = { message: number | null; visit: number | null; look: number | null; reply: number | null };

export async function nextDue(): Promise<Due> {
  type At = Date | string | null;
  const [row] = await rowsOf<{ message_at: At; visit_at: At; trigger_at: At; plan_at: At; reply_at: At }>(
    sql`select * from estima_next_due()`,
  );
  const read = (value: At) => (value ? new Date(value).getTime() : null);
  const looks = [read(row?.trigger_at ?? null), read(row?.plan_at ?? null)].filter((at) => at !== null);
  return {
    message: read(row?.message_at ?? null),
    visit: read(row?.visit_at ?? null),
    look: looks.length > 0 ? Math.min(...looks) : null,
    reply: read(row?.reply_at ?? null),
  };
}
