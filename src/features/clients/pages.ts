import { and, eq, sql } from "drizzle-orm";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { branches, clients, listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import type { Kept } from "./named";

/** The branches' pages on review sites, and what stands under every email. */

/**
 * Keeps a page: a new one without `id`. A page whose address changed was looked at by nobody yet. Says when the
 * branch has one on this site already.
 */
export async function keepListing(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string | null,
  it: { branchId: string; site: string; url: string },
  now: number,
): Promise<Kept> {
  const own = eq(listings.clientId, scope.clientId);
  const [branch] = await tx
    .select({ id: branches.id })
    .from(branches)
    .where(and(eq(branches.clientId, scope.clientId), eq(branches.id, it.branchId)));
  if (!branch) return "missing";
  const [other] = await tx
    .select({ id: listings.id })
    .from(listings)
    .where(and(own, eq(listings.branchId, it.branchId), sql`lower(${listings.site}) = lower(${it.site})`));
  if (other && other.id !== id) return "taken";
  const key = id ?? newId();
  if (id) {
    const changed = await tx
      .update(listings)
      .set({ url: it.url, problem: null, lookedAt: null })
      .where(and(own, eq(listings.id, id)));
    if (!changed.rowCount) return "missing";
  } else await tx.insert(listings).values({ id: key, clientId: scope.clientId, ...it, position: 100 });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: id ? "changed" : "added",
    subject: "review page",
    subjectId: key,
    details: it,
  });
  return "kept";
}

/** Sets the postal address under every email. */
export async function keepPostalAddress(
  tx: Tx,
  scope: Scope,
  who: string,
  postalAddress: string,
  now: number,
): Promise<void> {
  await tx.update(clients).set({ postalAddress }).where(eq(clients.id, scope.clientId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "postal address",
    details: { postalAddress },
  });
}

/** Sets whose public holidays a branch keeps: a subdivision of its country (ISO 3166-2). */
export async function setRegion(tx: Tx, scope: Scope, branchId: string, region: string): Promise<void> {
  await tx
    .update(branches)
    .set({ region })
    .where(and(eq(branches.clientId, scope.clientId), eq(branches.id, branchId)));
}
