import { and, eq, inArray, isNotNull, isNull, sql } from "drizzle-orm";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { messages } from "@/schema/messages";

/**
 * What other features note about asks, one function each: only this feature writes the table. Instants are milliseconds
 * since the epoch.
 */

type Ask = typeof asks.$inferSelect;

const ofClient = (scope: Scope, id: string) => and(eq(asks.clientId, scope.clientId), eq(asks.id, id));

/** That a message of the ask is known to have arrived; the first time counts. */
export async function setDelivered(tx: Tx, scope: Scope, messageId: string, at: number): Promise<void> {
  await tx
    .update(asks)
    .set({ deliveredAt: sql`coalesce(${asks.deliveredAt}, ${new Date(at).toISOString()})` })
    .where(
      and(
        eq(asks.clientId, scope.clientId),
        inArray(
          asks.id,
          tx
            .select({ id: messages.askId })
            .from(messages)
            .where(and(eq(messages.id, messageId), inArray(messages.state, ["sending", "sent", "delivered"]))),
        ),
      ),
    );
}

/** That a message of the ask was opened, or by `isFollowed` the page behind it. */
export async function setOpened(tx: Tx, scope: Scope, id: string, at: number, isFollowed = false): Promise<void> {
  await tx
    .update(asks)
    .set({
      openedAt: at,
      ...(isFollowed ? { followedAt: sql`coalesce(${asks.followedAt}, ${new Date(at).toISOString()})` } : {}),
    })
    .where(ofClient(scope, id));
}

/** Lets an ask that was stopped or has ended go on. */
export async function reopenAsk(tx: Tx, scope: Scope, id: string): Promise<void> {
  await tx.update(asks).set({ stop: null, ended: null, endedAt: null }).where(ofClient(scope, id));
}

/** Lets an ask that has ended go on, unless another of the person is open. Gives whether it does. */
export async function reopenEndedAsk(tx: Tx, scope: Scope, id: string): Promise<boolean> {
  const result = await tx
    .update(asks)
    .set({ ended: null, endedAt: null })
    .where(
      and(
        ofClient(scope, id),
        sql`not exists (select 1 from asks o where o.client_id = ${scope.clientId} and o.person_id = ${asks.personId} and o.stop is null and o.ended is null)`,
      ),
    );
  return (result.rowCount ?? 0) > 0;
}

/** That a site was opened from its answer page; the first time counts. */
export async function setSiteFollowed(tx: Tx, scope: Scope, id: string, at: number): Promise<void> {
  await tx
    .update(asks)
    .set({ siteFollowedAt: sql`coalesce(${asks.siteFollowedAt}, ${new Date(at).toISOString()})` })
    .where(ofClient(scope, id));
}

/** That a review of `at` is taken to come from it. */
export async function setReviewed(tx: Tx, scope: Scope, id: string, at: number): Promise<void> {
  await tx.update(asks).set({ reviewedAt: at }).where(ofClient(scope, id));
}

/** Until when the used-up allowance holds these asks. */
export async function setAllowanceFrom(tx: Tx, scope: Scope, ids: readonly string[], at: number): Promise<void> {
  if (ids.length === 0) return;
  await tx
    .update(asks)
    .set({ allowanceFrom: at })
    .where(and(eq(asks.clientId, scope.clientId), anyOf(asks.id, ids)));
}

/** Lets go every ask that the used-up allowance holds. */
export async function clearAllowances(tx: Tx, scope: Scope): Promise<void> {
  await tx
    .update(asks)
    .set({ allowanceFrom: null })
    .where(and(eq(asks.clientId, scope.clientId), isNotNull(asks.allowanceFrom)));
}

/** How far an ask has got, after a step of it came back. */
export async function setProgress(
  tx: Tx,
  scope: Scope,
  id: string,
  progress: Pick<Ask, "done" | "sentCount" | "lastSentAt" | "firstSentAt" | "ended" | "endedAt">,
): Promise<void> {
  await tx.update(asks).set(progress).where(ofClient(scope, id));
}

/** That these asks sent one more message each, and how many legs of their plans are done now. */
export async function setSent(
  tx: Tx,
  scope: Scope,
  sent: readonly { id: string; done: number }[],
  now: number,
): Promise<void> {
  if (sent.length === 0) return;
  const at = new Date(now).toISOString();
  await tx.execute(sql`
    update asks a set sent_count = a.sent_count + 1, done = d.done, first_sent_at = coalesce(a.first_sent_at, ${at}),
      last_sent_at = ${at}, send_now = null, allowance_from = null
    from jsonb_to_recordset(${JSON.stringify(sent)}::jsonb) as d(id uuid, done int)
    where a.id = d.id and a.client_id = ${scope.clientId}`);
}

/**
 * Plans a message that somebody wrote to a person by hand. It goes before what plans send, and also while everything is
 * paused; its identifier keeps a second one of the same kind from being
 * sent. Gives whether it is new.
 */
export async function addPersonalMessage(
  tx: Tx,
  scope: Scope,
  message: Omit<typeof messages.$inferInsert, "clientId" | "direction" | "state">,
): Promise<boolean> {
  const added = await tx
    .insert(messages)
    .values({ goesFirst: true, ...message, clientId: scope.clientId, direction: "out", state: "planned" })
    .onConflictDoNothing()
    .returning({ id: messages.id });
  return added.length > 0;
}

/** Says whose the messages of a conversation are that nobody knew. */
export async function setMessagesPerson(tx: Tx, scope: Scope, conversationId: string, personId: string): Promise<void> {
  await tx
    .update(messages)
    .set({ personId })
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        eq(messages.conversationId, conversationId),
        isNull(messages.personId),
      ),
    );
}
