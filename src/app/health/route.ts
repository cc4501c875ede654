import { sql } from "drizzle-orm";
import { rowsOf } from "@/platform/database";

/** 200 when the web process and its database work, else 503. */
export async function GET() {
  try {
    await rowsOf(sql`select 1`);
    return Response.json({ ok: true });
  } catch {
    return Response.json({ ok: false, problem: "The database can’t be reached." }, { status: 503 });
  }
}
