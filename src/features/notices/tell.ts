import { and, desc, eq, sql } from "drizzle-orm";
import { v5 } from "uuid";
import { backoff, MOST_ATTEMPTS } from "@/core/asks/nextStep";
import { splitQuoted } from "@/core/conversations/quoted";
import {
  isRemindedAt,
  isTold,
  isUrgent,
  type Matter,
  startChoice,
  TOLD_CHOICE,
  type ToldChoice,
  type ToldWay,
  toldAt,
} from "@/core/notices/choices";
import { type Told, toldPath } from "@/core/notices/told";
import { gravityOf, isAllegation } from "@/core/replies/gravity";
import { loadSetting, senderOf } from "@/features/clients";
import { type ToldSeen, toldMail } from "@/locales/told";
import { now as clockNow } from "@/platform/clock";
import { rowsIn, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { log } from "@/platform/log";
import { handOverMail } from "@/platform/mail";
import { handOverText } from "@/platform/texts";
import { newId } from "@/schema/columns";
import { tellings, toldChoices } from "@/schema/tellings";
import { emailPage, STAFF_FRAME } from "@/ui/emailPage";
import { rightsAt, type Staff, staffOf } from "./staff";

/**
 * Each person is told what they chose, when they chose it, and each matter once. What is due together is one message;
 * it is looked up when it is told, and what is settled by then is not told any more.
 */

export type Telling = typeof tellings.$inferSelect;

/** What somebody has chosen, or begins with. */
export async function choiceOf(
  tx: Tx,
  scope: Scope,
  who: Pick<Staff, "id" | "permissions" | "isOfAgency">,
): Promise<ToldChoice> {
  const [row] = await tx
    .select()
    .from(toldChoices)
    .where(and(eq(toldChoices.clientId, scope.clientId), eq(toldChoices.userId, who.id)));
  return completed(who, row?.choice);
}

/** A choice as it counts: what was never chosen is as somebody of these rights begins. */
function completed(who: Pick<Staff, "permissions" | "isOfAgency">, choice: ToldChoice | undefined): ToldChoice {
  return TOLD_CHOICE.parse({ ...startChoice(who, who.isOfAgency), ...choice });
}

/** Keeps what somebody chose. */
export async function keepChoice(tx: Tx, scope: Scope, userId: string, choice: ToldChoice, now: number): Promise<void> {
  const set = { choice, changedAt: now };
  await tx
    .insert(toldChoices)
    .values({ ...set, clientId: scope.clientId, userId })
    .onConflictDoUpdate({ target: [toldChoices.clientId, toldChoices.userId], set });
}

/** What there is to tell of; `ownerId` has taken a concern that is reminded of. */
export type Tellable = { about: string; matter: Matter; told: Told; ownerId?: string | null };

/** Tells everybody whose matters these are, each in their time; nobody twice of one. */
export async function tell(tx: Tx, scope: Scope, list: readonly Tellable[], now: number): Promise<void> {
  if (list.length === 0) return;
  const staff = await staffOf(tx);
  if (staff.length === 0) return;
  const chosen = await tx.select().from(toldChoices).where(eq(toldChoices.clientId, scope.clientId));
  const { client } = await loadSetting(tx);
  const rows: (typeof tellings.$inferInsert)[] = [];
  for (const one of staff) {
    const choice = completed(one, chosen.find(({ userId }) => userId === one.id)?.choice);
    for (const { about, matter, told, ownerId } of list) {
      const rights = rightsAt(one, matter.branchId);
      if (!isTold(choice, rights, matter)) continue;
      const who = { isOwner: ownerId === one.id, hasOwner: Boolean(ownerId), isOfAgency: one.isOfAgency, rights };
      if (matter.kind === "reminder" && !isRemindedAt(matter.stage, who)) continue;
      // A reminder that nobody would be sent is no reminder, nor is an allegation that waits for the morning's summary.
      const isPressing = matter.kind === "reminder" || isUrgent(matter);
      const ways = isPressing && !choice.ways.some((way) => way !== "browser") ? ["email"] : choice.ways;
      const at = isUrgent(matter) ? now : toldAt(choice, client.zone, now);
      const dueAt = ways.some((way) => way !== "browser") ? at : null;
      rows.push({ clientId: scope.clientId, userId: one.id, about, told, createdAt: now, dueAt });
    }
  }
  if (rows.length > 0) await tx.insert(tellings).values(rows).onConflictDoNothing();
}

export type TellingClaim = { clientId: string; userId: string };

/** Claims whom something is due for at `at`, for LEASE_SECONDS of real time. */
export async function claimTellings(at: number): Promise<TellingClaim[]> {
  const rows = await rowsOf<{ client_id: string; user_id: string }>(
    sql`select * from estima_claim_tellings(${new Date(at).toISOString()}, 200, ${environment().LEASE_SECONDS})`,
  );
  return rows.map((row) => ({ clientId: row.client_id, userId: row.user_id }));
}

/** Tells somebody all that is due for them, in one message by each of their ways. */
export async function deliverTellings({ clientId, userId }: TellingClaim): Promise<void> {
  const scope = workFor(clientId);
  const now = await clockNow();
  const seen = await withClient(scope, async (tx) => {
    const mine = and(eq(tellings.clientId, clientId), eq(tellings.userId, userId));
    // What was begun goes out as it was; else what is due by now is one message.
    const due = await tx
      .select()
      .from(tellings)
      .where(and(mine, sql`${tellings.dueAt} <= ${new Date(now).toISOString()}`))
      .orderBy(tellings.createdAt, tellings.id)
      .for("update");
    const batchId = due.find((one) => one.batchId !== null)?.batchId ?? newId();
    const begun = due.filter((one) => one.batchId === batchId);
    const batch = begun.length > 0 ? begun : due;
    const who = (await staffOf(tx)).find(({ id }) => id === userId) ?? null;
    const open: { telling: Telling; seen: ToldSeen }[] = [];
    for (const telling of batch) {
      const found = who && (await lookUp(tx, scope, telling.told, now));
      if (found) open.push({ telling, seen: found });
      else await tx.update(tellings).set({ dueAt: null }).where(eq(tellings.id, telling.id));
    }
    for (const { telling } of open) await tx.update(tellings).set({ batchId }).where(eq(tellings.id, telling.id));
    return { who, open, batchId, setting: await loadSetting(tx), choice: who && (await choiceOf(tx, scope, who)) };
  });
  const { who, open, batchId, setting, choice } = seen;
  if (!who || !choice || open.length === 0) return;
  const { client } = setting;
  const base = `${environment().APP_URL}/c/${client.slug}`;
  const links = open.map(({ telling }) => `${base}${toldPath(telling.told)}`);
  const mail = toldMail(
    open.map(({ seen }, index) => ({ ...seen, link: links[index] })),
    { client: client.name, zone: client.zone, now, choices: `${base}/heard/told` },
  );
  const ways: readonly ToldWay[] = choice.ways.length > 0 ? choice.ways : ["email"];
  const told = new Set(open[0].telling.ways);
  let isDeferred = false;
  if (ways.includes("email") && !told.has("email")) {
    const page = await emailPage(`Hello ${who.name.split(" ")[0]},\n\n${mail.words}`, {
      business: client.name,
      colour: client.colour,
      postalAddress: client.postalAddress,
      link: links[0],
      ...STAFF_FRAME,
    });
    const handed = await handOverMail({
      id: v5(who.id, batchId),
      from: { name: `Estima for ${client.name}`, address: senderOf(setting).address },
      to: who.email,
      replyTo: client.senderEmail,
      subject: mail.subject,
      ...page,
    });
    if (handed.kind === "sent") told.add("email");
    else if (handed.kind === "deferred") isDeferred = true;
    else log.error({ batchId, ...handed.reply }, "notice refused");
  }
  if (ways.includes("text") && who.phone && !told.has("text")) {
    const body = `${client.name}: ${mail.subject}. ${links.length === 1 ? links[0] : `${base}/heard`}`;
    const handed = await handOverText({
      id: v5(`${who.id} text`, batchId),
      from: client.textNumber,
      to: who.phone,
      body,
    });
    if (handed.kind === "sent") told.add("text");
    else if (handed.kind === "deferred") isDeferred = true;
    else log.error({ batchId, ...handed.reply }, "notice refused");
  }
  await withClient(scope, async (tx) => {
    for (const { telling } of open) {
      const attempts = telling.attempts + 1;
      await tx
        .update(tellings)
        .set({
          attempts,
          claimedUntil: null,
          ways: [...told],
          dueAt: isDeferred && attempts < MOST_ATTEMPTS ? now + backoff(attempts, Math.random()) : null,
          ...(told.size > 0 ? { toldAt: telling.toldAt ?? now } : {}),
        })
        .where(eq(tellings.id, telling.id));
    }
  });
}

/** A matter as it stands now; null where it is settled, or not there any more. */
async function lookUp(tx: Tx, scope: Scope, told: Told, now: number): Promise<ToldSeen | null> {
  if (told.code === "site") return { ...told };
  if (told.code === "conversation") return lookUpConversation(tx, scope, told.conversationId, now);
  if (told.code === "concern" || told.code === "reminder") {
    const [row] = await rowsIn<{
      who: string;
      words: string;
      rating: number | null;
      branch: string;
      answer_by: string;
      taken_by: string | null;
      settled: boolean;
    }>(
      tx,
      sql`select coalesce(trim(p.given || ' ' || p.family), '') as who, c.rating, b.name as branch, c.answer_by,
          coalesce(nullif(c.words, ''), (select string_agg(m.value, ' · ') from answers x, jsonb_each_text(x.more) m
            where x.client_id = c.client_id and x.id = c.answer_id), '') as words, c.taken_by,
          (c.answered_at is not null or c.state = 'closed') as settled
        from concerns c join branches b on b.id = c.branch_id left join people p on p.id = c.person_id
        where c.client_id = ${scope.clientId} and c.id = ${told.concernId}`,
    );
    if (!row || row.settled) return null;
    const { who, words, rating, branch } = row;
    const by = {
      who,
      words,
      rating,
      branch,
      answerBy: new Date(row.answer_by).getTime(),
      takenBy: row.taken_by,
      isUrgent: gravityOf(words, true) === "allegation",
    };
    return told.code === "concern" ? { code: "concern", ...by } : { code: "reminder", stage: told.stage, ...by };
  }
  if (told.code === "note") return lookUpNote(tx, scope, told.answerId);
  const [row] = await rowsIn<{
    who: string;
    words: string;
    branch: string;
    site: string;
    rating: number;
    own_rating: number;
    scale: "five";
    state: string;
    reply: string | null;
    drafted_by: string | null;
    gone: boolean;
  }>(
    tx,
    sql`select r.author as who, r.words, b.name as branch, l.site, r.rating, r.own_rating, r.scale, r.reply_state as state, r.reply,
        r.reply_drafted_by as drafted_by, r.deleted_at is not null as gone
      from reviews r join listings l on l.id = r.listing_id join branches b on b.id = r.branch_id
      where r.client_id = ${scope.clientId} and r.id = ${told.reviewId}`,
  );
  if (!row || row.gone) return null;
  const { who, words, branch, site, own_rating: value, scale } = row;
  if (told.code === "approval")
    return row.state === "awaits approval"
      ? { code: "approval", who, branch, site, reply: row.reply ?? "", draftedBy: row.drafted_by }
      : null;
  return row.state === "posted" || row.state === "posting" || row.state === "set aside"
    ? null
    : { code: "review", who, words, branch, site, value, scale, isUrgent: isAllegation(words, row.rating) };
}

/** A private note of a happy customer, while nobody has read it. */
async function lookUpNote(tx: Tx, scope: Scope, id: string): Promise<ToldSeen | null> {
  const [row] = await rowsIn<{ who: string; words: string; rating: number | null; branch: string }>(
    tx,
    sql`select coalesce(trim(p.given || ' ' || p.family), '') as who, a.rating, b.name as branch,
        coalesce(nullif(a.words, ''), (select string_agg(m.value, ' · ') from jsonb_each_text(a.more) m), '') as words
      from answers a join branches b on b.id = a.branch_id left join people p on p.id = a.person_id
      where a.client_id = ${scope.clientId} and a.id = ${id} and a.read_at is null and not a.is_doubtful`,
  );
  return row && row.words !== "" ? { code: "note", ...row } : null;
}

/** What somebody wrote last, while it waits for an answer. */
async function lookUpConversation(tx: Tx, scope: Scope, id: string, now: number): Promise<ToldSeen | null> {
  const [row] = await rowsIn<{ who: string; words: string; channel: "text" | "email" }>(
    tx,
    sql`select coalesce(nullif(trim(p.given || ' ' || p.family), ''), v.address, '') as who, coalesce(m.body, '') as words, v.channel
      from conversations v left join people p on p.id = v.person_id
      left join lateral (select x.body from messages x where x.client_id = v.client_id and x.direction = 'in'
        and (x.person_id = v.person_id or x.conversation_id = v.id) order by x.created_at desc limit 1) m on true
      where v.client_id = ${scope.clientId} and v.id = ${id} and v.waiting_since is not null
        and (v.aside_until is null or v.aside_until <= ${new Date(now).toISOString()})`,
  );
  return row ? { code: "conversation", ...row, words: splitQuoted(row.words).words } : null;
}

/** What somebody was told lately, the latest first. */
export async function recentTellings(
  tx: Tx,
  scope: Scope,
  userId: string,
  most: number,
): Promise<(Telling & { seen: ToldSeen | null })[]> {
  const rows = await tx
    .select()
    .from(tellings)
    .where(and(eq(tellings.clientId, scope.clientId), eq(tellings.userId, userId)))
    .orderBy(desc(tellings.createdAt))
    .limit(most);
  const found: (Telling & { seen: ToldSeen | null })[] = [];
  const now = await clockNow();
  for (const row of rows) found.push({ ...row, seen: await lookUp(tx, scope, row.told, now) });
  return found;
}
