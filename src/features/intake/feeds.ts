import { randomBytes } from "node:crypto";
import { and, asc, desc, eq, sql } from "drizzle-orm";
import { z } from "zod";
import type { EventRule } from "@/core/calendar/rules";
import { type FeedMapping, OWN_MAPPING } from "@/core/intake/events";
import { webAddress } from "@/core/web/address";
import { recordAudit } from "@/features/audit";
import type { Setting } from "@/features/clients";
import { rowsOf, type Scope, type Tx } from "@/platform/database";
import { environment } from "@/platform/environment";
import { decrypt, encrypt, newToken } from "@/platform/secrets";
import { newId } from "@/schema/columns";
import { FEED_KINDS, feeds, inboundEvents } from "@/schema/feeds";

export type Feed = typeof feeds.$inferSelect;
export type InboundEvent = typeof inboundEvents.$inferSelect;

export const feedInput = z.object({
  kind: z.enum(FEED_KINDS, "Choose what kind of feed it is."),
  name: z
    .string()
    .trim()
    .min(1, "Give it a name your team will recognise.")
    .max(80, "Keep the name under 80 characters."),
  branchId: z
    .union([z.literal(""), z.uuid()])
    .default("")
    .transform((id) => id || null),
  serviceId: z
    .union([z.literal(""), z.uuid()])
    .default("")
    .transform((id) => id || null),
  url: z
    .string()
    .trim()
    .max(1000)
    .default("")
    .transform((url) => url.replace(/^webcal:/i, "https:"))
    .transform((url) => webAddress(url) ?? url),
});
export type FeedValues = z.output<typeof feedInput>;

/** All feeds of the client, in the order they were made. */
export function listFeeds(tx: Tx, scope: Scope): Promise<Feed[]> {
  return tx.select().from(feeds).where(eq(feeds.clientId, scope.clientId)).orderBy(asc(feeds.createdAt), asc(feeds.id));
}

/** One feed, or null. */
export async function findFeed(tx: Tx, scope: Scope, id: string): Promise<Feed | null> {
  const [feed] = await tx
    .select()
    .from(feeds)
    .where(and(eq(feeds.clientId, scope.clientId), eq(feeds.id, id)));
  return feed ?? null;
}

/** What is wrong with an address to be fetched, or null. */
export function wrongAddress(url: string): string | null {
  return webAddress(url)
    ? null
    : "That isn’t a web address. It should look like https://calendar.example/visits.ics and begin with https:// or http://.";
}

/**
 * Adds a feed with a secret, a link or an address of its own. A calendar begins by taking every event with somebody
 * in it.
 */
export async function addFeed(tx: Tx, scope: Scope, who: string, values: FeedValues, now: number): Promise<Feed> {
  const isFetched = values.url !== "" && (values.kind === "calendar" || values.kind === "end of day");
  const anything: EventRule[] = [{ where: "anything", word: "", counts: true, serviceId: values.serviceId }];
  const [feed] = await tx
    .insert(feeds)
    .values({
      id: newId(),
      clientId: scope.clientId,
      ...values,
      url: isFetched ? values.url : null,
      secret: values.kind === "webhook" ? encrypt(newSecret()) : null,
      token: values.kind === "drop-off" ? newToken(22) : null,
      mapping: values.kind === "webhook" ? OWN_MAPPING : null,
      rules: values.kind === "calendar" ? anything : null,
      pollMinutes: values.kind === "end of day" ? 24 * 60 : 30,
      pollAt: isFetched ? now : null,
      createdAt: now,
    })
    .returning();
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "added",
    subject: "feed",
    subjectId: feed.id,
    details: { kind: feed.kind, name: feed.name },
  });
  return feed;
}

/** A signing secret after the Standard Webhooks specification: 32 random bytes in base64 behind "whsec_". */
function newSecret(): string {
  return `whsec_${randomBytes(32).toString("base64")}`;
}

/** The secret as the sender needs it; only for people who may set feeds up. */
export function secretOf(feed: Feed): string | null {
  return feed.secret && decrypt(feed.secret);
}

/** Where a feed is reached from outside. */
export function addressOf(feed: Pick<Feed, "kind" | "id" | "token">): string | null {
  const { APP_URL } = environment();
  if (feed.kind === "webhook") return `${APP_URL}/hooks/feeds/${feed.id}`;
  return feed.kind === "drop-off" ? `${APP_URL}/d/${feed.token}` : null;
}

/** Gives a feed a new secret or link; the old one ends at once. */
export async function renewFeed(tx: Tx, scope: Scope, who: string, feed: Feed, now: number): Promise<void> {
  const fresh = feed.kind === "webhook" ? { secret: encrypt(newSecret()) } : { token: newToken(22) };
  await tx.update(feeds).set(fresh).where(eq(feeds.id, feed.id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: feed.kind === "webhook" ? "renewed secret" : "renewed link",
    subject: "feed",
    subjectId: feed.id,
  });
}

export type FeedChange = Partial<Pick<Feed, "name" | "state" | "branchId" | "serviceId" | "url" | "mapping" | "rules">>;

/** Changes a feed's setting. A calendar whose rules or address changed is fetched anew. */
export async function changeFeed(
  tx: Tx,
  scope: Scope,
  who: string,
  feed: Feed,
  change: FeedChange,
  now: number,
): Promise<void> {
  const anew =
    change.rules !== undefined || change.url !== undefined || (change.state === "on" && feed.state === "off");
  const url = change.url === undefined ? feed.url : change.url;
  await tx
    .update(feeds)
    .set({ ...change, ...(anew ? { etag: null, lastModified: null, pollAt: url ? now : null, problem: null } : {}) })
    .where(and(eq(feeds.clientId, scope.clientId), eq(feeds.id, feed.id)));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "feed",
    subjectId: feed.id,
    details: Object.keys(change),
  });
}

/** Removes a feed and the log of its deliveries. What it brought stays. */
export async function removeFeed(tx: Tx, scope: Scope, who: string, feed: Feed, now: number): Promise<void> {
  await tx.delete(feeds).where(and(eq(feeds.clientId, scope.clientId), eq(feeds.id, feed.id)));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "removed",
    subject: "feed",
    subjectId: feed.id,
    details: { kind: feed.kind, name: feed.name },
  });
}

/** The deliveries of a feed, newest first, a page from before `before` on. */
export function listInboundEvents(
  tx: Tx,
  scope: Scope,
  feedId: string,
  before: number | null = null,
  most = 30,
): Promise<InboundEvent[]> {
  const own = and(eq(inboundEvents.clientId, scope.clientId), eq(inboundEvents.feedId, feedId));
  const earlier = before === null ? undefined : sql`${inboundEvents.at} < ${new Date(before).toISOString()}`;
  return tx
    .select()
    .from(inboundEvents)
    .where(and(own, earlier))
    .orderBy(desc(inboundEvents.at), desc(inboundEvents.id))
    .limit(most);
}

/** Lets failed deliveries of a feed be worked on once more: one, or all. Gives how many. */
export async function retryInboundEvent(
  tx: Tx,
  scope: Scope,
  feedId: string,
  deliveryId: string | null,
): Promise<number> {
  const which = deliveryId ? eq(inboundEvents.id, deliveryId) : undefined;
  const result = await tx
    .update(inboundEvents)
    .set({ state: "waiting", tries: 0, claimedUntil: null })
    .where(
      and(
        eq(inboundEvents.clientId, scope.clientId),
        eq(inboundEvents.feedId, feedId),
        eq(inboundEvents.state, "failed"),
        which,
      ),
    );
  return result.rowCount ?? 0;
}

/** How a feed stands, in a sentence. */
export async function feedNumbers(
  tx: Tx,
  scope: Scope,
): Promise<Map<string, { visits: number; failed: number; last: number | null }>> {
  const { rows } = await tx.execute(sql`
    select f.id, (select count(*)::int from visits v where v.feed_id = f.id) as visits,
      (select count(*)::int from inbound_events d where d.feed_id = f.id and d.state = 'failed') as failed,
      greatest((select max(d.at) from inbound_events d where d.client_id = f.client_id and d.feed_id = f.id), (select max(i.at) from intakes i where i.feed_id = f.id), f.polled_at) as last
    from feeds f where f.client_id = ${scope.clientId}`);
  return new Map(
    rows.map((row) => [
      String(row.id),
      {
        visits: Number(row.visits),
        failed: Number(row.failed),
        last: row.last ? new Date(row.last as string).getTime() : null,
      },
    ]),
  );
}

/** A feed's mapping, checked against what the client has. */
export function mappingOf(feed: Feed): FeedMapping {
  return feed.mapping ?? OWN_MAPPING;
}

/** Whether ids named in a form are the client's. */
export function areChoicesOfClient(
  setting: Setting,
  ids: { branchId?: string | null; serviceId?: string | null },
): boolean {
  return (
    (!ids.branchId || setting.branches.some(({ id }) => id === ids.branchId)) &&
    (!ids.serviceId || setting.services.some(({ id }) => id === ids.serviceId))
  );
}

export type Claimed = { clientId: string; ids: string[] };

/** Claims what the worker has to do for feeds. */
export async function claimInboundEvents(at: number, most: number): Promise<Claimed[]> {
  const rows = await rowsOf<{ client_id: string; event_id: string }>(
    sql`select * from estima_claim_inbound_events(${new Date(at).toISOString()}, ${most}, ${environment().LEASE_SECONDS})`,
  );
  const byClient = new Map<string, string[]>();
  for (const row of rows) byClient.set(row.client_id, [...(byClient.get(row.client_id) ?? []), row.event_id]);
  return [...byClient].map(([clientId, ids]) => ({ clientId, ids }));
}

export async function claimFeeds(now: number): Promise<{ clientId: string; feedId: string }[]> {
  const rows = await rowsOf<{ client_id: string; feed_id: string }>(
    sql`select * from estima_claim_feeds(${new Date(now).toISOString()}, 50)`,
  );
  return rows.map((row) => ({ clientId: row.client_id, feedId: row.feed_id }));
}
