import Bowser from "bowser";
import { and, desc, eq, gt } from "drizzle-orm";
import { z } from "zod";
import { normalisePhone } from "@/core/contacts/phone";
import { HOUR } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { typedEmail, typedText } from "@/core/words/typed";
import { sendAccountMail } from "@/features/clients";
import { auth } from "@/platform/auth";
import { realTime } from "@/platform/clock";
import { codeOf, database } from "@/platform/database";
import { environment } from "@/platform/environment";
import { newToken } from "@/platform/secrets";
import { sessions, users } from "@/schema/accounts";

/** What people say of themselves: their name, how to reach them, and where they are signed in. */

export const profileInput = z.object({
  name: typedText(80, "Enter your name.", "your name"),
  replyName: z
    .string()
    .transform(cleanText)
    .pipe(z.string().trim().max(60, "Keep this under 60 characters."))
    .transform((text) => text || null),
  phone: z
    .string()
    .max(60)
    .transform((text, context) => {
      if (!text.trim()) return null;
      const phone = normalisePhone(text, "GB");
      if (phone && text.trim().startsWith("+") && phone.canText) return phone.number;
      context.addIssue({
        code: "custom",
        message: "Enter a mobile number with its country code, like +44 7700 900123.",
      });
      return z.NEVER;
    }),
});

export type Profile = { name: string; email: string; phone: string | null; replyName: string | null };

export async function loadProfile(userId: string): Promise<Profile> {
  const [user] = await database()
    .select({ name: users.name, email: users.email, phone: users.phone, replyName: users.replyName })
    .from(users)
    .where(eq(users.id, userId));
  return user;
}

export async function saveProfile(userId: string, it: z.output<typeof profileInput>): Promise<void> {
  await database().update(users).set(it).where(eq(users.id, userId));
}

export const addressInput = z.object({ email: typedEmail });

/** For how long a link that confirms a new address is good. */
export const ADDRESS_HOURS = 2;

const identifierOf = (token: string) => `change-address:${token}`;

/**
 * Mails a link to the new address; the old one counts until the link is followed and confirmed. Says nothing about
 * whether somebody else has an account of the new address: then the mail says so instead.
 */
export async function askForAddress(user: { id: string; name: string; email: string }, email: string): Promise<void> {
  const { internalAdapter } = await (await auth()).$context;
  const isTaken = Boolean(await internalAdapter.findUserByEmail(email, { includeAccounts: false }));
  const token = newToken(32);
  if (isTaken) {
    const mail = { code: "address taken", email: user.email } as const;
    await sendAccountMail(
      token.slice(0, 12),
      { name: user.name, email },
      null,
      mail,
      `${environment().APP_URL}/sign-in`,
    );
    return;
  }
  await internalAdapter.createVerificationValue({
    identifier: identifierOf(token),
    value: JSON.stringify({ userId: user.id, email }),
    expiresAt: new Date(realTime() + ADDRESS_HOURS * HOUR),
  });
  await sendAccountMail(
    token.slice(0, 12),
    { name: user.name, email },
    null,
    { code: "address", hours: ADDRESS_HOURS },
    `${environment().APP_URL}/account/address/${token}`,
  );
}

/**
 * Makes a new address that of its owner, and tells the old one. False for a link that was used, has run out, is
 * somebody else's, or whose address got an account meanwhile.
 */
export async function confirmAddress(
  user: { id: string; name: string; email: string },
  token: string,
): Promise<boolean> {
  const { internalAdapter } = await (await auth()).$context;
  const found = await internalAdapter.findVerificationValue(identifierOf(token));
  if (!found || found.expiresAt.getTime() < realTime()) return false;
  const { userId, email } = z.object({ userId: z.string(), email: z.string() }).parse(JSON.parse(found.value));
  if (userId !== user.id) return false;
  // Of two at once one finds it.
  if (!(await internalAdapter.consumeVerificationValue(identifierOf(token)))) return false;
  try {
    await database().update(users).set({ email, emailVerified: true }).where(eq(users.id, userId));
  } catch (error) {
    if (codeOf(error) === "23505") return false;
    throw error;
  }
  await sendAccountMail(
    newToken(12),
    user,
    null,
    { code: "address changed", email },
    `${environment().APP_URL}/sign-in`,
  );
  return true;
}

export type OpenSession = { id: string; device: string; since: number; lastSeen: number };

/** Where somebody is signed in, the latest first. `lastSeen` is exact to a day. */
export async function listSessions(userId: string): Promise<OpenSession[]> {
  const rows = await database()
    .select()
    .from(sessions)
    .where(and(eq(sessions.userId, userId), gt(sessions.expiresAt, new Date(realTime()))))
    .orderBy(desc(sessions.updatedAt), sessions.id);
  return rows.map(({ id, userAgent, createdAt, updatedAt }) => ({
    id,
    device: deviceOf(userAgent),
    since: createdAt.getTime(),
    lastSeen: updatedAt.getTime(),
  }));
}

/** "Firefox on Android": what a browser says of itself. */
export function deviceOf(userAgent: string | null): string {
  if (!userAgent?.trim()) return "An unidentified device";
  const { browser, os } = Bowser.parse(userAgent);
  const names = [browser.name, os.name].filter(Boolean);
  return names.length > 0 ? names.join(" on ") : "An unknown device";
}

/** Ends one of somebody's own sessions: that device is signed out at its next request. */
export async function endSession(userId: string, id: string): Promise<boolean> {
  const ended = await database()
    .delete(sessions)
    .where(and(eq(sessions.userId, userId), eq(sessions.id, id)));
  return (ended.rowCount ?? 0) > 0;
}
