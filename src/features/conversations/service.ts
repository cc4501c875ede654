import { and, desc, eq, isNull, sql } from "drizzle-orm";
import { z } from "zod";
import { obstacle } from "@/core/asks/reach";
import type { Channel } from "@/core/time/sendHours";
import { PSEUDO } from "@/core/words/languages";
import { plainForText, textParts } from "@/core/words/textParts";
import { addPersonalMessage, languageFor, setMessagesPerson } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting, todayOf } from "@/features/clients";
import { staffOf, tell } from "@/features/notices";
import { addressesOf, findAddressee, findPerson, type Person, setOptOut } from "@/features/people";
import { customerWords } from "@/locales/customer";
import { actingUser, rowsIn, type Scope, type Tx } from "@/platform/database";
import { conversations } from "@/schema/conversations";
import { messages } from "@/schema/messages";

/** What customers and the business write to each other: whose turn it is, who sees to it, and what is written back. */

export type Conversation = typeof conversations.$inferSelect;

/** Why something was not done, in words for the person who tried. */
export type Refusal = { refused: string };

const GONE: Refusal = { refused: "This conversation is not there any more." };

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

const ofClient = (scope: Scope, id: string) =>
  and(eq(conversations.clientId, scope.clientId), eq(conversations.id, id));

/**
 * Notes that somebody wrote. Where it `waits` for an answer whoever wants to know is told, and it comes back among those
 * that wait, whatever it was set aside until.
 */
export async function noteIncoming(
  tx: Tx,
  scope: Scope,
  { id, waitingSince, branchId }: Conversation,
  it: { address: string; channel: Channel; waits: boolean },
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

async function lock(tx: Tx, scope: Scope, id: string): Promise<Conversation | null> {
  const [row] = await tx.select().from(conversations).where(ofClient(scope, id)).for("update");
  return row ?? null;
}

/** A letter from one of the business to a person, or to an address that is nobody's. */
export type Letter = {
  requestKey: string;
  channel: Channel;
  words: string;
  who: string;
  branchId: string | null;
  concernId?: string;
  conversationId?: string;
};

/**
 * Writes to a person. It leaves at once, whatever the send hours: a person answers a person. Gives why it cannot, or
 * whether it is new: the same letter sent twice is one.
 */
export async function writeToPerson(
  tx: Tx,
  scope: Scope,
  personId: string,
  letter: Letter,
  now: number,
): Promise<Refusal | { isNew: boolean }> {
  const person = await findPerson(tx, scope, personId);
  if (!person) return { refused: "This person is not there any more." };
  const setting = await loadSetting(tx);
  const to = await findAddressee(tx, scope, person, todayOf(setting, now));
  if (!to) return { refused: "This person is under age, and no guardian is known. Add the guardian first." };
  const hindrance = obstacle(addressesOf(to), letter.channel);
  if (hindrance) return { refused: `No ${letter.channel} can reach this person: ${hindrance}.` };
  const language = languageFor(to, setting);
  const isNew = await addLetter(tx, scope, letter, now, {
    personId: person.id,
    address: letter.channel === "email" ? to.email : to.phone,
    language: language === PSEUDO ? null : language,
    subject: await subjectFor(
      tx,
      scope,
      person.id,
      customerWords(language)("mail.yourVisit", { business: setting.client.name }),
    ),
  });
  if (isNew) await noteWritten(tx, scope, person.id, now);
  return { isNew };
}

type To = { personId: string | null; address: string | null; language: string | null; subject: string };

function addLetter(tx: Tx, scope: Scope, letter: Letter, now: number, to: To): Promise<boolean> {
  const isText = letter.channel === "text";
  const body = isText ? plainForText(letter.words) : letter.words;
  return addPersonalMessage(tx, scope, {
    id: letter.requestKey,
    personId: to.personId,
    branchId: letter.branchId,
    concernId: letter.concernId ?? null,
    conversationId: letter.conversationId ?? null,
    channel: letter.channel,
    reason: { code: "personal answer" },
    dueAt: now,
    address: to.address,
    subject: isText ? null : to.subject,
    variant: to.language,
    body,
    parts: isText ? textParts(body).parts : null,
    writtenBy: letter.who,
    createdAt: now,
  });
}

/** "Re: " and the subject of the last mail that came from a person; else `otherwise`. */
async function subjectFor(tx: Tx, scope: Scope, personId: string, otherwise: string): Promise<string> {
  const [last] = await tx
    .select({ subject: messages.subject })
    .from(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        eq(messages.personId, personId),
        eq(messages.direction, "in"),
        eq(messages.channel, "email"),
      ),
    )
    .orderBy(desc(messages.createdAt))
    .limit(1);
  const subject = last?.subject?.replace(/^(?:\s*(?:re|aw|sv|odp)\s*:)+/i, "").trim();
  return subject ? `Re: ${subject.slice(0, 300)}` : otherwise;
}

export const conversationAnswerInput = z.object({
  channel: z.enum(["text", "email"]),
  words: z.string().trim().min(1, "Write something to send.").max(4000, "Keep it under 4,000 characters."),
  requestKey: z.uuid(),
  /** When the page was last read: what came since is shown before anything is sent. Milliseconds since the epoch. */
  seenAt: z.coerce.number().int().nonnegative(),
});

/** Answers in a conversation. Whoever comes second is told what the first wrote, or what came meanwhile. */
export async function answerConversation(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  it: z.output<typeof conversationAnswerInput>,
  now: number,
): Promise<Refusal | null> {
  const conversation = await lock(tx, scope, id);
  if (!conversation) return GONE;
  const { personId, address, branchId } = conversation;
  const [sent] = await tx.select({ id: messages.id }).from(messages).where(eq(messages.id, it.requestKey));
  if (sent) return null;
  const since = await writtenSince(tx, scope, conversation, it.seenAt);
  if (since) return { refused: since };
  const letter = { ...it, who, branchId, conversationId: id };
  if (personId) {
    const done = await writeToPerson(tx, scope, personId, letter, now);
    if ("refused" in done) return done;
  } else {
    if (conversation.stoppedAt !== null && it.channel === "text")
      return { refused: "They asked for no more texts from this number. Ring them instead." };
    if (address === null || it.channel !== conversation.channel)
      return { refused: "Nobody knows another address of theirs yet." };
    const setting = await loadSetting(tx);
    const otherwise = customerWords(languageFor({ language: null, pageLanguage: null }, setting))("mail.yourVisit", {
      business: setting.client.name,
    });
    await addLetter(tx, scope, letter, now, { personId: null, address, language: null, subject: otherwise });
    await tx
      .update(conversations)
      .set({ waitingSince: null, isUnread: false, asideUntil: null, lastAt: now })
      .where(ofClient(scope, id));
  }
  if (!conversation.assignedToId) await tx.update(conversations).set(mineNow(who)).where(ofClient(scope, id));
  await recordAudit(tx, audit(scope, who, "answered", id, now));
  return null;
}

const mineNow = (who: string) => ({ assignedTo: who, assignedToId: actingUser });

const audit = (scope: Scope, who: string, action: "answered" | "changed", subjectId: string, at: number) =>
  ({ clientId: scope.clientId, at, who, action, subject: "conversation", subjectId }) as const;

/** What was written while somebody was writing, in words; null for nothing. */
async function writtenSince(tx: Tx, scope: Scope, it: Conversation, seenAt: number): Promise<string | null> {
  const whose = it.personId ? eq(messages.personId, it.personId) : eq(messages.conversationId, it.id);
  const [last] = await tx
    .select()
    .from(messages)
    .where(
      and(
        eq(messages.clientId, scope.clientId),
        whose,
        sql`${messages.createdAt} > ${new Date(seenAt).toISOString()}`,
        sql`(${messages.direction} = 'in' or ${messages.writtenBy} is not null)`,
      ),
    )
    .orderBy(desc(messages.createdAt))
    .limit(1);
  if (!last) return null;
  return last.direction === "in"
    ? "They wrote once more meanwhile. Read it above; your words are kept here."
    : `${last.writtenBy} answered meanwhile. Read it above; your words are kept here.`;
}

/** Takes a conversation off the list of those that wait, as nothing needs to be said. */
export async function settle(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<Refusal | null> {
  if (!(await lock(tx, scope, id))) return GONE;
  await tx
    .update(conversations)
    .set({ waitingSince: null, isUnread: false, asideUntil: null })
    .where(ofClient(scope, id));
  await recordAudit(tx, audit(scope, who, "changed", id, now));
  return null;
}

/** Sets a conversation aside until an instant, or takes it back at once. */
export async function setConversationAside(
  tx: Tx,
  scope: Scope,
  id: string,
  until: number | null,
): Promise<Refusal | null> {
  if (!(await lock(tx, scope, id))) return GONE;
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
  if (!(await lock(tx, scope, id))) return GONE;
  const who = userId === null ? null : ((await staffOf(tx)).find((one) => one.id === userId) ?? null);
  if (userId !== null && !who) return { refused: "This person has no seat here any more." };
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
  const conversation = await lock(tx, scope, id);
  if (!conversation) return GONE;
  if (conversation.personId) return { refused: "Somebody has said meanwhile who this is." };
  const person = await findPerson(tx, scope, personId);
  if (!person) return { refused: "This person is not there any more." };
  const theirs = await one(tx, and(eq(conversations.clientId, scope.clientId), eq(conversations.personId, personId)));
  await adopt(tx, scope, conversation, person, person.lastBranchId);
  if (theirs) await join(tx, scope, theirs, conversation);
  await recordAudit(tx, audit(scope, who, "changed", id, now));
  return null;
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
