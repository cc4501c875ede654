import { sql } from "drizzle-orm";
import { rowsOf } from "@/platform/database";

/** When the next planned message of any client is due, or null. Only the demo clock asks this. */
export async function nextMessageDue(): Promise<number | null> {
  const [row] = await rowsOf<{ message_at: string | Date | null }>(sql`select message_at from estima_next_due()`);
  return row?.message_at ? new Date(row.message_at).getTime() : null;
}
