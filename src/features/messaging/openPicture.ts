import { sql } from "drizzle-orm";
import { z } from "zod";
import { noteShown } from "@/features/asks";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { type Visitor, visitorOf } from "@/platform/visitor";

const PIXEL = Buffer.from("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7", "base64");

/**
 * Answers `GET /o/<message>.gif`: notes that the mail was shown, to a person or a machine. It always gives the same
 * picture and changes nothing else.
 */
export async function handleOpenPicture(request: Request, name: string): Promise<Response> {
  const id = z.uuid().safeParse(name.replace(/\.gif$/, ""));
  if (id.success) await note(id.data, visitorOf(request));
  return new Response(PIXEL, { headers: { "content-type": "image/gif", "cache-control": "no-store" } });
}

async function note(messageId: string, visitor: Visitor): Promise<void> {
  const [row] = await rowsOf<{ client: string | null }>(sql`select estima_client_of_message(${messageId}) as client`);
  if (!row?.client) return;
  const scope = workFor(row.client);
  const now = await clockNow();
  await withClient(scope, (tx) => noteShown(tx, scope, messageId, visitor, now));
}
