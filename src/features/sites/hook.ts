import { sql } from "drizzle-orm";
import { z } from "zod";
import { now as clockNow } from "@/platform/clock";
import { rowsOf } from "@/platform/database";
import { checkHook, MOST_HOOK_BYTES, problem, readBounded } from "@/platform/hooks";
import { secretOfHook } from "./connecting";

/**
 * Answers `POST /hooks/sites/<page>`: a site tells that something is new on a page (Standard Webhooks). What it tells is
 * not believed but read: the page's turn is now.
 */
export async function handleSiteHook(request: Request, listingId: string): Promise<Response> {
  if (!z.uuid().safeParse(listingId).success) return problem(404, "This page doesn't exist.");
  const text = await readBounded(request, MOST_HOOK_BYTES);
  if (text === null) return problem(413, "The delivery is larger than 256 KB.");
  const refused = checkHook(request.headers, text, secretOfHook(listingId));
  if (refused) return refused;
  const [row] = await rowsOf<{ known: boolean }>(
    sql`select estima_page_is_due(${listingId}, ${new Date(await clockNow()).toISOString()}) as known`,
  );
  return row?.known ? Response.json({ ok: true }, { status: 202 }) : problem(410, "This page is no longer connected.");
}
