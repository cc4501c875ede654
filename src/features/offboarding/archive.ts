import { and, desc, eq, getTableColumns, isNotNull } from "drizzle-orm";
import { recordAccountEntry } from "@/features/accounts";
import { stopEveryAsk } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { setArchived, setCollecting } from "@/features/clients";
import { changeFeed, listFeeds } from "@/features/intake";
import { listPlans, setPlanState } from "@/features/plans";
import { looksAtNone } from "@/features/visits";
import { type AgencyScope, type Scope, type Tx, withAgency, withClient } from "@/platform/database";
import { clients } from "@/schema/clients";

/**
 * A client that is archived: nothing is asked, read or brought in any more, and its own people see it no longer. Taken
 * back, its plans are paused and its feeds are off until somebody lets them go on.
 */

export type ArchivedClient = { id: string; slug: string; name: string; archivedAt: number; deletingAt: number | null };

/** The agency's archived clients and those that are being deleted, the latest first. */
export async function listArchived(tx: Tx, scope: AgencyScope): Promise<ArchivedClient[]> {
  const rows = await tx
    .select({
      id: clients.id,
      slug: clients.slug,
      name: clients.name,
      archivedAt: clients.archivedAt,
      deletingAt: clients.deletingAt,
    })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), isNotNull(clients.archivedAt)))
    .orderBy(desc(clients.archivedAt), clients.id);
  return rows.flatMap(({ archivedAt, ...row }) => (archivedAt === null ? [] : { ...row, archivedAt }));
}

export type OwnClient = {
  id: string;
  slug: string;
  name: string;
  archivedAt: number | null;
  archivedBy: string | null;
  deletingAt: number | null;
};

/** One of the agency's clients, archived or not; null for any other. */
export async function findOwnClient(
  tx: Tx,
  scope: AgencyScope,
  by: { id: string } | { slug: string },
): Promise<OwnClient | null> {
  const { id, slug, name, archivedAt, archivedBy, deletingAt } = getTableColumns(clients);
  const [client] = await tx
    .select({ id, slug, name, archivedAt, archivedBy, deletingAt })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), "id" in by ? eq(id, by.id) : eq(slug, by.slug)));
  return client ?? null;
}

type By = { id: string; name: string };

/** Archives a client of the agency. Whoever calls it has looked that it is one. */
export async function archiveClient(
  agency: AgencyScope,
  scope: Scope,
  by: By,
  name: string,
  now: number,
): Promise<{ stopped: number }> {
  const stopped = await withClient(scope, async (tx) => {
    for (const plan of await listPlans(tx, scope))
      if (plan.state === "running") await setPlanState(tx, scope, by.name, plan.id, "paused", now);
    for (const feed of await listFeeds(tx, scope))
      if (feed.state === "on") await changeFeed(tx, scope, by.name, feed, { state: "off" }, now);
    await looksAtNone(tx, scope);
    await setCollecting(tx, scope, null);
    const count = await stopEveryAsk(tx, scope, "cancelled by hand", now);
    await setArchived(tx, scope, { at: now, by: by.name });
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who: by.name,
      action: "archived",
      subject: "client",
      subjectId: scope.clientId,
      details: { count },
    });
    return count;
  });
  await withAgency(agency, (tx) =>
    recordAccountEntry(tx, agency, {
      at: now,
      who: by.name,
      action: "archived",
      subject: "client",
      name,
      aboutClient: scope.clientId,
    }),
  );
  return { stopped };
}

/** Takes a client back from the archive. Nothing starts by itself: somebody lets plans and feeds go on. */
export async function takeBack(agency: AgencyScope, scope: Scope, by: By, name: string, now: number): Promise<void> {
  await withClient(scope, async (tx) => {
    await setArchived(tx, scope, null);
    await setCollecting(tx, scope, now);
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who: by.name,
      action: "took back",
      subject: "client",
      subjectId: scope.clientId,
    });
  });
  await withAgency(agency, (tx) =>
    recordAccountEntry(tx, agency, {
      at: now,
      who: by.name,
      action: "took back",
      subject: "client",
      name,
      aboutClient: scope.clientId,
    }),
  );
}
