import { and, eq, inArray, type SQL, sql } from "drizzle-orm";
import { openAsksOf, stopAsks } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting } from "@/features/clients";
import { forgetInLists } from "@/features/intake";
import { erasureHash, findPerson, nameOf, type Person, setErased } from "@/features/people";
import type { Scope, Tx } from "@/platform/database";
import { erasures, people } from "@/schema/people";
import { eraseRows, exportRows } from "./personalRows";

/** What the law asks for: everything that is known of one person, and forgetting it. */

/**
 * All that is known of a person, as JSON for them to take along (GDPR, article 20). Null when there is no such
 * person.
 */
export async function exportPerson(
  tx: Tx,
  scope: Scope,
  id: string,
  now: number,
): Promise<Record<string, unknown> | null> {
  if (!(await findPerson(tx, scope, id))) return null;
  const {
    person: [known],
    visits,
    ...rest
  } = await exportRows(tx, scope, id);
  const { services, branches, team } = await loadSetting(tx);
  const nameIn = (list: { id: string; name: string }[], key: unknown) =>
    list.find((one) => one.id === key)?.name ?? null;
  return readable({
    exportedAt: now,
    person: known,
    visits: visits.map((visit) => ({
      ...visit,
      service: nameIn(services, visit.serviceId),
      branch: nameIn(branches, visit.branchId),
      teamMember: nameIn(team, visit.teamMemberId),
    })),
    ...rest,
  }) as Record<string, unknown>;
}

/** Instants ("...At", "...Until", "answerBy") as ISO 8601 text. */
function readable(value: unknown, name = ""): unknown {
  if (Array.isArray(value)) return value.map((each) => readable(each, name));
  if (value !== null && typeof value === "object")
    return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, readable(inner, key)]));
  return typeof value === "number" && /(?:^at|At|Until|By)$/.test(name) ? new Date(value).toISOString() : value;
}

/**
 * Forgets people: their names, addresses, words and messages go; that there was a visit, an ask and a rating stays, so
 * that counts stay right. Remembered are keyed hashes of their addresses, so that no list brings them back. Gives how
 * many.
 */
export async function erasePeople(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  who: string,
  now: number,
): Promise<number> {
  if (ids.length === 0) return 0;
  const found = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), inArray(people.id, [...ids]), sql`${people.erasedAt} is null`))
    .orderBy(people.id)
    .for("update");
  // Records that were made one with them are them.
  const merged =
    found.length > 0
      ? await tx
          .select()
          .from(people)
          .where(
            and(
              eq(people.clientId, scope.clientId),
              inArray(
                people.mergedInto,
                found.map(({ id }) => id),
              ),
            ),
          )
      : [];
  const all = [...found, ...merged];
  if (all.length === 0) return 0;
  const allIds = all.map(({ id }) => id);
  const list = sql`any(${sql.param(allIds)}::uuid[])`;
  await stopAsks(
    tx,
    scope,
    (await openAsksOf(tx, scope, allIds)).map(({ id }) => id),
    "cancelled by hand",
    now,
  );
  await remember(tx, scope, all, now);
  await eraseRows(tx, scope, allIds);
  await tx.execute(
    sql`update merges set undone_at = coalesce(undone_at, ${new Date(now).toISOString()}) where client_id = ${scope.clientId} and (kept_id = ${list} or gone_id = ${list})`,
  );
  await forgetMentions(tx, scope, all);
  await setErased(tx, scope, allIds, now);
  await forgetInLists(tx, scope);
  for (const { id } of found)
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who,
      action: "erased",
      subject: "person",
      subjectId: id,
    });
  return found.length;
}

async function remember(tx: Tx, scope: Scope, all: readonly Person[], now: number): Promise<void> {
  const addresses = all.flatMap(
    ({ email, phone, externalId }) =>
      [email, phone, externalId && `number ${externalId}`].filter((each) => !!each) as string[],
  );
  // Also what was put right by hand, and is nobody else's: a source that still says it would bring them back.
  const wrong = all.flatMap(({ wrongAddresses }) => wrongAddresses);
  if (wrong.length > 0) {
    const list = sql`any(${sql.param(wrong)}::text[])`;
    const { rows } = await tx.execute<{ address: string }>(
      sql`select unnest(array[email, phone]) as address from people where client_id = ${scope.clientId} and erased_at is null and merged_into is null and (email = ${list} or phone = ${list})`,
    );
    const others = new Set(rows.map(({ address }) => address));
    addresses.push(...wrong.filter((address) => !others.has(address)));
  }
  if (addresses.length === 0) return;
  await tx
    .insert(erasures)
    .values(addresses.map((address) => ({ clientId: scope.clientId, hash: erasureHash(address), at: now })))
    .onConflictDoNothing();
}

/**
 * Where else somebody is named: in what feeds delivered, in rows of lists that belong to nobody yet, in answers kept
 * for repeated calls, in messages to a guardian or the household, in the reasons of others' decisions, and in what was
 * noted of many at once.
 */
async function forgetMentions(tx: Tx, scope: Scope, all: readonly Person[]): Promise<void> {
  const own = sql`client_id = ${scope.clientId}`;
  const ids = sql`${sql.param(all.map(({ id }) => id))}::uuid[]`;
  const addresses = all
    .flatMap(({ email, phone, wrongAddresses }) => [email, phone, ...wrongAddresses])
    .filter((address) => address !== null);
  const emails = addresses.filter((address) => address.includes("@"));
  const phones = addresses.filter((address) => !address.includes("@"));
  const like = (texts: readonly string[]) =>
    sql`${sql.param(texts.map((text) => `%${text.replace(/[\\%_]/g, "\\$&")}%`))}::text[]`;
  // However a phone is written: by its last nine digits.
  const named = (column: SQL) =>
    sql`(lower(${column}::text) like any(${like(emails)}) or regexp_replace(${column}::text, '[^0-9]', '', 'g') like any(${like(phones.map((phone) => phone.slice(-9)))}))`;
  if (emails.length + phones.length > 0) {
    await tx.execute(
      sql`update inbound_events set body = '{}', result = '{"code": "erased"}' where ${own} and ${named(sql`body`)}`,
    );
    await tx.execute(sql`delete from intake_rows where ${own} and cells is not null and ${named(sql`cells`)}`);
    await tx.execute(sql`delete from api_repeats where ${own} and ${named(sql`body`)}`);
    await tx.execute(
      sql`delete from message_pictures where ${own} and message_id in (select id from messages where ${own} and person_id is null and address = any(${sql.param([...emails, ...phones])}::text[]))`,
    );
    await tx.execute(
      sql`delete from conversations where ${own} and person_id is null and address = any(${sql.param([...emails, ...phones])}::text[])`,
    );
    await tx.execute(sql`select estima_forget_shared_texts(${sql.param(phones)}::text[])`);
    await tx.execute(
      sql`update messages set address = null, subject = null, body = null where ${own} and address = any(${sql.param([...emails, ...phones])}::text[])`,
    );
  }
  // Messages about several of a day name each of them.
  await tx.execute(
    sql`update messages set subject = null, body = null where ${own} and ask_id in (select v.ask_id from visits v where v.client_id = ${scope.clientId} and v.person_id = any(${ids}) and v.ask_id is not null)`,
  );
  const names = [...new Set(all.map(nameOf).filter((name) => name.length > 2))];
  const homes = sql`person_id in (select h.id from people h where h.client_id = ${scope.clientId} and (h.household_id = any(${sql.param(all.flatMap(({ householdId }) => householdId ?? []))}::uuid[]) or h.guardian_id = any(${ids}) or h.id = any(${sql.param(all.flatMap(({ guardianId }) => guardianId ?? []))}::uuid[])))`;
  for (const name of names) {
    const [quoted, plain] = [JSON.stringify(name).slice(1, -1), "somebody erased"];
    for (const table of ["visits", "asks"])
      await tx.execute(
        sql`update ${sql.identifier(table)} set trace = replace(trace::text, ${quoted}, ${plain})::jsonb where ${own} and ${homes} and position(${quoted} in trace::text) > 0`,
      );
  }
  await tx.execute(
    sql`update audit_entries set details = details - 'reason' - 'note' where ${own} and subject = 'people' and details -> 'ids' ?| ${sql.param(all.map(({ id }) => id))}::text[]`,
  );
}
