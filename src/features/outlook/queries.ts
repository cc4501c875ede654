import { and, asc, eq, type SQL, sql } from "drizzle-orm";
import type { AgencyScope, Tx } from "@/platform/database";
import { clientGroups, users } from "@/schema/accounts";
import { clients } from "@/schema/clients";
import { outlooks } from "@/schema/outlook";

export type ClientOutlook = Awaited<ReturnType<typeof listOutlooks>>[number];

/** What an agency's list of clients is narrowed to. */
export type OutlookFilter = { q: string; group: string | null; by: string | null; only: "needs" | "well" | null };

/** An agency's clients with how they are doing: who needs somebody first, then by name. */
export function listOutlooks(tx: Tx, scope: AgencyScope, { q, group, by, only }: OutlookFilter) {
  const where: (SQL | undefined)[] = [
    eq(clients.agencyId, scope.agencyId),
    group ? eq(clients.groupId, group) : undefined,
    by ? eq(clients.lookedAfterBy, by) : undefined,
    q ? sql`position(lower(${q}) in lower(${clients.name})) > 0` : undefined,
    only === "needs" ? sql`${outlooks.urgency} is not null` : undefined,
    only === "well" ? sql`${outlooks.urgency} is null` : undefined,
  ];
  return tx
    .select({
      id: clients.id,
      slug: clients.slug,
      name: clients.name,
      zone: clients.zone,
      groupId: clients.groupId,
      lookedAfterBy: clients.lookedAfterBy,
      lookedAfter: users.name,
      group: clientGroups.name,
      at: outlooks.at,
      needs: outlooks.needs,
      asked: outlooks.asked,
      newReviews: outlooks.newReviews,
      shown: outlooks.shown,
      answered: outlooks.answered,
      weeks: outlooks.weeks,
    })
    .from(clients)
    .leftJoin(outlooks, eq(outlooks.clientId, clients.id))
    .leftJoin(users, eq(users.id, clients.lookedAfterBy))
    .leftJoin(clientGroups, eq(clientGroups.id, clients.groupId))
    .where(and(...where))
    .orderBy(sql`${outlooks.urgency} nulls last`, asc(clients.name), clients.id);
}

/** The groups that an agency has made of its clients. */
export function listGroups(tx: Tx, scope: AgencyScope): Promise<{ id: string; name: string }[]> {
  return tx
    .select({ id: clientGroups.id, name: clientGroups.name })
    .from(clientGroups)
    .where(eq(clientGroups.agencyId, scope.agencyId))
    .orderBy(asc(clientGroups.name));
}

/** Whether a client is one of the agency's. */
export async function hasClient(tx: Tx, scope: AgencyScope, clientId: string): Promise<boolean> {
  const rows = await tx
    .select({ id: clients.id })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), eq(clients.id, clientId)));
  return rows.length > 0;
}
