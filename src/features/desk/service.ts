import { createHash } from "node:crypto";
import { and, desc, eq, isNull, lt, sql } from "drizzle-orm";
import { z } from "zod";
import { DAY, MINUTE } from "@/core/time/zone";
import { typedText } from "@/core/words/typed";
import { recordAudit } from "@/features/audit";
import { PHONE_USER } from "@/platform/access";
import { auth } from "@/platform/auth";
import { realTime } from "@/platform/clock";
import { database, rowsIn, rowsOf, type Scope, type Tx, withClient } from "@/platform/database";
import { hashPassword, verifyPassword } from "@/platform/passwords";
import { newToken } from "@/platform/secrets";
import { accounts, users } from "@/schema/accounts";
import { newId } from "@/schema/columns";
import { deskTries, sharedPhones } from "@/schema/desk";

/** Phones that a client's staff share: each signed in as itself, for as long as a manager allows. */

export type SharedPhone = typeof sharedPhones.$inferSelect;

/** How long the link that signs a phone in is good. */
export const LINK_MINUTES = 15;

export const DAYS_ALLOWED = [7, 30, 90, 365] as const;

export const phoneInput = z.object({
  name: typedText(40, "Enter a name for the phone.", "the name"),
  branchId: z.union([z.literal("").transform(() => null), z.uuid()]),
  days: z.coerce
    .number()
    .refine((days) => (DAYS_ALLOWED as readonly number[]).includes(days), "Choose how long it stays signed in."),
});

const hashOf = (token: string) => createHash("sha256").update(token).digest("hex");

export function listPhones(tx: Tx, scope: Scope): Promise<SharedPhone[]> {
  return tx
    .select()
    .from(sharedPhones)
    .where(eq(sharedPhones.clientId, scope.clientId))
    .orderBy(desc(sharedPhones.createdAt), sharedPhones.id);
}

/** Adds a phone, and the user as whom it signs in. Gives the token of its link, which is nowhere else. */
export async function addPhone(
  scope: Scope,
  who: string,
  it: z.output<typeof phoneInput>,
  now: number,
): Promise<string> {
  const id = newId();
  const userId = `${PHONE_USER}${id}`;
  const token = newToken(24);
  await withClient(scope, async (tx) => {
    await tx.insert(users).values({ id: userId, name: it.name, email: `${userId}@phones.invalid` });
    await tx.insert(sharedPhones).values({
      id,
      clientId: scope.clientId,
      name: it.name,
      branchId: it.branchId,
      userId,
      until: now + it.days * DAY,
      by: who,
      createdAt: now,
      linkHash: hashOf(token),
      linkExpiresAt: realTime() + LINK_MINUTES * MINUTE,
    });
    await noted(tx, scope, who, "added", id, it.name, now);
  });
  return token;
}

const noted = (tx: Tx, scope: Scope, who: string, action: "added" | "removed", id: string, name: string, now: number) =>
  recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action,
    subject: "shared phone",
    subjectId: id,
    details: { name },
  });

/** Takes a phone's access away at once. False where it is gone already. */
export async function removePhone(scope: Scope, who: string, id: string, now: number): Promise<boolean> {
  return withClient(scope, async (tx) => {
    const [phone] = await tx
      .delete(sharedPhones)
      .where(and(eq(sharedPhones.clientId, scope.clientId), eq(sharedPhones.id, id)))
      .returning();
    if (!phone) return false;
    // With the user go its sessions.
    await tx.delete(users).where(eq(users.id, phone.userId));
    await noted(tx, scope, who, "removed", id, phone.name, now);
    return true;
  });
}

/** Signs the phone in that opens a link, once. False for a link that was used, has run out or never was. */
export async function signPhoneIn(token: string, headers: Headers): Promise<boolean> {
  const [row] = await rowsOf<{ client_id: string; phone_id: string; user_id: string }>(
    sql`select * from estima_phone_link(${hashOf(token)}, ${new Date(realTime()).toISOString()})`,
  );
  if (!row) return false;
  const scope: Scope = { clientId: row.client_id };
  // The library signs in by a password: one that nobody knows, and that holds for this once.
  const password = newToken(40);
  const hash = await hashPassword(password);
  const isFirst = await withClient(scope, async (tx) => {
    const taken = await tx
      .update(sharedPhones)
      .set({ linkHash: null, linkExpiresAt: null, openedAt: realTime() })
      .where(and(eq(sharedPhones.id, row.phone_id), eq(sharedPhones.linkHash, hashOf(token))));
    if (!taken.rowCount) return false;
    await tx.delete(accounts).where(eq(accounts.userId, row.user_id));
    await tx.insert(accounts).values({
      id: newId(),
      accountId: row.user_id,
      providerId: "credential",
      userId: row.user_id,
      password: hash,
    });
    return true;
  });
  if (!isFirst) return false;
  await (await auth()).api.signInEmail({ body: { email: `${row.user_id}@phones.invalid`, password }, headers });
  await database().update(accounts).set({ password: null }).where(eq(accounts.userId, row.user_id));
  return true;
}

export const codeInput = z.string().regex(/^\d{4}$/, "Enter four digits.");

/** Codes that everybody tries first. */
const EASY = new Set(["0000", "1111", "2222", "3333", "4444", "5555", "6666", "7777", "8888", "9999", "1234", "4321"]);

/** Sets the four digits by which somebody says who they are on a shared phone; false for those that anybody guesses. */
export async function setDeskCode(userId: string, code: string | null): Promise<boolean> {
  if (code !== null && EASY.has(code)) return false;
  await database()
    .update(users)
    .set({ deskCode: code === null ? null : await hashPassword(code) })
    .where(eq(users.id, userId));
  return true;
}

/** Whether somebody has set four digits. */
export async function hasDeskCode(userId: string): Promise<boolean> {
  const [user] = await database().select({ code: users.deskCode }).from(users).where(eq(users.id, userId));
  return Boolean(user?.code);
}

/** Who can say on a shared phone of the client who they are. */
export async function peopleAtPhone(tx: Tx): Promise<{ id: string; name: string }[]> {
  const rows = await rowsIn<{ id: string; name: string }>(tx, sql`select id, name from estima_people_at_phone()`);
  return rows.map(({ id, name }) => ({ id, name }));
}

/** After how many wrong tries someone's digits count no more on a phone. */
export const TRIES_AT_PHONE = 5;

export type SaidWho = "right" | "wrong" | "locked" | "locked now";

/**
 * Checks the four digits that were typed for someone on a shared phone. Each try counts before it is checked, so that
 * many at the same time are no way round the limit; after five wrong ones their digits count no more on this phone until
 * they sign in somewhere else ({@link unlockDigits}).
 */
export async function checkDigits(scope: Scope, phoneUser: string, userId: string, code: string): Promise<SaidWho> {
  const [person] = await withClient(scope, (tx) =>
    rowsIn<{ code: string }>(tx, sql`select code from estima_people_at_phone() where id = ${userId}`),
  );
  if (!person) return "wrong";
  const counted = await withClient(scope, async (tx) => {
    const [phone] = await tx
      .select({ id: sharedPhones.id })
      .from(sharedPhones)
      .where(and(eq(sharedPhones.clientId, scope.clientId), eq(sharedPhones.userId, phoneUser)));
    if (!phone) return null;
    const [row] = await tx
      .insert(deskTries)
      .values({ clientId: scope.clientId, phoneId: phone.id, userId, wrong: 1 })
      .onConflictDoUpdate({
        target: [deskTries.phoneId, deskTries.userId],
        set: { wrong: sql`${deskTries.wrong} + 1` },
        setWhere: lt(deskTries.wrong, TRIES_AT_PHONE),
      })
      .returning({ wrong: deskTries.wrong });
    return row ? { phoneId: phone.id, wrong: row.wrong } : null;
  });
  if (!counted) return "locked";
  const own = and(
    eq(deskTries.clientId, scope.clientId),
    eq(deskTries.phoneId, counted.phoneId),
    eq(deskTries.userId, userId),
  );
  if (await verifyPassword({ hash: person.code, password: code })) {
    // Not where wrong tries that came at the same time have locked it meanwhile.
    const isIn = await withClient(
      scope,
      async (tx) => (await tx.delete(deskTries).where(and(own, isNull(deskTries.lockedAt)))).rowCount,
    );
    return isIn ? "right" : "locked";
  }
  if (counted.wrong < TRIES_AT_PHONE) return "wrong";
  await withClient(scope, (tx) => tx.update(deskTries).set({ lockedAt: realTime() }).where(own));
  return "locked now";
}

/** Someone signed in with their password: their digits count again on every phone. */
export async function unlockDigits(userId: string): Promise<void> {
  await rowsOf(sql`select estima_unlock_digits(${userId})`);
}
