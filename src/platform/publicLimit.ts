import { sql } from "drizzle-orm";
import { rowsOf } from "./database";

/**
 * Counts a hit on a public address and says whether it is still welcome: at most `most` per `seconds` of real time and key.
 * Kept in the database, so that any number of web processes count together.
 */
export async function isWelcome(key: string, most: number, seconds: number): Promise<boolean> {
  const [row] = await rowsOf<{ count: number }>(sql`
    insert into public_hits (key, count, until) values (${key}, 1, clock_timestamp() + make_interval(secs => ${seconds}))
    on conflict (key) do update set
      count = case when public_hits.until < clock_timestamp() then 1 else public_hits.count + 1 end,
      until = case when public_hits.until < clock_timestamp() then excluded.until else public_hits.until end
    returning count`);
  return (row?.count ?? 1) <= most;
}

/** Forgets counts that ran out. */
export async function forgetHits(): Promise<void> {
  await rowsOf(sql`delete from public_hits where until < clock_timestamp()`);
}
