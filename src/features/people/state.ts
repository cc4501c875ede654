import { and, eq, inArray, or, type SQL, sql } from "drizzle-orm";
import type { GatewayReply } from "@/core/contacts/gatewayReply";
import type { OptOutWay } from "@/core/contacts/optOut";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { people } from "@/schema/people";
import type { Person } from "./service";

/**
 * What other features note about people, one function each: only this feature writes the table. Each changes the columns it
 * names and no others. Whoever must see a state unchanged until then locks the rows first (`lockPeopleRows`).
 */

type Channel = "text" | "email";

const ofClient = (scope: Scope, ids: readonly string[]) =>
  and(eq(people.clientId, scope.clientId), inArray(people.id, [...ids]));

const idList = (ids: readonly string[]) => sql`${sql.param([...ids])}::uuid[]`;

/** That a message left for these people at `at`; `isFirst`: the first of an ask. */
export async function recordMessaged(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  at: number,
  isFirst: boolean,
): Promise<void> {
  if (ids.length === 0) return;
  await tx
    .update(people)
    .set({ lastMessageAt: at, ...(isFirst ? { lastAskedAt: at } : {}) })
    .where(and(eq(people.clientId, scope.clientId), sql`${people.id} = any(${idList(ids)})`));
}

/** When the last message reached a person, after one that came back. */
export async function setLastMessage(tx: Tx, scope: Scope, id: string, at: number | null): Promise<void> {
  await tx
    .update(people)
    .set({ lastMessageAt: at })
    .where(ofClient(scope, [id]));
}

/**
 * That an address of these people bounced. With `address`, only of those who still have it. Gives the columns as they
 * are now.
 */
export async function recordBounce(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  it: { channel: Channel; why: GatewayReply; at: number; address?: string },
): Promise<Partial<Person>> {
  const isEmail = it.channel === "email";
  const change = isEmail
    ? { emailBouncedAt: it.at, emailBouncedWhy: it.why }
    : { textBouncedAt: it.at, textBouncedWhy: it.why };
  const has = it.address === undefined ? undefined : eq(isEmail ? people.email : people.phone, it.address);
  await tx
    .update(people)
    .set(change)
    .where(and(ofClient(scope, ids), has));
  return change;
}

/** That these people want nothing more by a channel, and how they said so; null takes it back. */
export async function setOptOut(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  channel: Channel,
  optOut: { at: number; how: OptOutWay } | null,
): Promise<void> {
  const [at, how] = [optOut?.at ?? null, optOut?.how ?? null];
  await tx
    .update(people)
    .set(
      channel === "email"
        ? { emailOptedOutAt: at, emailOptedOutHow: how }
        : { textOptedOutAt: at, textOptedOutHow: how },
    )
    .where(ofClient(scope, ids));
}

/**
 * That a person answered at `at`, how likely they would recommend the business where they said that, and in which
 * language their page was where that is new.
 */
export async function recordAnswered(
  tx: Tx,
  scope: Scope,
  id: string,
  at: number,
  recommend: number | null = null,
  pageLanguage: string | null = null,
): Promise<void> {
  await tx
    .update(people)
    .set({
      lastAnsweredAt: at,
      ...(recommend === null ? {} : { lastRecommend: recommend }),
      ...(pageLanguage === null ? {} : { pageLanguage }),
    })
    .where(ofClient(scope, [id]));
}

/** In which language somebody last used a page of theirs. */
export async function setPageLanguage(tx: Tx, scope: Scope, id: string, language: string): Promise<void> {
  await tx
    .update(people)
    .set({ pageLanguage: language })
    .where(ofClient(scope, [id]));
}

/** Their name, as they write it themselves. */
export async function setName(
  tx: Tx,
  scope: Scope,
  id: string,
  name: { given: string; family: string },
): Promise<void> {
  await tx
    .update(people)
    .set(name)
    .where(ofClient(scope, [id]));
}

/** That a person wrote a review at `at`; an older one changes nothing. */
export async function recordReviewed(tx: Tx, scope: Scope, id: string, at: number): Promise<void> {
  await tx
    .update(people)
    .set({ lastReviewedAt: sql`greatest(${people.lastReviewedAt}, ${new Date(at).toISOString()})` })
    .where(ofClient(scope, [id]));
}

async function changeRows(tx: Tx, scope: Scope, ids: readonly string[], change: SQL, where: SQL): Promise<number> {
  const result = await tx.execute(
    sql`update ${people} set ${change} where client_id = ${scope.clientId} and id = any(${idList(ids)}) and erased_at is null and ${where}`,
  );
  return result.rowCount ?? 0;
}

/** Gives people a tag, or takes it from them. Gives how many have changed. */
export function setTag(tx: Tx, scope: Scope, ids: readonly string[], tag: string, gives: boolean): Promise<number> {
  const change = gives ? sql`array_append(tags, ${tag}::text)` : sql`array_remove(tags, ${tag}::text)`;
  return changeRows(tx, scope, ids, sql`tags = ${change}`, sql`(${tag}::text = any(tags)) <> ${gives}`);
}

/** Puts one tag in the place of another for everybody who has it; null only takes it away. */
export async function replaceTag(tx: Tx, scope: Scope, tag: string, by: string | null): Promise<void> {
  await tx
    .update(people)
    .set({ tags: by ? sql`array_replace(${people.tags}, ${tag}, ${by})` : sql`array_remove(${people.tags}, ${tag})` })
    .where(and(eq(people.clientId, scope.clientId), sql`${people.tags} @> array[${tag}]`));
}

/** Lets people rest until an instant, or ends their rest. Gives how many there are. */
export function setRest(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  until: number | null,
  reason: string | null,
): Promise<number> {
  const at = until === null ? null : new Date(until).toISOString();
  return changeRows(tx, scope, ids, sql`rest_until = ${at}::timestamptz, rest_reason = ${reason}`, sql`true`);
}

/** Says that people are never to be asked and why, or that they may be. Gives how many there are. */
export function setDoNotAsk(tx: Tx, scope: Scope, ids: readonly string[], reason: string | null): Promise<number> {
  return changeRows(tx, scope, ids, sql`do_not_ask = ${reason}`, sql`true`);
}

/** Puts right what is wrong in one person's record; gives it as it is now. */
export async function correctPerson(tx: Tx, scope: Scope, id: string, change: Partial<Person>): Promise<Person> {
  const [after] = await tx
    .update(people)
    .set(change)
    .where(ofClient(scope, [id]))
    .returning();
  return after;
}

/** Puts people, and everybody of these other households, into a household; null takes the people out of theirs. */
export async function setHousehold(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  householdId: string | null,
  others: readonly string[] = [],
): Promise<void> {
  await tx
    .update(people)
    .set({ householdId })
    .where(
      and(
        eq(people.clientId, scope.clientId),
        or(inArray(people.id, [...ids]), sql`${people.householdId} = any(${idList(others)})`),
      ),
    );
}

/** What leads to a record: people whose guardian it is, and records that were merged into it earlier. */
const LINKS = { wards: people.guardianId, earlier: people.mergedInto } as const;
export type PersonLink = keyof typeof LINKS;

/** Lets what leads to one record lead to another. With `only`, only these rows. Gives the rows that did. */
export async function moveLinks(
  tx: Tx,
  scope: Scope,
  link: PersonLink,
  fromId: string,
  toId: string,
  only: readonly string[] | null = null,
): Promise<string[]> {
  const column = LINKS[link];
  const rows = await tx
    .update(people)
    .set({ [link === "wards" ? "guardianId" : "mergedInto"]: toId })
    .where(
      and(
        eq(people.clientId, scope.clientId),
        eq(column, fromId),
        only === null ? sql`${people.id} <> ${toId}` : sql`${people.id} = any(${idList(only)})`,
      ),
    )
    .returning({ id: people.id });
  return rows.map(({ id }) => id);
}

/** Makes a record live on inside another; it gives up its number in the client's books. */
export async function setMergedInto(tx: Tx, scope: Scope, id: string, keptId: string): Promise<void> {
  await tx
    .update(people)
    .set({ mergedInto: keptId, externalId: null })
    .where(ofClient(scope, [id]));
}

/** Says of records that were emptied that they are erased, and takes them from those whose guardians they were. */
export async function setErased(tx: Tx, scope: Scope, ids: readonly string[], at: number): Promise<void> {
  await tx.update(people).set({ erasedAt: at }).where(ofClient(scope, ids));
  await tx
    .update(people)
    .set({ guardianId: null })
    .where(and(eq(people.clientId, scope.clientId), inArray(people.guardianId, [...ids])));
}

/** Deletes people whom a list brought and with whom nothing else has happened. Gives how many. */
export async function deletePeopleOfList(tx: Tx, scope: Scope, intakeId: string): Promise<number> {
  const rows = await rowsIn(
    tx,
    sql`delete from people p where p.client_id = ${scope.clientId} and p.intake_id = ${intakeId}
      and not exists (select 1 from visits v where v.person_id = p.id) and not exists (select 1 from messages m where m.person_id = p.id)
      and not exists (select 1 from people w where w.guardian_id = p.id and w.intake_id is distinct from ${intakeId})
      and not exists (select 1 from merges x where x.kept_id = p.id and x.undone_at is null) returning p.id`,
  );
  return rows.length;
}

/**
 * Reads anew when these people were last here and where: their latest visit that is not cancelled, booked ones included.
 * Whoever has none keeps the branch at which they are known.
 */
export async function refreshLastVisits(tx: Tx, scope: Scope, ids: readonly string[]): Promise<void> {
  if (ids.length === 0) return;
  await tx.execute(sql`
    update people p set last_visit_at = d.at, last_branch_id = coalesce(d.branch, p.last_branch_id)
    from (select w.id, v.ends_at as at, v.branch_id as branch from people w left join lateral (
        select ends_at, branch_id from visits v where v.client_id = w.client_id and v.person_id = w.id and v.outcome <> 'cancelled'
        order by ends_at desc, v.id desc limit 1) v on true
      where w.client_id = ${scope.clientId} and w.id = any(${idList(ids)})) d
    where p.client_id = ${scope.clientId} and p.id = d.id and p.erased_at is null
      and (p.last_visit_at is distinct from d.at or (d.branch is not null and p.last_branch_id is distinct from d.branch))`);
}
