import { Readable } from "node:stream";
import { pipeline } from "node:stream/promises";
import type pg from "pg";
import { from } from "pg-copy-streams";

/**
 * Rows into a table by COPY, as fast as PostgreSQL takes them. Null is null; texts are escaped as the text format
 * wants it.
 */
export async function copyInto(
  client: pg.PoolClient | pg.Client,
  table: string,
  columns: readonly string[],
  rows: Iterable<readonly unknown[]>,
): Promise<number> {
  let count = 0;
  const lines = function* () {
    let chunk = "";
    for (const row of rows) {
      count += 1;
      chunk += `${row.map(cell).join("\t")}\n`;
      if (chunk.length > 60_000) {
        yield chunk;
        chunk = "";
      }
    }
    if (chunk) yield chunk;
  };
  await pipeline(Readable.from(lines()), client.query(from(`copy ${table} (${columns.join(", ")}) from stdin`)));
  return count;
}

function cell(value: unknown): string {
  if (value === null || value === undefined) return "\\N";
  const text = typeof value === "string" ? value : typeof value === "object" ? JSON.stringify(value) : String(value);
  return /[\\\t\n\r]/.test(text)
    ? text.replaceAll("\\", "\\\\").replaceAll("\t", "\\t").replaceAll("\n", "\\n").replaceAll("\r", "\\r")
    : text;
}
