import type { AuditAction } from "@/core/audit/actions";
import { openAsksOf, stopAsks, stopUnwanted } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { setDoNotAsk, setRest, setTag } from "@/features/people";
import type { Scope, Tx } from "@/platform/database";

/** Changes to many people at once, each in one statement and noted once. */

async function noteMany(
  tx: Tx,
  scope: Scope,
  who: string,
  action: AuditAction,
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
  const changed = await setTag(tx, scope, ids, tag, gives);
  if (gives) await stopUnwanted(tx, scope, ids, now);
  await noteMany(tx, scope, who, gives ? "tagged" : "untagged", ids, now, { tag });
  return changed;
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
  const changed = await setRest(tx, scope, ids, until, until === null ? null : reason || null);
  if (until !== null) await stopUnsent(tx, scope, ids, now);
  await noteMany(tx, scope, who, until === null ? "ended rest" : "let rest", ids, now, { until: at, reason });
  return changed;
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
  const changed = await setDoNotAsk(tx, scope, ids, reason);
  if (reason !== null) await stopUnwanted(tx, scope, ids, now);
  await noteMany(tx, scope, who, reason === null ? "readmitted" : "excluded", ids, now, { reason });
  return changed;
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
