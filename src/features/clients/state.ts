import { and, eq, sql } from "drizzle-orm";
import type { Scale } from "@/core/reviews/rating";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import type { ConnectorId } from "@/core/reviews/sites";
import type { Scope, Tx } from "@/platform/database";
import { branches, clients, listings, services, tags, teamMembers } from "@/schema/clients";
import { newId } from "@/schema/columns";
import type { Setting } from "./queries";

/** What other features note about a client's settings, one function each: only this feature writes these tables. */

/** Changes columns of the client. */
export async function changeClient(tx: Tx, scope: Scope, change: Partial<typeof clients.$inferInsert>): Promise<void> {
  await tx.update(clients).set(change).where(eq(clients.id, scope.clientId));
}

const listing = (scope: Scope, id: string) => and(eq(listings.clientId, scope.clientId), eq(listings.id, id));

/** Says whose mailboxes have accounts at a review site. */
export async function setAccountDomains(tx: Tx, scope: Scope, site: string, domains: string[]): Promise<void> {
  await tx
    .update(listings)
    .set({ accountDomains: domains })
    .where(and(eq(listings.clientId, scope.clientId), eq(listings.site, site)));
}

/** Why the link of a review page leads nowhere, as seen at `at`; null when it works. */
export async function setListingProblem(
  tx: Tx,
  scope: Scope,
  id: string,
  problem: SiteProblem | null,
  at: number,
): Promise<void> {
  await tx.update(listings).set({ problem, lookedAt: at }).where(listing(scope, id));
}

/** How far the reviews of a page are read, or why they could not be. */
export async function setCollected(
  tx: Tx,
  scope: Scope,
  id: string,
  change: Partial<
    Pick<
      typeof listings.$inferSelect,
      | "cursor"
      | "collectAt"
      | "collectedAt"
      | "collectError"
      | "failingSince"
      | "failures"
      | "firstReadAt"
      | "readCount"
      | "readTotal"
    >
  >,
): Promise<void> {
  await tx.update(listings).set(change).where(listing(scope, id));
}

/** Counts anew how many reviews a page shows and what they add up to, so that no page has to. */
export async function refreshReviewSums(tx: Tx, scope: Scope, id: string): Promise<void> {
  await tx.execute(sql`
    update listings set (review_count, rating_sum, own_rating_sum) = (select count(*)::int, coalesce(sum(r.rating), 0), coalesce(sum(r.own_rating), 0) from reviews r where r.listing_id = ${id} and r.deleted_at is null)
    where client_id = ${scope.clientId} and id = ${id}`);
}

/** How a page at a site is read: what is found there is opened by a key, a sign-in, or nothing. */
export type PageReading = {
  branchId: string;
  site: string;
  connector: ConnectorId;
  placeId: string;
  url: string;
  connectorUrl: string;
  connectorKey: string | null;
  accountId: string | null;
  scale: Scale;
};

/**
 * Has a branch's page on a site read from now on: the page that stands there already, or a new one. Another place than
 * before is read from its beginning. Gives the page's identifier.
 */
export async function connectListing(tx: Tx, scope: Scope, it: PageReading, now: number): Promise<string> {
  const [known] = await tx
    .select()
    .from(listings)
    .where(
      and(
        eq(listings.clientId, scope.clientId),
        eq(listings.branchId, it.branchId),
        sql`lower(${listings.site}) = lower(${it.site})`,
      ),
    )
    .for("update");
  const isSame = known?.connectorUrl === it.connectorUrl;
  const change = { ...it, collectAt: now, collectError: null, failingSince: null, failures: 0 };
  if (known) {
    const anew = isSame ? {} : { cursor: null, firstReadAt: null, readCount: 0, readTotal: null, reviewCount: null };
    await tx
      .update(listings)
      .set({ ...change, ...anew, problem: null })
      .where(eq(listings.id, known.id));
    return known.id;
  }
  const id = newId();
  await tx.insert(listings).values({ id, clientId: scope.clientId, position: 100, ...change });
  return id;
}

/** Lets pages that waited for a sign-in at an account be read again. */
export async function resumeListings(tx: Tx, scope: Scope, accountId: string, now: number): Promise<void> {
  await tx
    .update(listings)
    .set({ collectAt: now, collectError: null, failingSince: null, failures: 0 })
    .where(and(eq(listings.clientId, scope.clientId), eq(listings.accountId, accountId)));
}

/** Has a page read no more; what was read of it stays. */
export async function disconnectListing(tx: Tx, scope: Scope, id: string): Promise<void> {
  await tx
    .update(listings)
    .set({
      connector: null,
      connectorKey: null,
      accountId: null,
      collectAt: null,
      collectError: null,
      failingSince: null,
      failures: 0,
    })
    .where(listing(scope, id));
}

const BY_NAME = { service: services, team: teamMembers, tag: tags } as const;

/** Adds a service, team member or tag of which only the name is known. Gives its identifier. */
export async function addByName(tx: Tx, scope: Scope, kind: keyof typeof BY_NAME, name: string): Promise<string> {
  const id = newId();
  await tx.insert(BY_NAME[kind]).values({ id, clientId: scope.clientId, name });
  return id;
}

/** Adds a branch of which only the name is known: in the client's zone, at its postal address, the last of all. */
export async function addBranch(tx: Tx, scope: Scope, setting: Setting, name: string): Promise<string> {
  const id = newId();
  await tx.insert(branches).values({
    id,
    clientId: scope.clientId,
    name,
    zone: setting.client.zone,
    address: setting.client.postalAddress,
    position: setting.branches.length,
  });
  return id;
}
