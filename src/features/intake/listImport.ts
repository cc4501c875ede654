import { and, asc, eq, sql } from "drizzle-orm";
import type { Remark } from "@/core/intake/remarks";
import { recordAudit } from "@/features/audit";
import { loadSetting, type Setting } from "@/features/clients";
import { now as clockNow } from "@/platform/clock";
import { type Scope, type Tx, withClient } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { type IntakeCounts, intakeRows, intakes, type ReadingChoice, readings } from "@/schema/intake";
import { AT_ONCE } from "./atOnce";
import { type IngestResult, ingest } from "./ingest";
import { optionsOf } from "./listOptions";
import { type ReadRow, readRows } from "./listReading";
import { findIntake, type Intake, leaseEnd, loadList, withoutContent } from "./listState";
import { inChunks } from "./readAhead";

/** Importing a list that was read, row by row, and single rows again after somebody fixed them. */

const CHUNK = 2500;

/** Begins to keep a list that is ready: its people only, or also to ask. False when it is not ready (any more). */
export async function startImport(scope: Scope, id: string, who: string, asks: boolean): Promise<boolean> {
  const now = await clockNow();
  const begun = await withClient(scope, async (tx) => {
    const [row] = await tx
      .update(intakes)
      .set({
        state: "importing",
        workedUntil: leaseEnd(),
        asks,
        done: 0,
        counts: { rows: 0, new: 0, changed: 0, unchanged: 0, refused: 0, doubtful: 0, visits: 0 },
      })
      .where(
        and(
          eq(intakes.clientId, scope.clientId),
          eq(intakes.id, id),
          eq(intakes.state, "ready"),
          sql`${intakes.choice} ->> 'order' is not null`,
        ),
      )
      .returning({
        total: intakes.total,
        shape: intakes.shape,
        choice: intakes.choice,
        name: intakes.name,
        feedId: intakes.feedId,
      });
    if (!row?.choice || !row.shape) return null;
    // What a feed said of its own lists is not remembered for everybody's.
    const choice: ReadingChoice = row.feedId
      ? { ...row.choice, branchId: null, serviceId: null, onlyBranch: false }
      : row.choice;
    await tx
      .insert(readings)
      .values({ clientId: scope.clientId, shape: row.shape, choice, at: now })
      .onConflictDoUpdate({ target: [readings.clientId, readings.shape], set: { choice, at: now } });
    await recordAudit(tx, {
      clientId: scope.clientId,
      at: now,
      who,
      action: asks ? "imported and asked" : "imported",
      subject: "list",
      subjectId: id,
      details: { name: row.name, rows: row.total },
    });
    return row;
  });
  if (!begun) return false;
  if (begun.total <= AT_ONCE) await importRows(scope, id);
  else await addJob("list", { clientId: scope.clientId, intakeId: id, action: "import" }, `list ${id}`);
  return true;
}

/**
 * Keeps the rows of a list, chunk by chunk, each in a transaction of its own that also notes how far it came: a worker
 * that is killed on the way goes on where it stood, and two workers never keep a chunk twice.
 */
export async function importRows(scope: Scope, id: string, signal?: AbortSignal): Promise<void> {
  const begun = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    if (intake?.state !== "importing" || !intake.choice) return null;
    return {
      list: await loadList(tx, scope, id),
      setting: await loadSetting(tx),
      choice: intake.choice,
      done: intake.done,
    };
  });
  if (!begun) return;
  const { list, setting, choice, done } = begun;
  const total = list.table.rows.length;
  const chunks = inChunks(readRows(list, choice, setting, await clockNow(), done), CHUNK);
  try {
    for (let from = done; ; ) {
      signal?.throwIfAborted();
      const { value: rows } = await chunks.next();
      const next = await withClient(scope, (tx) => importChunk(tx, scope, id, rows ?? [], from, total));
      if (next === null) return;
      from = next;
    }
  } finally {
    await chunks.return();
  }
}

/** Keeps one chunk; gives where the next begins, or null when the list is done or somebody else works on it. */
async function importChunk(
  tx: Tx,
  scope: Scope,
  id: string,
  rows: ReadRow[],
  from: number,
  total: number,
): Promise<number | null> {
  const [intake] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id)))
    .for("update");
  if (intake?.state !== "importing" || intake.done !== from || !intake.choice || !intake.counts) return null;
  const setting = await loadSetting(tx);
  const now = await clockNow();
  const to = from + rows.length;
  const counts = await ingestRows(tx, scope, setting, intake, rows, now);
  const sum = Object.fromEntries(
    Object.entries(counts).map(([name, n]) => [name, n + (intake.counts?.[name as keyof IntakeCounts] ?? 0)]),
  ) as IntakeCounts;
  const isDone = to === total;
  await tx
    .update(intakes)
    .set({ done: to, counts: sum, ...(isDone ? { state: "imported" as const, importedAt: now } : {}) })
    .where(eq(intakes.id, id));
  return isDone ? null : to;
}

/** Takes rows in and writes down what became of those that need a look or can be undone. */
async function ingestRows(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  intake: Intake,
  rows: ReadRow[],
  now: number,
): Promise<IntakeCounts> {
  const usable = rows.flatMap((row) => ("person" in row.read ? [{ ...row, read: row.read }] : []));
  const taken = await ingest(
    tx,
    scope,
    setting,
    usable.map(({ row, read }) => ({ arrival: read, row })),
    optionsOf(intake, now),
  );
  const counts: IntakeCounts = {
    rows: rows.length,
    new: 0,
    changed: 0,
    unchanged: 0,
    refused: rows.length - usable.length,
    doubtful: 0,
    visits: 0,
  };
  const notes: (typeof intakeRows.$inferInsert)[] = [];
  const base = { clientId: scope.clientId, intakeId: intake.id };
  for (const { row, cells, read } of rows)
    if ("problems" in read)
      notes.push({ ...base, row, cells: cells.length > 0 ? cells : null, state: "refused", problems: read.problems });
  for (const [index, result] of taken.entries()) {
    const { row, cells } = usable[index];
    counts[result.kind] += 1;
    if (result.visitKind === "new") counts.visits += 1;
    // Whoever was erased is not remembered by the row that names them.
    if (result.kind === "refused")
      notes.push({
        ...base,
        row,
        cells: null,
        state: "refused",
        problems: [{ code: "erased", field: "full name" }],
      });
    else if (result.remarks.length > 0) {
      counts.doubtful += 1;
      notes.push({ ...base, row, cells, state: "doubtful", problems: result.remarks, personId: result.person?.id });
    }
    if (result.before)
      notes.push({
        ...base,
        row,
        state: "changed",
        personId: result.person?.id,
        before: result.before,
        after: result.after,
      });
  }
  for (let at = 0; at < notes.length; at += 500)
    await tx
      .insert(intakeRows)
      .values(notes.slice(at, at + 500))
      .onConflictDoNothing();
  return counts;
}

export type NotedRow = typeof intakeRows.$inferSelect;

/** Rows of a list in one state, in order, from after `after`. */
export function rowsOfIntake(
  tx: Tx,
  scope: Scope,
  id: string,
  state: NotedRow["state"],
  after = 0,
  most = 50,
): Promise<NotedRow[]> {
  return tx
    .select()
    .from(intakeRows)
    .where(
      and(
        eq(intakeRows.clientId, scope.clientId),
        eq(intakeRows.intakeId, id),
        eq(intakeRows.state, state),
        sql`${intakeRows.row} > ${after}`,
      ),
    )
    .orderBy(asc(intakeRows.row))
    .limit(most);
}

/**
 * Tries one refused row again with other cells. Gives what is still wrong, or what became of it; null when it is not
 * there.
 */
export async function retryRow(
  tx: Tx,
  scope: Scope,
  id: string,
  row: number,
  cells: string[],
): Promise<{ problems: Remark[] } | { taken: IngestResult } | null> {
  const [intake] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id), eq(intakes.state, "imported")))
    .for("update");
  const [noted] = await tx
    .select()
    .from(intakeRows)
    .where(
      and(
        eq(intakeRows.clientId, scope.clientId),
        eq(intakeRows.intakeId, id),
        eq(intakeRows.row, row),
        eq(intakeRows.state, "refused"),
      ),
    );
  if (!intake?.choice || !intake.found || !intake.counts || !noted) return null;
  const setting = await loadSetting(tx);
  const now = await clockNow();
  const list = {
    table: { headers: intake.found.headers, rows: [cells], hasHeader: true, skipped: 0 },
    since1904: intake.found.since1904,
  };
  const [{ read }] = readRows(list, intake.choice, setting, now);
  if ("problems" in read) {
    await tx
      .update(intakeRows)
      .set({ cells, problems: read.problems })
      .where(and(eq(intakeRows.intakeId, id), eq(intakeRows.row, row), eq(intakeRows.state, "refused")));
    return { problems: read.problems };
  }
  const [taken] = await ingest(tx, scope, setting, [{ arrival: read }], optionsOf(intake, now));
  if (taken.kind === "refused") return { problems: [{ code: "erased", field: "full name" }] };
  await tx
    .update(intakeRows)
    .set({
      state: "fixed",
      cells,
      problems: taken.remarks,
      personId: taken.person?.id,
      before: taken.before,
      after: taken.after,
    })
    .where(and(eq(intakeRows.intakeId, id), eq(intakeRows.row, row), eq(intakeRows.state, "refused")));
  const counts = {
    ...intake.counts,
    refused: intake.counts.refused - 1,
    [taken.kind]: intake.counts[taken.kind] + 1,
    visits: intake.counts.visits + (taken.visitKind === "new" ? 1 : 0),
  };
  await tx.update(intakes).set({ counts }).where(eq(intakes.id, id));
  return { taken };
}
