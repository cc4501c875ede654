import { and, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { recordMessageEvents, setOpened } from "@/features/asks";
import { now as clockNow } from "@/platform/clock";
import { rowsOf, withClient, workFor } from "@/platform/database";
import { messages } from "@/schema/messages";

const PIXEL = Buffer.from("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7", "base64");

/**
 * Answers `GET /o/<message>.gif`: notes that the mail was shown. It always gives the same picture and changes nothing
 * else.
 */
export async function handleOpenPicture(name: string): Promise<Response> {
  const id = z.uuid().safeParse(name.replace(/\.gif$/, ""));
  if (id.success) {
    const [row] = await rowsOf<{ client: string | null }>(sql`select estima_client_of_message(${id.data}) as client`);
    if (row?.client) {
      const now = await clockNow();
      const scope = workFor(row.client);
      await withClient(scope, async (tx) => {
        const [message] = await tx
          .select({ askId: messages.askId, openedAt: messages.openedAt })
          .from(messages)
          .where(eq(messages.id, id.data));
        if (!message || message.openedAt !== null) return;
        // The ask's row first, as everywhere.
        if (message.askId) await setOpened(tx, scope, message.askId, now);
        await tx
          .update(messages)
          .set({ openedAt: now })
          .where(and(eq(messages.id, id.data), isNull(messages.openedAt)));
        await recordMessageEvents(tx, scope, [id.data], { kind: "opened", source: "unknown", at: now });
      });
    }
  }
  return new Response(PIXEL, { headers: { "content-type": "image/gif", "cache-control": "no-store" } });
}
