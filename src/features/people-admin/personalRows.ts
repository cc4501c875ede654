import { and, eq, getTableColumns, getTableName, type SQL, sql } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";
import type { Scope, Tx } from "@/platform/database";
import { ownedBy, type Personal } from "@/schema/personal";
import { PERSONAL_DATA } from "@/schema/personalData";

/** The walk over the registry of personal data: what merging, exporting and erasing a person do to the rows of each table. */

const idList = (ids: readonly string[]) => sql`${sql.param([...ids])}::uuid[]`;

function rowsOfPeople(entry: Personal, scope: Scope, ids: readonly string[]): SQL | undefined {
  const { clientId } = getTableColumns(entry.table);
  return and(clientId ? eq(clientId, scope.clientId) : undefined, ownedBy(entry, idList(ids)));
}

/** Empties or deletes what is personal in the rows of these people, in every table that has a column for whose they are. */
export async function eraseRows(tx: Tx, scope: Scope, ids: readonly string[]): Promise<void> {
  for (const entry of PERSONAL_DATA) {
    if (entry.owners.length === 0 || entry.erase === "by its feature") continue;
    const theirs = rowsOfPeople(entry, scope, ids);
    if (entry.erase === "delete") await tx.delete(entry.table).where(theirs);
    else if (Object.keys(entry.erase).length > 0) await tx.update(entry.table).set(entry.erase).where(theirs);
  }
}

/** Gives the rows of one record to another where they follow. Gives the identifiers of the rows that moved, by table. */
export async function moveRows(tx: Tx, scope: Scope, fromId: string, toId: string): Promise<Record<string, string[]>> {
  const moved: Record<string, string[]> = {};
  for (const { table, merge, owners } of PERSONAL_DATA) {
    if (merge !== "follows") continue;
    const name = getTableName(table);
    for (const owner of owners) {
      if ("of" in owner) continue;
      const column = sql.identifier(owner.name);
      const { rows } = await tx.execute<{ id: string }>(
        sql`update ${table} set ${column} = ${toId} where client_id = ${scope.clientId} and ${column} = ${fromId} returning id`,
      );
      moved[name] = rows.map(({ id }) => id);
    }
  }
  return moved;
}

/** Gives rows that `moveRows` moved back, as far as they are still there. */
export async function moveRowsBack(
  tx: Tx,
  scope: Scope,
  moved: Record<string, string[]>,
  fromId: string,
  toId: string,
): Promise<void> {
  for (const { table, merge, owners } of PERSONAL_DATA) {
    const ids = moved[getTableName(table)] ?? [];
    if (merge !== "follows" || ids.length === 0) continue;
    for (const owner of owners) {
      if ("of" in owner) continue;
      const column = sql.identifier(owner.name);
      await tx.execute(
        sql`update ${table} set ${column} = ${toId} where client_id = ${scope.clientId} and ${column} = ${fromId} and id = any(${idList(ids)})`,
      );
    }
  }
}

/** Columns that mean nothing outside this program. */
const TECHNICAL = new Set([
  "clientId",
  "token",
  "trace",
  "claimId",
  "claimedUntil",
  "requestKey",
  "gatewayId",
  "search",
  "intakeId",
  "mergedInto",
]);

type Row = Record<string, unknown>;

/** The rows of a person in every table that a person's file shows, by the name it shows them under. */
export async function exportRows(tx: Tx, scope: Scope, id: string): Promise<Record<string, Row[]>> {
  const found: Record<string, Row[]> = {};
  for (const entry of PERSONAL_DATA) {
    if (!entry.exports) continue;
    const { as, only } = entry.exports;
    const rows = await tx
      .select()
      .from(entry.table as PgTable)
      .where(rowsOfPeople(entry, scope, [id]));
    found[as] = rows.map((row) =>
      Object.fromEntries(
        Object.entries(row as Row).filter(([name]) => (only ? only.includes(name) : !TECHNICAL.has(name))),
      ),
    );
  }
  return found;
}
