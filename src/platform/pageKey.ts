import { type SQL, type SQLWrapper, sql } from "drizzle-orm";
import { z } from "zod";
import { isInRange } from "@/core/time/range";

/**
 * Where a page of a list begins, as it stands in an address: the instant and the id of the last row before it,
 * "1795543500000~id".
 */
export const pageKey = z
  .string()
  .max(80)
  .transform((text) => {
    const [at, id] = text.split("~");
    return /^\d{1,15}$/.test(at) && isInRange(Number(at)) && z.uuid().safeParse(id).success
      ? { at: Number(at), id }
      : null;
  })
  .nullable()
  .catch(null);

export type PageKey = NonNullable<z.output<typeof pageKey>>;

/** The rows that come after a key in a list whose latest are first; `at` and `id` are what the list is ordered by. */
export function earlierThan(at: SQLWrapper, id: SQLWrapper, key: PageKey): SQL {
  return sql`(${at}, ${id}) < (${new Date(key.at).toISOString()}::timestamptz, ${key.id}::uuid)`;
}
