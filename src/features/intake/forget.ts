import { and, eq, isNotNull, lte, sql } from "drizzle-orm";
import { addressesIn } from "@/core/intake/addresses";
import type { Matching } from "@/core/intake/columns";
import { loadSetting } from "@/features/clients";
import { erasureHash } from "@/features/people";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { intakeRows, intakes } from "@/schema/intake";
import { AT_ONCE } from "./atOnce";
import { packList, parseContent, type StoredList, samplesOf } from "./content";

/** Lists must not remember whom somebody asked to be erased: their rows are emptied, wherever a list is kept. */

/** Tells which addresses and numbers are those of erased people; null when the client has erased nobody. */
export async function erasedAddresses(tx: Tx, scope: Scope): Promise<((address: string) => boolean) | null> {
  const { rows } = await tx.execute(sql`select hash from erasures where client_id = ${scope.clientId}`);
  if (rows.length === 0) return null;
  const hashes = new Set(rows.map(({ hash }) => String(hash)));
  return (address) => hashes.has(erasureHash(address));
}

/** Empties the rows of erased people; gives their numbers, from 1. */
export function emptyErasedRows(
  list: StoredList,
  matching: Matching,
  isErased: (address: string) => boolean,
  country: string,
): number[] {
  const numberColumn = matching.indexOf("customer number");
  const emptied: number[] = [];
  for (const [index, cells] of list.table.rows.entries()) {
    const number = numberColumn >= 0 ? cells[numberColumn] : "";
    if (!addressesIn(cells, country).some(isErased) && !(number && isErased(`number ${number}`))) continue;
    list.table.rows[index] = [];
    emptied.push(index + 1);
  }
  if (emptied.length > 0) list.erased = [...new Set([...(list.erased ?? []), ...emptied])];
  // A sheet that was only offered is read again when somebody wants it.
  for (const other of list.others ?? [])
    other.table.rows = other.table.rows.filter((cells) => !addressesIn(cells, country).some(isErased));
  return emptied;
}

/**
 * Empties the rows of erased people in the client's lists of at most `mostRows` rows. Gives how many lists hold more
 * than that.
 */
export async function forgetErased(tx: Tx, scope: Scope, mostRows = Number.POSITIVE_INFINITY): Promise<number> {
  const isErased = await erasedAddresses(tx, scope);
  if (!isErased) return 0;
  const { client } = await loadSetting(tx);
  const own = and(eq(intakes.clientId, scope.clientId), isNotNull(intakes.content));
  const [{ larger }] = await tx
    .select({ larger: sql<number>`count(*) filter (where ${intakes.total} > ${Math.min(mostRows, 2 ** 31 - 1)})::int` })
    .from(intakes)
    .where(own);
  const kept = await tx
    .select({ id: intakes.id })
    .from(intakes)
    .where(and(own, lte(intakes.total, Math.min(mostRows, 2 ** 31 - 1)), sql`${intakes.state} <> 'reading'`));
  for (const { id } of kept) {
    const [intake] = await tx.select().from(intakes).where(eq(intakes.id, id)).for("update");
    const list = intake?.content ? await parseContent(scope.clientId, intake.content).catch(() => null) : null;
    if (!list) continue;
    const emptied = emptyErasedRows(list, intake.choice?.matching ?? [], isErased, client.country);
    if (emptied.length === 0) continue;
    const gone = new Set(emptied);
    await tx
      .update(intakes)
      .set({
        content: packList(list),
        found: intake.found && { ...intake.found, samples: samplesOf(list) },
        forecast: intake.forecast && {
          ...intake.forecast,
          visits: intake.forecast.visits.filter(({ row }) => !gone.has(row)),
        },
      })
      .where(eq(intakes.id, id));
    await tx
      .delete(intakeRows)
      .where(and(eq(intakeRows.intakeId, id), sql`${intakeRows.row} = any(${sql.param(emptied)}::int[])`));
  }
  return larger;
}

/** Empties the rows of erased people: at once in short lists, in the worker in long ones. */
export async function forgetInLists(tx: Tx, scope: Scope): Promise<void> {
  if ((await forgetErased(tx, scope, AT_ONCE)) > 0)
    await addJob("forget", { clientId: scope.clientId }, `forget ${scope.clientId}`, tx);
}

/** What the worker does for `forgetInLists`. */
export async function forgetInLongLists(scope: Scope): Promise<void> {
  await withClient(scope, (tx) => forgetErased(tx, scope));
}
