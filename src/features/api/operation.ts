import { z } from "@hono/zod-openapi";
import { and, asc, eq, gt, type SQL } from "drizzle-orm";
import type { AnyPgColumn, PgTable } from "drizzle-orm/pg-core";
import type { Setting } from "@/features/clients";
import type { Scope, Tx } from "@/platform/database";
import type { ApiScope } from "./keys";

/** What an operation of the API is, and the reading of rows that all of them share. */

/** A call that cannot be followed: problem details with this status. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly errors?: { pointer: string; detail: string }[],
  ) {
    super(detail);
  }
}

export type Call = {
  tx: Tx;
  scope: Scope;
  setting: Setting;
  now: number;
  who: string;
  path: Record<string, string>;
  query: Record<string, unknown>;
  body: unknown;
};

export type Operation = {
  id: string;
  method: "GET" | "POST" | "PATCH" | "DELETE";
  path: string;
  scope: ApiScope;
  summary: string;
  query?: z.ZodObject;
  body?: z.ZodType;
  /** The model it gives: one, a page of them, or nothing. */
  gives: { model: z.ZodType; many?: boolean; status?: number } | null;
  run: (call: Call) => Promise<{ status?: number; body: unknown }>;
};

export const page = {
  limit: z.coerce.number().int().min(1).max(200).default(50).describe("How many at most"),
  after: z.uuid().optional().describe("The `next` of the page before"),
};
export const missing = (what: string) => new Problem(404, `This ${what} doesn't exist.`);

/** One page of a table by key: oldest first, since identifiers grow with time. */
export async function pageOf<Row extends { id: string }>(
  call: Call,
  table: PgTable & { id: AnyPgColumn; clientId: AnyPgColumn },
  where: (SQL | undefined)[],
  json: (row: never) => unknown,
) {
  const { limit, after } = call.query as { limit: number; after?: string };
  const rows = (await call.tx
    .select()
    .from(table)
    .where(and(eq(table.clientId, call.scope.clientId), after ? gt(table.id, after) : undefined, ...where))
    .orderBy(asc(table.id))
    .limit(limit + 1)) as Row[];
  const items = rows.slice(0, limit);
  return {
    body: {
      items: items.map((row) => json(row as never)),
      next: rows.length > limit ? items[items.length - 1].id : null,
    },
  };
}

export async function oneOf<Row>(
  call: Call,
  table: PgTable & { id: AnyPgColumn; clientId: AnyPgColumn },
  what: string,
): Promise<Row> {
  const [row] = await call.tx
    .select()
    .from(table)
    .where(and(eq(table.clientId, call.scope.clientId), eq(table.id, call.path.id)));
  if (!row) throw missing(what);
  return row as Row;
}
