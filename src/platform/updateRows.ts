import { type Column, getTableColumns, getTableName, sql } from "drizzle-orm";
import type { PgTable } from "drizzle-orm/pg-core";
import type { Scope, Tx } from "./database";

/** What changes of one row: only these columns are written. */
export type RowChange<Row> = { id: string; change: Partial<Row> };

/**
 * Writes what changed of rows of a client's table, and nothing else of them: those whose same columns change in one
 * statement. Whoever calls it has locked the rows, so that the values were worked out from what is there.
 */
export async function updateRows<Row extends Record<string, unknown>>(
  tx: Tx,
  scope: Scope,
  table: PgTable,
  list: readonly RowChange<Row>[],
): Promise<void> {
  const all = getTableColumns(table);
  const groups = new Map<string, RowChange<Row>[]>();
  for (const one of list) {
    const names = Object.keys(one.change).sort().join(" ");
    if (!names) continue;
    const group = groups.get(names);
    if (group) group.push(one);
    else groups.set(names, [one]);
  }
  for (const [names, group] of groups) {
    const columns = names.split(" ").map((name) => ({ name, column: all[name] }));
    const rows = group.map(({ id, change }) => ({
      id,
      ...Object.fromEntries(columns.map(({ name, column }) => [column.name, toColumn(column, change[name])])),
    }));
    const sets = sql.raw(columns.map(({ column }) => `${column.name} = d.${column.name}`).join(", "));
    const shape = sql.raw(
      ["id uuid", ...columns.map(({ column }) => `${column.name} ${column.getSQLType()}`)].join(", "),
    );
    await tx.execute(
      sql`update ${sql.identifier(getTableName(table))} t set ${sets} from json_to_recordset(${JSON.stringify(rows)}::json) as d(${shape}) where t.id = d.id and t.client_id = ${scope.clientId}`,
    );
  }
}

/** A value as JSON that the database reads as the column's type. */
function toColumn(column: Column, value: unknown): unknown {
  if (value === null || value === undefined) return null;
  return column.getSQLType() === "timestamp with time zone" ? new Date(value as number).toISOString() : value;
}
