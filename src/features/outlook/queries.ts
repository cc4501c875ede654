import { and, asc, eq, isNull, type SQL, sql } from "drizzle-orm";
import { type AgencyScope, rowsIn, type Tx } from "@/platform/database";
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
    isNull(clients.archivedAt),
    isNull(clients.deletingAt),
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
      aside: outlooks.aside,
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

/** Whether a client is one of the agency's. */
export async function hasClient(tx: Tx, scope: AgencyScope, clientId: string): Promise<boolean> {
  const rows = await tx
    .select({ id: clients.id })
    .from(clients)
    .where(and(eq(clients.agencyId, scope.agencyId), eq(clients.id, clientId)));
  return rows.length > 0;
}

/** What an agency's start page tells beside its clients. Instants are milliseconds since the epoch. */
export type StartMargin = {
  groups: { id: string; name: string }[];
  /** Who works for the whole agency. */
  team: { userId: string; name: string }[];
  /** Clients that somebody has begun to fill in; the name may be empty. */
  drafts: { id: string; name: string }[];
  archived: { id: string; slug: string; name: string; deletingAt: string | null }[];
  /** Clients that other agencies offer. */
  offered: { id: string; fromName: string; clientName: string; by: string }[];
  /** Whether the person here gets the morning's mail. */
  reads: boolean;
};

/** All of it in one statement: the page is as quick as its list. */
export async function loadStartMargin(tx: Tx, { agencyId }: AgencyScope, userId: string): Promise<StartMargin> {
  const all = (rows: SQL) => sql`(select coalesce(json_agg(r), '[]') from (${rows}) r)`;
  const [margin] = await rowsIn<StartMargin>(
    tx,
    sql`select
      ${all(sql`select id, name from client_groups where agency_id = ${agencyId} order by name`)} as groups,
      ${all(sql`select distinct u.name, s.user_id as "userId" from seats s join users u on u.id = s.user_id
        where s.agency_id = ${agencyId} and s.only_client is null and s.only_group is null order by u.name, s.user_id`)} as team,
      ${all(sql`select id, values ->> 'name' as name from client_drafts where agency_id = ${agencyId} order by updated_at desc, id desc`)} as drafts,
      ${all(sql`select id, slug, name, deleting_at as "deletingAt" from clients
        where agency_id = ${agencyId} and archived_at is not null order by archived_at desc, id`)} as archived,
      ${all(sql`select id, from_name as "fromName", client_name as "clientName", by from handovers
        where to_agency_id = ${agencyId} and ended_at is null order by at desc, id`)} as offered,
      exists (select 1 from summary_readers where agency_id = ${agencyId} and user_id = ${userId}) as reads`,
  );
  return margin;
}
