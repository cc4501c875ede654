import { and, desc, eq, getTableColumns, inArray, type SQL, sql } from "drizzle-orm";
import { type AuditAction, type AuditSubject, TRAIL_PARTS, type TrailPart } from "@/core/audit/actions";
import { rowsOf, type Scope, type Tx } from "@/platform/database";
import { earlierThan } from "@/platform/pageKey";
import { users } from "@/schema/accounts";
import { auditEntries } from "@/schema/audit";

export type AuditEntry = typeof auditEntries.$inferSelect;

/** Notes who did what, inside the transaction that does it; whose name it was, the database notes itself. */
export async function recordAudit(
  tx: Tx,
  entry: {
    clientId: string;
    at: number;
    who: string;
    action: AuditAction;
    subject: AuditSubject;
    subjectId?: string;
    details?: unknown;
  },
): Promise<void> {
  await tx.insert(auditEntries).values(entry);
}

/** Entries with the names that people go by now, newest first. */
function entriesOf(tx: Tx, scope: Scope, where: (SQL | undefined)[], most: number): Promise<AuditEntry[]> {
  return tx
    .select({ ...getTableColumns(auditEntries), who: sql<string>`coalesce(${users.name}, ${auditEntries.who})` })
    .from(auditEntries)
    .leftJoin(users, eq(users.id, auditEntries.whoId))
    .where(and(eq(auditEntries.clientId, scope.clientId), ...where))
    .orderBy(desc(auditEntries.at), desc(auditEntries.id))
    .limit(most);
}

/** The last changes of one thing, newest first. */
export function changesOf(tx: Tx, scope: Scope, subjectId: string, most = 8): Promise<AuditEntry[]> {
  return entriesOf(tx, scope, [eq(auditEntries.subjectId, subjectId)], most);
}

export const TRAIL_PAGE = 50;

export type TrailEntry = AuditEntry & {
  /** What the thing is called, where it is still kept; a person's name for what is about a person. */ name:
    | string
    | null;
};

/** A page of the client's whole trail, newest first, from before `before` on, and one entry more if there are any. */
export async function auditTrail(
  tx: Tx,
  scope: Scope,
  part: TrailPart | null,
  before: { at: number; id: string } | null,
): Promise<TrailEntry[]> {
  const earlier = before ? earlierThan(auditEntries.at, auditEntries.id, before) : undefined;
  const entries = await entriesOf(
    tx,
    scope,
    [earlier, part ? inArray(auditEntries.subject, [...TRAIL_PARTS[part]]) : undefined],
    TRAIL_PAGE + 1,
  );
  const ids = [...new Set(entries.flatMap(({ subjectId }) => subjectId ?? []))];
  if (ids.length === 0) return entries.map((entry) => ({ ...entry, name: null }));
  const list = sql`any(${sql.param(ids)}::uuid[])`;
  const { rows } = await tx.execute<{ id: string; name: string }>(sql`
    select id, trim(given || ' ' || family) as name from people where client_id = ${scope.clientId} and id = ${list}
    union all select id, name from plans where client_id = ${scope.clientId} and id = ${list}
    union all select id, name from feeds where client_id = ${scope.clientId} and id = ${list}
    union all select id, name from api_keys where client_id = ${scope.clientId} and id = ${list}
    union all select id, name from intakes where client_id = ${scope.clientId} and id = ${list}
    union all select id, name from services where client_id = ${scope.clientId} and id = ${list}
    union all select id, name from branches where client_id = ${scope.clientId} and id = ${list}
    union all select id, site from listings where client_id = ${scope.clientId} and id = ${list}
    union all select x.id, trim(p.given || ' ' || p.family)
      from (select id, person_id from visits where client_id = ${scope.clientId} and id = ${list}
            union all select id, person_id from asks where client_id = ${scope.clientId} and id = ${list}
            union all select id, person_id from concerns where client_id = ${scope.clientId} and id = ${list}
            union all select id, person_id from answers where client_id = ${scope.clientId} and id = ${list}
            union all select id, person_id from conversations where client_id = ${scope.clientId} and id = ${list}) x
      join people p on p.id = x.person_id`);
  const names = new Map(rows.map(({ id, name }) => [id, name]));
  return entries.map((entry) => ({
    ...entry,
    name: (entry.subjectId && names.get(entry.subjectId)) || nameIn(entry.details),
  }));
}

/** The name that an entry itself tells, of what may be gone by now. */
function nameIn(details: unknown): string | null {
  const name = details && typeof details === "object" && "name" in details ? details.name : null;
  return typeof name === "string" && name ? name : null;
}

/** Notes at every client of a person that they signed in. */
export async function recordSignIn(userId: string, at: number): Promise<void> {
  await rowsOf(sql`select estima_record_sign_in(${userId}, ${new Date(at).toISOString()})`);
}
