import { and, eq, inArray, sql } from "drizzle-orm";
import type { AskEventKind, AskEventSource } from "@/core/asks/askEvents";
import { rowsOf, type Scope, type Tx } from "@/platform/database";
import { askEvents } from "@/schema/askEvents";
import { messages } from "@/schema/messages";

/** The log of what happened to asks. Everything that changes an ask's state appends to it in the same transaction. */

export type NewAskEvent = Omit<typeof askEvents.$inferInsert, "id" | "clientId">;

const AT_ONCE = 500;

/** Appends events. Instants are milliseconds since the epoch. */
export async function recordEvents(tx: Tx, scope: Scope, events: readonly NewAskEvent[]): Promise<void> {
  for (let from = 0; from < events.length; from += AT_ONCE)
    await tx
      .insert(askEvents)
      .values(events.slice(from, from + AT_ONCE).map((event) => ({ ...event, clientId: scope.clientId })));
}

/** Appends one event of each of these messages, with the step, wording and channel that they have. */
export async function recordMessageEvents(
  tx: Tx,
  scope: Scope,
  messageIds: readonly string[],
  event: { kind: AskEventKind; source: AskEventSource; at: number },
): Promise<void> {
  if (messageIds.length === 0) return;
  const rows = await tx
    .select({
      messageId: messages.id,
      askId: messages.askId,
      step: messages.step,
      wording: messages.wording,
      channel: messages.channel,
    })
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
