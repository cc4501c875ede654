import { and, eq, inArray, sql } from "drizzle-orm";
import type { AskEventKind, AskEventSource } from "@/core/asks/askEvents";
import { rowsOf, type Scope, type Tx } from "@/platform/database";
import type { askEvents } from "@/schema/askEvents";
import { newId } from "@/schema/columns";
import { messages } from "@/schema/messages";

/** The log of what happened to asks. Everything that changes an ask's state appends to it in the same transaction. */

export type NewAskEvent = Omit<typeof askEvents.$inferInsert, "id" | "clientId">;

/** Appends events in one statement. Instants are milliseconds since the epoch. */
export async function recordEvents(tx: Tx, scope: Scope, events: readonly NewAskEvent[]): Promise<void> {
  if (events.length === 0) return;
  const rows = events.map((event) => ({ ...event, id: newId(), at: new Date(event.at).toISOString() }));
  await tx.execute(sql`
    insert into ask_events (id, client_id, at, kind, source, ask_id, message_id, step, wording, variant, channel, listing_id, rating, code)
    select d.id, ${scope.clientId}, d.at, d.kind, d.source, d."askId", d."messageId", d.step, d.wording, d.variant, d.channel, d."listingId", d.rating, d.code
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as d(id uuid, at timestamptz, kind text, source text, "askId" uuid, "messageId" uuid,
      step smallint, wording text, variant text, channel text, "listingId" uuid, rating smallint, code text)`);
}

/** What an event takes from its message. */
export const OF_MESSAGE = {
  messageId: messages.id,
  askId: messages.askId,
  step: messages.step,
  wording: messages.wording,
  variant: messages.variant,
  channel: messages.channel,
};

/** Appends one event of each of these messages, with the step, wording, variant and channel that they have. */
export async function recordMessageEvents(
  tx: Tx,
  scope: Scope,
  messageIds: readonly string[],
  event: { kind: AskEventKind; source: AskEventSource; at: number; code?: string },
): Promise<void> {
  if (messageIds.length === 0) return;
  const rows = await tx
    .select(OF_MESSAGE)
    .from(messages)
    .where(and(eq(messages.clientId, scope.clientId), inArray(messages.id, [...messageIds])));
  await recordEvents(
    tx,
    scope,
    rows.filter(({ askId }) => askId !== null).map((row) => ({ ...row, ...event })),
  );
}

/** Makes the partitions for the month of `at` and the two after it, unless they are there. */
export async function prepareEvents(at: number): Promise<void> {
  await rowsOf(sql`select estima_prepare_events(${new Date(at).toISOString()})`);
}
