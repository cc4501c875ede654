import { sql } from "drizzle-orm";
import { deletionOrder } from "@/core/offboarding/deletionOrder";
import { recordAccountEntry } from "@/features/accounts";
import { noteDeleted, releaseDeletion, sendAccountMail, setDeleting } from "@/features/clients";
import { type AgencyScope, rowsIn, rowsOf, type Scope, withAgency, withClient } from "@/platform/database";
import { environment } from "@/platform/environment";

/**
 * Deleting a client for good: nobody enters it from the first moment on; the worker then deletes its rows table by
 * table, in portions, and counts them as it goes, so that a worker that was killed goes on where it stood. At the end
 * the client itself goes, and whoever asked for it is told what it was.
 */

/** Rows of one portion. */
const PORTION = 5000;

/** Begins to delete a client of the agency. False where that was begun before. */
export async function beginDeletion(
  agency: AgencyScope,
  scope: Scope,
  by: { id: string; name: string },
  name: string,
  now: number,
): Promise<boolean> {
  const begun = await withClient(scope, (tx) => setDeleting(tx, scope, by.id, now));
  if (begun)
    await withAgency(agency, (tx) =>
      recordAccountEntry(tx, agency, {
        at: now,
        who: by.name,
        action: "began deleting",
        subject: "client",
        name,
        aboutClient: scope.clientId,
      }),
    );
  return begun;
}

/** Clients that are to be deleted: those somebody deleted, and those that were archived long enough. */
export async function claimDeletions(now: number): Promise<string[]> {
  const rows = await rowsOf<{ client_id: string }>(
    sql`select * from estima_claim_deletions(${new Date(now).toISOString()})`,
  );
  return rows.map(({ client_id }) => client_id);
}

/** Every table that holds rows of clients, in an order in which they can be deleted. */
async function tablesInOrder(): Promise<string[]> {
  const tables = await rowsOf<{ name: string }>(
    sql`select c.relname as name from pg_attribute a join pg_class c on c.oid = a.attrelid
      where a.attname = 'client_id' and c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p') and not c.relispartition`,
  );
  const references = await rowsOf<{ from: string; to: string }>(
    sql`select conrelid::regclass::text as from, confrelid::regclass::text as to from pg_constraint
      where contype = 'f' and connamespace = 'public'::regnamespace and conparentid = 0`,
  );
  return deletionOrder(
    tables.map(({ name }) => name),
    references,
  );
}

/** Deletes what is left of a client, until all is gone or `signal` says to stop. True when it is gone. */
export async function deleteClient(clientId: string, now: number, signal?: AbortSignal): Promise<boolean> {
  const scope: Scope = { clientId };
  const [{ deleting }] = await withClient(scope, (tx) =>
    rowsIn<{ deleting: boolean }>(
      tx,
      sql`select exists (select 1 from clients where id = ${clientId} and deleting_at is not null) as deleting`,
    ),
  );
  if (!deleting) return false;
  for (const table of await tablesInOrder()) {
    let count = PORTION;
    while (count === PORTION) {
      if (signal?.aborted) {
        await withClient(scope, (tx) => releaseDeletion(tx, scope));
        return false;
      }
      count = await deletePortion(scope, table);
    }
  }
  const [gone] = await rowsOf<{
    agency_id: string;
    agency: string;
    colour: string;
    sender_email: string;
    name: string;
    counts: Record<string, number>;
    user_name: string | null;
    user_email: string | null;
  }>(sql`select * from estima_finish_deletion(${clientId}, ${new Date(now).toISOString()})`);
  if (!gone) return false;
  if (gone.user_email)
    await sendAccountMail(
      `deleted-${clientId}`,
      { name: gone.user_name ?? "", email: gone.user_email },
      { name: gone.agency, colour: gone.colour, senderEmail: gone.sender_email },
      {
        code: "client deleted",
        client: gone.name,
        people: gone.counts.people ?? 0,
        visits: gone.counts.visits ?? 0,
        messages: gone.counts.messages ?? 0,
        reviews: gone.counts.reviews ?? 0,
        concerns: gone.counts.concerns ?? 0,
        rows: Object.values(gone.counts).reduce((sum, count) => sum + count, 0),
      },
      `${environment().APP_URL}/`,
    );
  return true;
}

/** Deletes some rows of one table, and notes how many, in one transaction. */
function deletePortion(scope: Scope, table: string): Promise<number> {
  const own = sql.identifier(table);
  // Rows of partitions have no place that is unique in the whole table.
  const which =
    table === "ask_events"
      ? sql`(id, at) in (select id, at from ask_events where client_id = ${scope.clientId} limit ${PORTION})`
      : sql`ctid = any(array(select ctid from ${own} where client_id = ${scope.clientId} limit ${PORTION}))`;
  return withClient(scope, async (tx) => {
    const { rowCount } = await tx.execute(sql`delete from ${own} where ${which}`);
    const count = rowCount ?? 0;
    if (count > 0) await noteDeleted(tx, scope, table, count);
    return count;
  });
}
