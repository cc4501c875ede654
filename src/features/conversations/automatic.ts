import { and, eq } from "drizzle-orm";
import { v5 } from "uuid";
import { sayPhone } from "@/core/contacts/phone";
import { type Automatic, type AwayWord, fillAway, HELP_AGAIN_AFTER, saysAway } from "@/core/conversations/automatic";
import { isOpen, lastClosed, nextOpen } from "@/core/time/officeHours";
import { type AnyLanguage, type Language, PSEUDO } from "@/core/words/languages";
import { plainForText, textParts } from "@/core/words/textParts";
import { addPersonalMessage, languageFor } from "@/features/asks";
import { officeCalendarOf, type Setting } from "@/features/clients";
import type { Person } from "@/features/people";
import { customerWords, LOCALES } from "@/locales/customer";
import type { Scope, Tx } from "@/platform/database";
import { conversations } from "@/schema/conversations";
import type { Conversation } from "./service";

/** What is said by itself: that nobody is there, who writes, and that texts have ended or begun again. */

type Said = {
  conversation: Conversation;
  person: Person | null;
  /** The message that it answers, by which it is said once. */
  messageId: string;
  /** In which they wrote, where that is known; else that of their record. */
  language: Language | null;
  /** The mail that is answered, for its subject. */
  subject: string | null;
};

/** Says that nobody is there, once for each time that the hours are over. */
export async function sayAwayWord(tx: Tx, scope: Scope, setting: Setting, said: Said, now: number): Promise<void> {
  const { conversation, person } = said;
  // Whoever asked for no more texts is answered by people alone.
  const isOut = conversation.channel === "text" && (person?.textOptedOutAt ?? conversation.stoppedAt) !== null;
  if (isOut) return;
  const calendar = officeCalendarOf(setting, conversation.branchId, now);
  const it = {
    isOpen: isOpen(now, calendar),
    lastClosedAt: lastClosed(now, calendar),
    awayToldAt: conversation.awayToldAt,
  };
  const opensAt = nextOpen(now, calendar);
  if (opensAt === null || !saysAway(it, setting.client.awayWord)) return;
  const language = languageOf(setting, said);
  const opens = sayOpening(language, calendar.zone, opensAt);
  const words = awayWords(setting.client.awayWord, language, setting.client.name, opens);
  await say(tx, scope, setting, said, "away", words, now);
  await note(tx, scope, conversation.id, { awayToldAt: now });
}

/** The away word as somebody gets it: the business's own of a language, else the starter's. */
export function awayWords(own: AwayWord | null, language: AnyLanguage, business: string, opens: string): string {
  const written = language === PSEUDO ? undefined : own?.words[language];
  return written
    ? fillAway(written, { business, opens })
    : customerWords(language)("conversation.away", { business, opens });
}

/** "Mon, 08:30" as the language writes it, in the zone of the branch. */
export function sayOpening(language: AnyLanguage, zone: string, at: number): string {
  return new Intl.DateTimeFormat(LOCALES[language], {
    weekday: "long",
    hour: "2-digit",
    minute: "2-digit",
    timeZone: zone,
  }).format(at);
}

/** Says who writes and how to reach them; not again within an hour. */
export async function sayHelp(tx: Tx, scope: Scope, setting: Setting, said: Said, now: number): Promise<void> {
  const { conversation } = said;
  if (conversation.helpToldAt !== null && now - conversation.helpToldAt < HELP_AGAIN_AFTER) return;
  const { name: business, senderEmail: email } = setting.client;
  const branch = setting.branches.find(({ id }) => id === conversation.branchId) ?? setting.branches[0];
  const words = customerWords(languageOf(setting, said));
  await say(
    tx,
    scope,
    setting,
    said,
    "help",
    branch?.phone
      ? words("conversation.helpWithPhone", { business, phone: sayPhone(branch.phone), email })
      : words("conversation.help", { business, email }),
    now,
  );
  await note(tx, scope, conversation.id, { helpToldAt: now });
}

/** Confirms that texts have ended, or begin again. */
export async function confirmWish(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  said: Said,
  what: "stopped" | "started",
  now: number,
): Promise<void> {
  const words = customerWords(languageOf(setting, said))(`conversation.${what}`, { business: setting.client.name });
  await say(tx, scope, setting, said, what, words, now);
}

function languageOf(setting: Setting, { person, language }: Said): AnyLanguage {
  return language ?? languageFor(person ?? { language: null, pageLanguage: null }, setting);
}

async function say(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  { conversation, person, messageId, subject }: Said,
  what: Automatic,
  words: string,
  now: number,
): Promise<void> {
  const { channel, address } = conversation;
  const isText = channel === "text";
  const body = isText ? plainForText(words) : words;
  await addPersonalMessage(tx, scope, {
    id: v5(what, messageId),
    personId: person?.id ?? null,
    conversationId: conversation.id,
    branchId: conversation.branchId,
    channel,
    reason: { code: "automatic", what },
    dueAt: now,
    address,
    subject: isText ? null : subject ? `Re: ${subject.slice(0, 300)}` : setting.client.name,
    body,
    parts: isText ? textParts(body).parts : null,
    createdAt: now,
  });
}

async function note(
  tx: Tx,
  scope: Scope,
  id: string,
  set: Partial<Pick<Conversation, "awayToldAt" | "helpToldAt" | "stoppedAt">>,
): Promise<void> {
  await tx
    .update(conversations)
    .set(set)
    .where(and(eq(conversations.clientId, scope.clientId), eq(conversations.id, id)));
}

/** Notes that a number which is nobody's wants no more texts, or wants them again. */
export function setStopped(tx: Tx, scope: Scope, id: string, stoppedAt: number | null): Promise<void> {
  return note(tx, scope, id, { stoppedAt });
}
