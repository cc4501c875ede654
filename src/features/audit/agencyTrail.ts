import { type SQL, sql } from "drizzle-orm";
import type { AccountAction, AccountSubject } from "@/core/access/accountActions";
import { type AuditAction, type AuditSubject, TRAIL_PARTS, type TrailPart } from "@/core/audit/actions";
import { type AgencyScope, rowsIn, type Tx } from "@/platform/database";
import { earlierThan } from "@/platform/pageKey";

/** Who did what, for whom, over all of an agency: at itself and at each of its clients. */

export type AgencyTrailPart = TrailPart | "agency";

/** What the trail is narrowed to. Instants are milliseconds, UTC. */
export type AgencyTrailFilter = {
  part: AgencyTrailPart | null;
  /** A user's identifier. */
  who: string | null;
  clientId: string | null;
  /** From the first of these instants, before the second. */
  between: { from: number; to: number } | null;
  before: { at: number; id: string } | null;
};

export type AgencyTrailEntry = {
  id: string;
  at: number;
  who: string;
  client: { name: string; slug: string } | null;
} & (
  | { of: "agency"; action: AccountAction; subject: AccountSubject; name: string; details: unknown }
  | { of: "client"; action: AuditAction; subject: AuditSubject; details: unknown }
);

type Row = {
  id: string;
  at: string;
  who: string;
  of: "agency" | "client";
  action: string;
  subject: string;
  name: string | null;
  details: unknown;
  client: string | null;
  slug: string | null;
};

/** The newest `most` entries, newest first. */
export async function agencyTrail(
  tx: Tx,
  scope: AgencyScope,
  it: AgencyTrailFilter,
  most: number,
): Promise<AgencyTrailEntry[]> {
  const iso = (at: number) => new Date(at).toISOString();
  const narrowed = (): SQL => sql`
    ${it.who ? sql`and e.who_id = ${it.who}` : sql``}
    ${it.between ? sql`and e.at >= ${iso(it.between.from)}::timestamptz and e.at < ${iso(it.between.to)}::timestamptz` : sql``}
    ${it.before ? sql`and ${earlierThan(sql`e.at`, sql`e.id`, it.before)}` : sql``}
    order by e.at desc, e.id desc limit ${most}`;
  const atAgency = sql`(
    select e.id, e.at, e.who, e.who_id, 'agency' as of, e.action, e.subject, e.name, e.details, c.name as client, c.slug
    from account_entries e left join clients c on c.id = e.about_client
    where e.agency_id = ${scope.agencyId} ${it.clientId ? sql`and e.about_client = ${it.clientId}` : sql``} ${narrowed()})`;
  const subjects = it.part && it.part !== "agency" ? [...TRAIL_PARTS[it.part]] : null;
  // Of each client just so many, by its index: never a walk through everybody's entries.
  const atClients = sql`(
    select e.id, e.at, e.who, e.who_id, 'client' as of, e.action, e.subject, null as name, e.details, c.name as client, c.slug
    from clients c cross join lateral (
      select * from audit_entries e where e.client_id = c.id
      ${subjects ? sql`and e.subject = any(${sql.param(subjects)}::text[])` : sql``} ${narrowed()}) e
    where c.agency_id = ${scope.agencyId} ${it.clientId ? sql`and c.id = ${it.clientId}` : sql``})`;
  const parts = it.part === "agency" ? [atAgency] : it.part ? [atClients] : [atAgency, atClients];
  const rows = await rowsIn<Row>(
    tx,
    sql`select e.id, e.at, coalesce(u.name, e.who) as who, e.of, e.action, e.subject, e.name, e.details, e.client, e.slug
      from (${sql.join(parts, sql` union all `)}) e left join users u on u.id = e.who_id
      order by e.at desc, e.id desc limit ${most}`,
  );
  return rows.map(({ id, at, who, client, slug, ...row }) => ({
    id,
    at: new Date(at).getTime(),
    who,
    client: client && slug ? { name: client, slug } : null,
    ...(row.of === "agency"
      ? {
          of: "agency" as const,
          action: row.action as AccountAction,
          subject: row.subject as AccountSubject,
          name: row.name ?? "",
          details: row.details,
        }
      : {
          of: "client" as const,
          action: row.action as AuditAction,
          subject: row.subject as AuditSubject,
          details: row.details,
        }),
  }));
}
