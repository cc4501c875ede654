import { createHash } from "node:crypto";
import { DAY } from "@/core/time/zone";
import { type AnyLanguage, PSEUDO } from "@/core/words/languages";
import { addPersonalMessage, languageFor, writtenTo } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { customerWords } from "@/locales/customer";
import { now as clockNow } from "@/platform/clock";
import type { Scope, Tx } from "@/platform/database";
import { environment } from "@/platform/environment";
import { sameSecret, tagFor } from "@/platform/secrets";
import { findAnswer, lockedContext } from "./service";
import { type Answer, withAsk } from "./view";

/** What somebody asks for on their page and gets by email: a copy of their words, or a link to take them back. */

/** For how long a link to one's own words works. */
const DAYS = 7;

/** The same words asked for twice are one message, whatever the clicks. */
function idFrom(...parts: (string | number)[]): string {
  const hash = createHash("sha256").update(parts.join(" ")).digest("hex");
  return `${hash.slice(0, 8)}-${hash.slice(8, 12)}-8${hash.slice(13, 16)}-8${hash.slice(17, 20)}-${hash.slice(20, 32)}`;
}

type Letter = { subject: string; body: string };

async function write(
  token: string,
  chosen: AnyLanguage | null,
  letterOf: (it: { answer: Answer; branch: string; business: string; language: AnyLanguage; now: number }) => {
    id: string;
    letter: Letter;
  },
): Promise<boolean> {
  const done = await withAsk(token, async (tx: Tx, scope: Scope, askId: string) => {
    const now = await clockNow();
    const context = await lockedContext(tx, scope, askId);
    const answer = await findAnswer(tx, scope, askId);
    const setting = await loadSetting(tx);
    const to = writtenTo(context, setting, now);
    if (!answer?.words || !to.email || to.emailBouncedAt !== null) return false;
    const language = chosen ?? languageFor(to, setting);
    const branch = setting.branches.find(({ id }) => id === context.ask.branchId)?.name ?? setting.client.name;
    const { id, letter } = letterOf({ answer, branch, business: setting.client.name, language, now });
    await addPersonalMessage(tx, scope, {
      id,
      personId: to.id,
      branchId: context.ask.branchId,
      channel: "email",
      variant: language === PSEUDO ? null : language,
      reason: { code: "at their request" },
      dueAt: now,
      address: to.email,
      ...letter,
      createdAt: now,
    });
    return true;
  });
  return done ?? false;
}

/** Sends somebody a copy of what they wrote. False where there are no words, or no mailbox. */
export function sendReceipt(token: string, chosen: AnyLanguage | null): Promise<boolean> {
  return write(token, chosen, ({ answer, branch, business, language }) => {
    const say = customerWords(language);
    const words = answer.words ?? "";
    return {
      id: idFrom("receipt", answer.id, words),
      letter: { subject: say("receipt.subject", { business }), body: say("receipt.body", { branch, words }) },
    };
  });
}

/** Sends somebody a link to their words whose own link works no more; once a day at most. */
export function sendLinkToWords(token: string, chosen: AnyLanguage | null): Promise<boolean> {
  return write(token, chosen, ({ answer, business, language, now }) => {
    const say = customerWords(language);
    const address = `${environment().APP_URL}${pathToWords(token, now + DAYS * DAY)}`;
    return {
      id: idFrom("link to words", answer.id, Math.floor(now / DAY)),
      letter: { subject: say("mine.subject", { business }), body: say("mine.body", { address }) },
    };
  });
}

const proof = (token: string, until: number) => tagFor("link to words", `${token} ${until}`);

/** Where somebody's own words are until an instant; nobody can make up another. */
export const pathToWords = (token: string, until: number): string =>
  `/a/${token}/mine?until=${until}&key=${proof(token, until)}`;

/** Whether an address to somebody's words is one of ours and still works. */
export function mayReachWords(token: string, query: URLSearchParams, now: number): boolean {
  const until = Number(query.get("until"));
  return Number.isSafeInteger(until) && now < until && sameSecret(query.get("key") ?? "", proof(token, until));
}
