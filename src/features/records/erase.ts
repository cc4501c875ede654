import { and, eq, inArray, sql } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { openAsksOf, stopAsks } from "../asks";
import { auditEntries, note } from "../audit";
import { erasureHash, erasures, type Person, people } from "../people";
import { storyOf } from "../story";

/** What the law asks for: everything that is known of one person, and forgetting it. */

/** All that is known of a person, as JSON for them to take along (GDPR, article 20). Null when there is no such person. */
export async function exportPerson(tx: Tx, scope: Scope, id: string, now: number): Promise<Record<string, unknown> | null> {
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)));
  if (!person) return null;
  const story = await storyOf(tx, scope, id);
  const changes = await tx
    .select({ at: auditEntries.at, deed: auditEntries.deed, subject: auditEntries.subject })
    .from(auditEntries)
    .where(and(eq(auditEntries.clientId, scope.clientId), eq(auditEntries.subjectId, id)));
  const { clientId: _, search: _s, intakeId: _i, mergedInto: _m, ...known } = person;
  const plain = <Row extends Record<string, unknown>>(rows: readonly Row[]) =>
    rows.map((row) =>
      Object.fromEntries(Object.entries(row).filter(([name]) => !["clientId", "token", "trace", "claimId", "claimedUntil", "requestKey", "gatewayId"].includes(name))),
    );
  return readable({
    exportedAt: now,
    person: known,
    visits: story.visits.map(({ visit, service, branch, member }) => ({ ...plain([visit])[0], service, branch, teamMember: member })),
    asks: plain(story.asks),
    messages: plain(story.messages),
    answers: story.answers.map(({ answer }) => plain([answer])[0]),
    sitesOpened: story.followed,
    concerns: plain(story.concerns),
    changes,
  }) as Record<string, unknown>;
}

/** Instants ("...At", "...Until", "answerBy") as ISO 8601 text. */
function readable(value: unknown, name = ""): unknown {
  if (Array.isArray(value)) return value.map((each) => readable(each, name));
  if (value !== null && typeof value === "object") return Object.fromEntries(Object.entries(value).map(([key, inner]) => [key, readable(inner, key)]));
  return typeof value === "number" && /(?:^at|At|Until|By)$/.test(name) ? new Date(value).toISOString() : value;
}

/**
 * Forgets people: their names, addresses, words and messages go; that there was a visit, an ask and a rating stays, so that
 * counts stay right. Remembered are keyed hashes of their addresses, so that no list brings them back. Gives how many.
 */
export async function erasePeople(tx: Tx, scope: Scope, ids: readonly string[], who: string, now: number): Promise<number> {
  if (ids.length === 0) return 0;
  const found = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), inArray(people.id, [...ids]), sql`${people.erasedAt} is null`))
    .orderBy(people.id)
    .for("update");
  // Records that were made one with them are them.
  const twins =
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
  const all = [...found, ...twins];
  if (all.length === 0) return 0;
  const allIds = all.map(({ id }) => id);
  const list = sql`any(${sql.param(allIds)}::uuid[])`;
  await tx.execute(sql`update visits set about = null, words = null, external_id = null, tags = '{}' where client_id = ${scope.clientId} and person_id = ${list}`);
  await stopAsks(
    tx,
    scope,
    (await openAsksOf(tx, scope, allIds)).map(({ id }) => id),
    "cancelled by hand",
    now,
  );
  await remember(tx, scope, all, now);
  await tx.execute(sql`
    update people set given = 'Erased', family = '', email = null, phone = null, phone_takes_texts = false, external_id = null, postal_address = null, birth_date = null, guardian_id = null,
      household_id = null, consent = null, note = '', tags = '{}', wrong_addresses = '{}', do_not_ask = 'Erased', language = null, zone = null, rest_until = null, rest_reason = null, source = 'erased',
      email_bounced_at = null, email_bounced_why = null, text_bounced_at = null, text_bounced_why = null, email_opted_out_at = null, email_opted_out_how = null,
      text_opted_out_at = null, text_opted_out_how = null, erased_at = ${new Date(now).toISOString()}
    where client_id = ${scope.clientId} and id = ${list}`);
  await tx.execute(sql`update people set guardian_id = null where client_id = ${scope.clientId} and guardian_id = ${list}`);
  await tx.execute(sql`update messages set address = null, subject = null, body = null, written_by = null where client_id = ${scope.clientId} and person_id = ${list}`);
  await tx.execute(sql`update answers set words = null where client_id = ${scope.clientId} and person_id = ${list}`);
  await tx.execute(sql`update concerns set words = '', outcome_note = null where client_id = ${scope.clientId} and person_id = ${list}`);
  await tx.execute(sql`update deliveries set body = '{}', what = 'The person was erased.' where client_id = ${scope.clientId} and person_id = ${list}`);
  await tx.execute(sql`delete from intake_rows where client_id = ${scope.clientId} and person_id = ${list}`);
  await tx.execute(
    sql`update merges set before = '{}', undone_at = coalesce(undone_at, ${new Date(now).toISOString()}) where client_id = ${scope.clientId} and (kept_id = ${list} or gone_id = ${list})`,
  );
  await tx.execute(sql`update audit_entries set details = null where client_id = ${scope.clientId} and subject_id = ${list}`);
  for (const { id } of found) await note(tx, { clientId: scope.clientId, at: now, who, deed: "erased", subject: "person", subjectId: id });
  return found.length;
}

async function remember(tx: Tx, scope: Scope, all: readonly Person[], now: number): Promise<void> {
  const addresses = all.flatMap(({ email, phone, externalId }) => [email, phone, externalId && `number ${externalId}`].filter((each) => !!each) as string[]);
  if (addresses.length === 0) return;
  await tx
    .insert(erasures)
    .values(addresses.map((address) => ({ clientId: scope.clientId, hash: erasureHash(address), at: now })))
    .onConflictDoNothing();
}
