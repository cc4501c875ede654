import { and, desc, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { obstacle } from "@/core/asks/reach";
import { channelOf } from "@/core/contacts/replyAddress";
import { isInRange } from "@/core/time/range";
import type { Channel } from "@/core/time/sendHours";
import { PSEUDO } from "@/core/words/languages";
import { plainForText, textParts } from "@/core/words/textParts";
import { addPersonalMessage, languageFor } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting, todayOf } from "@/features/clients";
import { addressesOf, findAddressee, findPerson } from "@/features/people";
import { customerWords } from "@/locales/customer";
import { actingUser, type Scope, type Tx } from "@/platform/database";
import { conversations } from "@/schema/conversations";
import { messages } from "@/schema/messages";
import { auditEntry, GONE, lockConversation, noteWritten, ofClient, type Refusal } from "./service";

/** What somebody of the business writes to a person: the one way a letter leaves, in a conversation or about a concern. */

/** A letter from one of the business to a person, or to an address that is nobody's. */
export type Letter = {
  requestKey: string;
  channel: Channel;
  words: string;
  who: string;
  branchId: string | null;
  /** When the page was last read (milliseconds): what was written since is shown before anything is sent. */
  seenAt?: number;
  /** The address they gave for an answer to this, whatever else is known of them; null for none. */
  replyTo?: string | null;
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
  if (!person) return { refused: "This person has been removed." };
  const [sent] = await tx.select({ id: messages.id }).from(messages).where(eq(messages.id, letter.requestKey));
  if (sent) return { isNew: false };
  const since = letter.seenAt ? await writtenSince(tx, scope, { personId, id: null }, letter.seenAt) : null;
  if (since) return { refused: since };
  const setting = await loadSetting(tx);
  const addressee = await findAddressee(tx, scope, person, todayOf(setting, now));
  const given = letter.replyTo && channelOf(letter.replyTo) === letter.channel ? letter.replyTo : null;
  if (!addressee && !given) return { refused: "This person is under age and has no guardian on file. Add one first." };
  const to = addressee ?? person;
  const hindrance = given ? null : obstacle(addressesOf(to), letter.channel);
  if (hindrance) return { refused: `You can’t ${letter.channel} this person: ${hindrance}.` };
  const language = languageFor(to, setting);
  const isNew = await addLetter(tx, scope, letter, now, {
    personId: person.id,
    address: given ?? (letter.channel === "email" ? to.email : to.phone),
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
  words: z.string().trim().min(1, "Write a message first.").max(4000, "Keep it under 4,000 characters."),
  requestKey: z.uuid(),
  /** When the page was last read: what came since is shown before anything is sent. Milliseconds since the epoch. */
  seenAt: z.coerce.number().int().nonnegative().refine(isInRange),
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
  const conversation = await lockConversation(tx, scope, id);
  if (!conversation) return GONE;
  const { personId, address, branchId } = conversation;
  const [sent] = await tx.select({ id: messages.id }).from(messages).where(eq(messages.id, it.requestKey));
  if (sent) return null;
  const since = await writtenSince(tx, scope, conversation, it.seenAt);
  if (since) return { refused: since };
  const letter = { ...it, seenAt: undefined, who, branchId, conversationId: id };
  if (personId) {
    const done = await writeToPerson(tx, scope, personId, letter, now);
    if ("refused" in done) return done;
  } else {
    if (conversation.stoppedAt !== null && it.channel === "text")
      return { refused: "They’ve opted out of texts from this number. Ring them instead." };
    if (address === null || it.channel !== conversation.channel)
      return { refused: "We don’t have another address for them yet." };
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
  await recordAudit(tx, auditEntry(scope, who, "answered", id, now));
  return null;
}

const mineNow = (who: string) => ({ assignedTo: who, assignedToId: actingUser });

/** What was written while somebody was writing, in words; null for nothing. */
async function writtenSince(
  tx: Tx,
  scope: Scope,
  it: { personId: string | null; id: string | null },
  seenAt: number,
): Promise<string | null> {
  const whose = it.personId ? eq(messages.personId, it.personId) : eq(messages.conversationId, it.id ?? "");
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
    ? "They’ve written again. Read it above; your draft is still here."
    : `${last.writtenBy} has just answered. Read it above; your draft is still here.`;
}
