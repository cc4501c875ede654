import { and, asc, eq, gt, isNull, sql } from "drizzle-orm";
import { normaliseEmail, suggestEmail } from "@/core/contacts/email";
import type { GatewayReply } from "@/core/contacts/gatewayReply";
import { normalisePhone } from "@/core/contacts/phone";
import { DAY } from "@/core/time/zone";
import { loadContexts, planNext, reopenEndedAsk } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting } from "@/features/clients";
import type { Person } from "@/features/people";
import { correctPerson } from "@/features/people";
import { reexamineVisits } from "@/features/visits";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";

/**
 * Addresses that came back, or look mistyped: gathered, with what was probably meant, and mended one after the other.
 */

export type InvalidAddress = {
  person: Person;
  channel: "email" | "text";
  address: string;
  /** It came back; else it only looks mistyped. */
  isBack: boolean;
  /** What the other side answered, where that is known. */
  why: GatewayReply | null;
  suggestion: string | null;
};

/** How often each mail domain occurs among a client's people. */
export async function knownDomains(tx: Tx, scope: Scope): Promise<Map<string, number>> {
  const { rows } = await tx.execute(sql`
    select split_part(email, '@', 2) as domain, count(*)::int as n from (
      select email from people where client_id = ${scope.clientId} and email is not null order by id desc limit 20000
    ) p group by 1 order by 2 desc limit 500`);
  return new Map(rows.map(({ domain, n }) => [String(domain), Number(n)]));
}

/** What has to be mended, those that came back first: at most `most`, after the person `after`. */
export async function findInvalidAddresses(
  tx: Tx,
  scope: Scope,
  after: string | null = null,
  most = 50,
): Promise<InvalidAddress[]> {
  const domains = await knownDomains(tx, scope);
  const own = and(eq(people.clientId, scope.clientId), isNull(people.mergedInto), isNull(people.erasedAt));
  const back = await tx
    .select()
    .from(people)
    .where(
      and(
        own,
        sql`(${people.emailBouncedAt} is not null or ${people.textBouncedAt} is not null)`,
        after ? gt(people.id, after) : undefined,
      ),
    )
    .orderBy(asc(people.id))
    .limit(most);
  const found = back.flatMap((person): InvalidAddress[] => [
    ...(person.emailBouncedAt && person.email
      ? [
          {
            person,
            channel: "email" as const,
            address: person.email,
            why: person.emailBouncedWhy,
            isBack: true,
            suggestion: suggestEmail(person.email, domains),
          },
        ]
      : []),
    ...(person.textBouncedAt && person.phone
      ? [
          {
            person,
            channel: "text" as const,
            address: person.phone,
            why: person.textBouncedWhy,
            isBack: true,
            suggestion: null,
          },
        ]
      : []),
  ]);
  if (found.length >= most || after) return found;
  return [...found, ...(await findSlips(tx, scope, domains, most - found.length))];
}

/** Addresses at rare domains that lie one slip away from a frequent one, and that nobody has written to yet. */
async function findSlips(tx: Tx, scope: Scope, domains: Map<string, number>, most: number): Promise<InvalidAddress[]> {
  const slips = [...domains].flatMap(([domain, n]) => (n < 20 && suggestEmail(`x@${domain}`, domains) ? [domain] : []));
  if (slips.length === 0) return [];
  const rows = await tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        isNull(people.mergedInto),
        isNull(people.erasedAt),
        isNull(people.emailBouncedAt),
        sql`${people.id} in (select id from estima_people_at_domains(${sql.param(slips)}::text[], ${most}))`,
      ),
    )
    .limit(most);
  return rows.flatMap((person) =>
    person.email
      ? [
          {
            person,
            channel: "email" as const,
            address: person.email,
            why: null,
            isBack: false,
            suggestion: suggestEmail(person.email, domains),
          },
        ]
      : [],
  );
}

/** How many addresses came back. */
export async function countInvalidAddresses(tx: Tx, scope: Scope): Promise<number> {
  const [row] = await rowsIn<{ n: string }>(
    tx,
    sql`select count(*) as n from people where client_id = ${scope.clientId} and (email_bounced_at is not null or text_bounced_at is not null) and merged_into is null and erased_at is null`,
  );
  return Number(row.n);
}

export type MendResult = { ok: true; goesOn: number; person: Person } | { ok: false; message: string };

/**
 * Gives a person a right address: it has neither bounced nor been tried. Asks that ended because nobody could be
 * reached, and visits that were left out for it while still fresh, go on.
 */
export async function correctAddress(
  tx: Tx,
  scope: Scope,
  id: string,
  channel: "email" | "text",
  typed: string,
  who: string,
  now: number,
): Promise<MendResult> {
  const setting = await loadSetting(tx);
  const [person] = await tx
    .select()
    .from(people)
    .where(
      and(eq(people.clientId, scope.clientId), eq(people.id, id), isNull(people.mergedInto), isNull(people.erasedAt)),
    )
    .for("update");
  if (!person) return { ok: false, message: "This person no longer exists." };
  const email = channel === "email" ? normaliseEmail(typed) : null;
  const phone = channel === "text" ? normalisePhone(typed, setting.client.country) : null;
  if (channel === "email" && !email)
    return { ok: false, message: "That isn’t an email address. It should look like odette@post.example." };
  if (channel === "text" && !phone)
    return { ok: false, message: "That isn’t a phone number. Check for missing or extra digits." };
  const change: Partial<Person> = email
    ? { email, emailBouncedAt: null, emailBouncedWhy: null }
    : {
        phone: phone?.number ?? null,
        phoneTakesTexts: phone?.canText ?? false,
        textBouncedAt: null,
        textBouncedWhy: null,
      };
  const before = channel === "email" ? person.email : person.phone;
  const mended = channel === "email" ? email : phone?.number;
  // The source of the wrong address may say it again: it is remembered as wrong.
  if (before && before !== mended) change.wrongAddresses = [...new Set([...person.wrongAddresses, before])].slice(-10);
  const after = await correctPerson(tx, scope, id, change);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "corrected address",
    subject: "person",
    subjectId: id,
    details: { channel },
  });
  return { ok: true, goesOn: await goOn(tx, scope, [id], now), person: after };
}

/**
 * Lets asks go on that ended for want of an address, and visits be looked at again that were left out for it. Gives
 * how many.
 */
export async function goOn(tx: Tx, scope: Scope, personIds: string[], now: number): Promise<number> {
  const wards = await tx
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), sql`${people.guardianId} = any(${sql.param(personIds)}::uuid[])`));
  const ids = [...personIds, ...wards.map(({ id }) => id)];
  const list = sql`any(${sql.param(ids)}::uuid[])`;
  const looked = await reexamineVisits(
    tx,
    scope,
    ids,
    and(
      sql`${visits.reason} in ('address bounced', 'no reachable address', 'minor without guardian')`,
      gt(visits.endsAt, now - 60 * DAY),
    ),
    now,
  );
  const ended = await tx
    .select({ id: asks.id, personId: asks.personId })
    .from(asks)
    .where(
      and(
        eq(asks.clientId, scope.clientId),
        sql`${asks.personId} = ${list}`,
        eq(asks.ended, "unreachable"),
        isNull(asks.stop),
        gt(asks.anchorAt, now - 60 * DAY),
      ),
    )
    .orderBy(sql`${asks.createdAt} desc`);
  // One ask of a person at a time.
  const latest = [...new Map(ended.reverse().map((ask) => [ask.personId, ask.id])).values()];
  let reopened = 0;
  for (const askId of latest) {
    if (!(await reopenEndedAsk(tx, scope, askId))) continue;
    const contexts = await loadContexts(tx, scope, [askId], true);
    await planNext(tx, scope, await loadSetting(tx), contexts, now);
    reopened += 1;
  }
  return reopened + looked;
}
