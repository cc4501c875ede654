import { and, eq, sql } from "drizzle-orm";
import type { SiteProblem } from "@/core/reviews/siteProblems";
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
  change: Partial<Pick<typeof listings.$inferSelect, "cursor" | "collectedAt" | "collectError">>,
): Promise<void> {
  await tx.update(listings).set(change).where(listing(scope, id));
}

/** Counts anew how many reviews a page shows and what they add up to, so that no page has to. */
export async function refreshReviewSums(tx: Tx, scope: Scope, id: string): Promise<void> {
  await tx.execute(sql`
    update listings set (review_count, rating_sum) = (select count(*)::int, coalesce(sum(r.rating), 0) from reviews r where r.listing_id = ${id} and r.deleted_at is null)
    where client_id = ${scope.clientId} and id = ${id}`);
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
