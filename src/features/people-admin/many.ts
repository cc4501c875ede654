import { sql } from "drizzle-orm";
import { openAsksOf, stopAsks, stopUnwanted } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";

/** Changes to many people at once, each in one statement and noted once. */

const list = (ids: readonly string[]) => sql`any(${sql.param([...ids])}::uuid[])`;

async function noteMany(
  tx: Tx,
  scope: Scope,
  who: string,
  action: string,
  ids: readonly string[],
  now: number,
  details: object,
): Promise<void> {
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action,
    subject: "people",
    details: { ...details, count: ids.length, ids: ids.slice(0, 500) },
  });
}

/** Gives people a tag, or takes it from them. */
export async function tagMany(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  tag: string,
  gives: boolean,
  who: string,
  now: number,
): Promise<number> {
  const change = gives ? sql`array_append(tags, ${tag}::text)` : sql`array_remove(tags, ${tag}::text)`;
  const result = await tx.execute(
    sql`update people set tags = ${change} where client_id = ${scope.clientId} and id = ${list(ids)} and (${tag}::text = any(tags)) <> ${gives} and erased_at is null`,
  );
  if (gives) await stopUnwanted(tx, scope, ids, now);
  await noteMany(tx, scope, who, gives ? "tagged" : "untagged", ids, now, { tag });
  return result.rowCount ?? 0;
}

/**
 * Lets people rest until a moment: no plan asks them before. Asks of which nothing has left end. Null ends the rest.
 */
export async function restMany(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  until: number | null,
  reason: string,
  who: string,
  now: number,
): Promise<number> {
  const at = until === null ? null : new Date(until).toISOString();
  const result = await tx.execute(
    sql`update people set rest_until = ${at}::timestamptz, rest_reason = ${until === null ? null : reason || null} where client_id = ${scope.clientId} and id = ${list(ids)} and erased_at is null`,
  );
  if (until !== null) await stopUnsent(tx, scope, ids, now);
  await noteMany(tx, scope, who, until === null ? "ended the rest of" : "let rest", ids, now, { until: at, reason });
  return result.rowCount ?? 0;
}

/** Marks people as never to be asked, with the reason, and ends what is under way about them and their wards. */
export async function excludeMany(
  tx: Tx,
  scope: Scope,
  ids: readonly string[],
  reason: string | null,
  who: string,
  now: number,
): Promise<number> {
  const result = await tx.execute(
    sql`update people set do_not_ask = ${reason} where client_id = ${scope.clientId} and id = ${list(ids)} and erased_at is null`,
  );
  if (reason !== null) await stopUnwanted(tx, scope, ids, now);
  await noteMany(tx, scope, who, reason === null ? "allowed asking" : "excluded", ids, now, { reason });
  return result.rowCount ?? 0;
}

async function stopUnsent(tx: Tx, scope: Scope, ids: readonly string[], now: number): Promise<void> {
  const open = await openAsksOf(tx, scope, [...ids]);
  await stopAsks(
    tx,
    scope,
    open.filter(({ sentCount }) => sentCount === 0).map(({ id }) => id),
    "cancelled by hand",
    now,
  );
}
