import { type Column, getTableName, or, type SQL, sql } from "drizzle-orm";
import type { PgColumn, PgTable } from "drizzle-orm/pg-core";

/**
 * What of a table is personal, said beside the table. Merging, exporting and erasing a person walk over these entries
 * (`personalData.ts`); a test fails for a table without one.
 */
export type Personal = {
  table: PgTable;
  /** The columns that say whose row it is. Empty where rows belong to nobody. */
  owners: Owner[];
  /** When two records are made one: whether rows of the one that is gone become rows of the one that stays. */
  merge: "follows" | "stays";
  /**
   * When a person is erased: the row goes, or these columns get these values. "by its feature": whose the rows are is
   * not in a column, and the feature looks for the person itself.
   */
  erase: "delete" | "by its feature" | Record<string, unknown>;
  /** Texts that stay, because they are codes, identifiers, words of staff, or public. */
  keeps: string[];
  /** Under which name a person's file shows the rows, and with which columns (all but technical ones by default). */
  exports: { as: string; only?: string[] } | null;
};

/** A person's identifier itself, or an identifier of something that is a person's. */
export type Owner = PgColumn | { column: PgColumn; of: PgColumn; owner: PgColumn };

type Columns<T extends PgTable> = keyof T["_"]["columns"] & string;

/** Declares what of a table is personal. */
export function personal<T extends PgTable>(
  table: T,
  entry: {
    owners: Owner[];
    merge?: Personal["merge"];
    erase: "delete" | "by its feature" | Partial<Record<Columns<T>, unknown>>;
    keeps?: Columns<T>[];
    exports?: { as: string; only?: Columns<T>[] };
  },
): Personal {
  return { table, merge: "stays", keeps: [], ...entry, exports: entry.exports ?? null };
}

/** Declares that a table holds nothing of customers: settings, staff, codes and counts. */
export function notPersonal(table: PgTable): Personal {
  return { table, owners: [], merge: "stays", erase: {}, keeps: [], exports: null };
}

/** Which rows are these people's. `ids` is a list of uuids as SQL: `any(...)` comes around it. */
export function ownedBy({ owners }: Personal, ids: SQL): SQL {
  const each = owners.map((owner) =>
    "of" in owner
      ? sql`${owner.column} in (select ${owner.of} from ${tableOf(owner.of)} where ${owner.owner} = any(${ids}))`
      : sql`${owner} = any(${ids})`,
  );
  return or(...each) ?? sql`false`;
}

const tableOf = (column: Column): SQL => sql`${sql.identifier(getTableName(column.table))}`;
