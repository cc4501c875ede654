import { sql } from "drizzle-orm";
import { rowsOf } from "@/platform/database";

/** The client and ask behind a customer's link. */
export async function askByToken(token: string): Promise<{ clientId: string; askId: string } | null> {
  if (!/^[0-9A-Za-z]{10,40}$/.test(token)) return null;
  const [row] = await rowsOf<{ client_id: string; ask_id: string }>(sql`select * from estima_ask_by_token(${token})`);
  return row ? { clientId: row.client_id, askId: row.ask_id } : null;
}
