import { and, desc, eq, like, sql } from "drizzle-orm";
import { v5 } from "uuid";
import { backoff, MOST_ATTEMPTS } from "@/core/asks/nextStep";
import { type NoticeContent, noticePath } from "@/core/notices/notice";
import { sayWhen } from "@/core/time/say";
import { loadSetting, senderOf } from "@/features/clients";
import { noticeMail } from "@/locales/operations";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { log } from "@/platform/log";
import { handOverMail } from "@/platform/mail";
import { handOverText } from "@/platform/texts";
import { notices } from "@/schema/notices";
import { emailPage, STAFF_FRAME } from "@/ui/emailPage";

/**
 * Emails to those who look after a client. A notice is a row, written in the transaction of what it tells; the worker
 * hands it over. Killed on the way, another worker hands it over again with the same Message-IDs, by which a mail
 * server knows a repeat.
 */

export type Notice = typeof notices.$inferSelect;

/** Tells it once: what was told about the same thing before is not told again. */
export async function enqueueNotice(
  tx: Tx,
  scope: Scope,
  about: string,
  content: NoticeContent,
  now: number,
): Promise<void> {
  await tx
    .insert(notices)
    .values({ about, content, clientId: scope.clientId, createdAt: now, dueAt: now })
    .onConflictDoNothing();
}

/** The last notice about things that begin with these words, or null. */
export async function lastNotice(tx: Tx, scope: Scope, about: string): Promise<Notice | null> {
  const [notice] = await tx
    .select()
    .from(notices)
    .where(and(eq(notices.clientId, scope.clientId), like(notices.about, `${about.replace(/[\\%_]/g, "\\$&")}%`)))
    .orderBy(desc(notices.createdAt))
    .limit(1);
  return notice ?? null;
}

export type NoticeClaim = { clientId: string; noticeId: string };

/** Claims the notices that are due at `at`, for LEASE_SECONDS of real time. */
export async function claimNotices(at: number): Promise<NoticeClaim[]> {
  const rows = await rowsOf<{ client_id: string; notice_id: string }>(
    sql`select * from estima_claim_notices(${new Date(at).toISOString()}, 100, ${environment().LEASE_SECONDS})`,
  );
  return rows.map((row) => ({ clientId: row.client_id, noticeId: row.notice_id }));
}

type Manager = { id: string; name: string; email: string; phone: string | null };

/**
 * Hands a notice over to everybody who may set up the client and was not told yet. Who could not be reached is tried
 * again.
 */
export async function deliverNotice({ clientId, noticeId }: NoticeClaim): Promise<void> {
  const scope = workFor(clientId);
  const seen = await withClient(scope, async (tx) => {
    const [notice] = await tx
      .select()
      .from(notices)
      .where(and(eq(notices.clientId, clientId), eq(notices.id, noticeId)));
    return {
      notice,
      setting: await loadSetting(tx),
      keepers: await rowsIn<Manager>(tx, sql`select * from estima_managers()`),
    };
  });
  const { notice, keepers } = seen;
  const { client } = seen.setting;
  if (!notice?.dueAt) return;
  const link = `${environment().APP_URL}/c/${client.slug}${noticePath(notice.content)}`;
  const mail = noticeMail(notice.content, client, notice.createdAt);
  const told = [...notice.told];
  let isDeferred = false;
  for (const keeper of keepers) {
    const mailbox = `${keeper.name} <${keeper.email}>`;
    if (told.includes(mailbox)) continue;
    const words = `Hello ${keeper.name.split(" ")[0]},\n\n${mail.words} ${link}`;
    const page = await emailPage(words, {
      business: client.name,
      colour: client.colour,
      postalAddress: client.postalAddress,
      link,
      ...STAFF_FRAME,
    });
    const handed = await handOverMail({
      id: v5(keeper.id, notice.id),
      from: { name: `Estima for ${client.name}`, address: senderOf(seen.setting).address },
      to: keeper.email,
      replyTo: client.senderEmail,
      subject: mail.subject,
      ...page,
    });
    if (handed.kind === "sent") told.push(mailbox);
    else if (handed.kind === "deferred") isDeferred = true;
    else log.error({ noticeId, ...handed.reply }, "notice refused");
  }
  for (const keeper of keepers) {
    const number = `${keeper.name} <${keeper.phone}>`;
    if (!keeper.phone || told.includes(number)) continue;
    const body = `${client.name}: ${mail.subject}. ${link}`;
    const handed = await handOverText({ id: v5(number, notice.id), from: client.textNumber, to: keeper.phone, body });
    if (handed.kind === "sent") told.push(number);
    else if (handed.kind === "deferred") isDeferred = true;
    else log.error({ noticeId, ...handed.reply }, "notice refused");
  }
  const now = await clockNow();
  const attempts = notice.attempts + 1;
  const dueAt = isDeferred && attempts < MOST_ATTEMPTS ? now + backoff(attempts, Math.random()) : null;
  await withClient(scope, (tx) =>
    tx
      .update(notices)
      .set({ attempts, dueAt, claimedUntil: null, ...(told.length > 0 ? { told, toldAt: notice.toldAt ?? now } : {}) })
      .where(and(eq(notices.clientId, clientId), eq(notices.id, noticeId))),
  );
}

/** " Maud Vane and Ada Finch were told by email on Tue 24 Nov, 14:05.", or nothing. */
export function sayTold(notice: Notice | null, zone: string, now: number): string {
  if (!notice?.toldAt) return "";
  const names = [...new Set(notice.told.map((one) => one.slice(0, one.lastIndexOf(" <"))))];
  const ways = [
    notice.told.some((one) => one.includes("@")) ? "by email" : null,
    notice.told.some((one) => one.includes("<+")) ? "by text" : null,
  ].filter((way) => way !== null);
  return ` ${new Intl.ListFormat("en-GB").format(names)} ${names.length === 1 ? "was" : "were"} notified ${ways.join(" and ")} ${sayWhen(zone, notice.toldAt, now)}.`;
}
