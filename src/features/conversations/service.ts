import { and, desc, eq, isNull, sql } from "drizzle-orm";
import type { Channel } from "@/core/time/sendHours";
import { setMessagesPerson } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { staffOf, tell } from "@/features/notices";
import { findPerson, type Person, setOptOut } from "@/features/people";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { conversations } from "@/schema/conversations";

/** What customers and the business write to each other: whose turn it is, who sees to it, and what is written back. */

export type Conversation = typeof conversations.$inferSelect;

/** Why something was not done, in words for the person who tried. */
export type Refusal = { refused: string };

export const GONE: Refusal = { refused: "This conversation has been removed." };

/** Who wrote: a person, or a number or mailbox of which nobody knows whose it is. */
export type Correspondent = { person: Person | null; address: string; channel: Channel; branchId: string | null };

/**
 * The conversation with somebody who wrote, locked; a new one where there is none. Where it was known by its address
 * alone and its person is known by now, it becomes theirs.
 */
export async function openConversation(tx: Tx, scope: Scope, it: Correspondent, now: number): Promise<Conversation> {
  const { person, address, channel, branchId } = it;
  // Two messages at once must not begin two conversations.
  await rowsIn(tx, sql`select pg_advisory_xact_lock(hashtext(${`${scope.clientId} ${person?.id ?? address}`}))`);
  const ofPerson = person
    ? await one(tx, and(eq(conversations.clientId, scope.clientId), eq(conversations.personId, person.id)))
    : null;
  if (ofPerson) return ofPerson;
  const ofAddress = await one(
    tx,
    and(eq(conversations.clientId, scope.clientId), isNull(conversations.personId), eq(conversations.address, address)),
  );
  if (ofAddress && person) {
    await adopt(tx, scope, ofAddress, person, branchId);
    return { ...ofAddress, personId: person.id, branchId: branchId ?? ofAddress.branchId };
  }
  if (ofAddress) return ofAddress;
  const [made] = await tx
    .insert(conversations)
    .values({
      clientId: scope.clientId,
      personId: person?.id ?? null,
      branchId,
      address,
      channel,
      lastAt: now,
      heardAt: now,
      createdAt: now,
    })
    .returning();
  return made;
}

async function one(tx: Tx, where: ReturnType<typeof and>): Promise<Conversation | null> {
  const [row] = await tx
    .select()
    .from(conversations)
    .where(where)
    .orderBy(desc(conversations.lastAt))
    .limit(1)
    .for("update");
  return row ?? null;
}

/** The conversation of an address becomes a person's, with all that was written. */
async function adopt(
  tx: Tx,
  scope: Scope,
  { id, stoppedAt }: Conversation,
  person: Person,
  branchId: string | null,
): Promise<void> {
  await tx
    .update(conversations)
    .set({ personId: person.id, stoppedAt: null, ...(branchId ? { branchId } : {}) })
    .where(ofClient(scope, id));
  await setMessagesPerson(tx, scope, id, person.id);
  // Whoever asked for no more texts before anybody knew them gets none now.
  if (stoppedAt !== null && person.textOptedOutAt === null)
    await setOptOut(tx, scope, [person.id], "text", { at: stoppedAt, how: { code: "wrote back", word: "STOP" } });
}

export const ofClient = (scope: Scope, id: string) =>
  and(eq(conversations.clientId, scope.clientId), eq(conversations.id, id));

/**
 * Notes that somebody wrote. Where it `waits` for an answer whoever wants to know is told, and it comes back among those
 * that wait, whatever it was set aside until.
 */
export async function noteIncoming(
  tx: Tx,
  scope: Scope,
  { id, waitingSince, branchId }: Conversation,
  it: { address: string; channel: Channel; waits: boolean; mayStop: boolean },
  now: number,
): Promise<void> {
  const since = it.waits ? (waitingSince ?? now) : waitingSince;
  await tx
    .update(conversations)
    .set({
      address: it.address,
      channel: it.channel,
      lastAt: now,
      heardAt: now,
      isUnread: true,
      waitingSince: since,
      ...(it.waits ? { asideUntil: null } : {}),
      ...(it.mayStop ? { mayStopAt: now } : {}),
    })
    .where(ofClient(scope, id));
  if (!it.waits || since === null) return;
  await tell(
    tx,
    scope,
    [
      {
        about: `conversation ${id} ${since}`,
        matter: { kind: "conversation", branchId },
        told: { code: "conversation", conversationId: id },
      },
    ],
    now,
  );
}

/** Notes that somebody of the business wrote to a person: nobody waits any more. */
export async function noteWritten(tx: Tx, scope: Scope, personId: string, now: number): Promise<void> {
  await tx
    .update(conversations)
    .set({ waitingSince: null, isUnread: false, asideUntil: null, lastAt: now })
    .where(and(eq(conversations.clientId, scope.clientId), eq(conversations.personId, personId)));
}

export async function lockConversation(tx: Tx, scope: Scope, id: string): Promise<Conversation | null> {
  const [row] = await tx.select().from(conversations).where(ofClient(scope, id)).for("update");
  return row ?? null;
}

export const auditEntry = (scope: Scope, who: string, action: "answered" | "changed", subjectId: string, at: number) =>
  ({ clientId: scope.clientId, at, who, action, subject: "conversation", subjectId }) as const;

/** Takes a conversation off the list of those that wait, as nothing needs to be said. */
export async function settle(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<Refusal | null> {
  if (!(await lockConversation(tx, scope, id))) return GONE;
  await tx
    .update(conversations)
    .set({ waitingSince: null, isUnread: false, asideUntil: null })
    .where(ofClient(scope, id));
  await recordAudit(tx, auditEntry(scope, who, "changed", id, now));
  return null;
}

/** Sets a conversation aside until an instant, or takes it back at once. */
export async function setConversationAside(
  tx: Tx,
  scope: Scope,
  id: string,
  until: number | null,
): Promise<Refusal | null> {
  if (!(await lockConversation(tx, scope, id))) return GONE;
  await tx.update(conversations).set({ asideUntil: until, isUnread: false }).where(ofClient(scope, id));
  return null;
}

/** Marks a conversation as read by somebody, or as not read yet. */
export async function markConversation(tx: Tx, scope: Scope, id: string, isUnread: boolean): Promise<Refusal | null> {
  const done = await tx.update(conversations).set({ isUnread }).where(ofClient(scope, id));
  return done.rowCount ? null : GONE;
}

/** Gives a conversation to one of the staff, or to nobody. */
export async function assignConversation(
  tx: Tx,
  scope: Scope,
  id: string,
  userId: string | null,
): Promise<Refusal | null> {
  if (!(await lockConversation(tx, scope, id))) return GONE;
  const who = userId === null ? null : ((await staffOf(tx)).find((one) => one.id === userId) ?? null);
  if (userId !== null && !who) return { refused: "This person no longer has access." };
  await tx
    .update(conversations)
    .set({ assignedTo: who?.name ?? null, assignedToId: who?.id ?? null })
    .where(ofClient(scope, id));
  return null;
}

/** Says whose number or mailbox it is: the conversation becomes that person's. */
export async function identify(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  personId: string,
  now: number,
): Promise<Refusal | null> {
  const conversation = await lockConversation(tx, scope, id);
  if (!conversation) return GONE;
  if (conversation.personId) return { refused: "Someone has already said who this is." };
  const person = await findPerson(tx, scope, personId);
  if (!person) return { refused: "This person has been removed." };
  const theirs = await one(tx, and(eq(conversations.clientId, scope.clientId), eq(conversations.personId, personId)));
  await adopt(tx, scope, conversation, person, person.lastBranchId);
  if (theirs) await join(tx, scope, theirs, conversation);
  await recordAudit(tx, auditEntry(scope, who, "changed", id, now));
  return null;
}

/**
 * Settles whether the writer of a conversation wants no more messages, once: of two at the same time one is told that it
 * was settled. Whoever is stopped waits for no answer any more.
 */
export async function takeStopDoubt(tx: Tx, scope: Scope, id: string, stops: boolean): Promise<Conversation | Refusal> {
  const conversation = await lockConversation(tx, scope, id);
  if (!conversation) return GONE;
  if (conversation.mayStopAt === null) return { refused: "Someone has already settled this." };
  await tx
    .update(conversations)
    .set({ mayStopAt: null, ...(stops ? { waitingSince: null, asideUntil: null } : {}) })
    .where(ofClient(scope, id));
  return conversation;
}

/** Of two conversations with one person the one in which was written last stays. */
async function join(tx: Tx, scope: Scope, a: Conversation, b: Conversation): Promise<void> {
  const [kept, gone] = a.lastAt > b.lastAt ? [a, b] : [b, a];
  const waits = [a.waitingSince, b.waitingSince].filter((at) => at !== null);
  await tx
    .update(conversations)
    .set({
      waitingSince: waits.length > 0 ? Math.min(...waits) : null,
      isUnread: a.isUnread || b.isUnread,
      heardAt: Math.max(a.heardAt, b.heardAt),
    })
    .where(ofClient(scope, kept.id));
  await tx.delete(conversations).where(ofClient(scope, gone.id));
}
