import { gzipSync } from "node:zlib";
import { and, asc, desc, eq, inArray, sql } from "drizzle-orm";
import { type Arrival, parseArrival, type Unusable } from "@/core/intake/arrival";
import { fieldsOfRow, guessColumns } from "@/core/intake/columns";
import { settleOrder } from "@/core/intake/dates";
import { headerKey, VISIT_FIELDS } from "@/core/intake/fields";
import type { Remark } from "@/core/intake/remarks";
import { shapeOf } from "@/core/intake/table";
import { recordAudit } from "@/features/audit";
import { loadSetting, type Setting } from "@/features/clients";
import { deletePeopleOfList, type Person, refreshLastVisits, untouchedSince, updatePeople } from "@/features/people";
import { deleteVisitsOfList } from "@/features/visits";
import { now as clockNow, realTime } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { newId } from "@/schema/columns";
import { type IntakeCounts, intakeRows, intakes, type ReadingChoice, readings } from "@/schema/intake";
import { people } from "@/schema/people";
import { AT_ONCE } from "./atOnce";
import { packBytes, parseContent, type StoredList, samplesOf } from "./content";
import { MOST_BYTES, Unreadable } from "./files";
import { previewImport } from "./forecast";
import { emptyErasedRows, erasedAddresses } from "./forget";
import { type IngestResult, ingest } from "./ingest";

/** Lists that people bring: read, looked at, kept, mended, undone. */

const CHUNK = 2500;

export type Intake = Omit<typeof intakes.$inferSelect, "content" | "workedUntil">;

/** Everything of a list but its bytes. */
const withoutContent = {
  id: intakes.id,
  clientId: intakes.clientId,
  source: intakes.source,
  feedId: intakes.feedId,
  name: intakes.name,
  broughtBy: intakes.broughtBy,
  at: intakes.at,
  state: intakes.state,
  found: intakes.found,
  shape: intakes.shape,
  choice: intakes.choice,
  forecast: intakes.forecast,
  asks: intakes.asks,
  done: intakes.done,
  total: intakes.total,
  counts: intakes.counts,
  error: intakes.error,
  keptAt: intakes.keptAt,
  undoneAt: intakes.undoneAt,
  requestKey: intakes.requestKey,
};

/** One list without its bytes, or null. */
export async function findIntake(tx: Tx, scope: Scope, id: string): Promise<Intake | null> {
  const [row] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id)));
  return row ?? null;
}

/** The lists brought lately, newest first. */
export function recentIntakes(tx: Tx, scope: Scope, most = 20): Promise<Intake[]> {
  return tx
    .select(withoutContent)
    .from(intakes)
    .where(eq(intakes.clientId, scope.clientId))
    .orderBy(desc(intakes.at), desc(intakes.id))
    .limit(most);
}

type Bringing = {
  source: Intake["source"];
  name: string;
  bytes: Uint8Array;
  who: string;
  requestKey: string;
  feedId?: string | null;
  /** What the feed that brings it says of rows that name none; with `onlyBranch` no row may name another. */
  from?: { branchId: string | null; serviceId: string | null; onlyBranch: boolean };
};

/** Takes a list in for a look. The same request key takes it once. Throws `Unreadable`. */
export async function receiveList(scope: Scope, it: Bringing): Promise<string> {
  if (it.bytes.length > MOST_BYTES) throw new Unreadable({ code: "too large", megabytes: MOST_BYTES / 1024 / 1024 });
  const now = await clockNow();
  const id = newId();
  const content = await packBytes(it.bytes);
  const kept = await withClient(scope, async (tx) => {
    const [row] = await tx
      .insert(intakes)
      .values({
        id,
        clientId: scope.clientId,
        source: it.source,
        feedId: it.feedId ?? null,
        name: it.name.slice(0, 200) || "A list",
        broughtBy: it.who,
        at: now,
        state: "reading",
        workedUntil: leaseEnd(),
        content,
        choice: it.from
          ? {
              ...PLAIN_CHOICE,
              branchId: it.from.branchId,
              serviceId: it.from.serviceId,
              onlyBranch: it.from.onlyBranch,
            }
          : null,
        requestKey: it.requestKey,
      })
      .onConflictDoNothing()
      .returning({ id: intakes.id });
    if (row) return row.id;
    const [known] = await tx
      .select({ id: intakes.id })
      .from(intakes)
      .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.requestKey, it.requestKey)));
    return known.id;
  });
  if (kept !== id) return kept;
  // Small lists are read while one waits; it takes less than reading this would.
  if (it.bytes.length < 300_000) await parseIntake(scope, id, AT_ONCE);
  else await addJob("list", { clientId: scope.clientId, intakeId: id, action: "read" }, `list ${id}`);
  return id;
}

/**
 * Takes another sheet of a workbook in as a list of its own. Null when it is not there (any more). Throws `Unreadable`.
 */
export async function receiveSheet(scope: Scope, id: string, sheet: string, who: string): Promise<string | null> {
  const now = await clockNow();
  const fresh = newId();
  const made = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    if (!intake) return null;
    const list = await loadList(tx, scope, id);
    const other = list.others?.find((one) => one.sheet === sheet);
    if (!other) return null;
    const content = gzipSync(
      JSON.stringify({
        table: other.table,
        kind: list.kind,
        since1904: list.since1904,
        sheets: [sheet],
      } satisfies StoredList),
      { level: 1 },
    );
    const name = `${intake.name}, ${sheet}`.slice(0, 200);
    await tx.insert(intakes).values({
      id: fresh,
      clientId: scope.clientId,
      source: intake.source,
      name,
      broughtBy: who,
      at: now,
      state: "reading",
      workedUntil: leaseEnd(),
      content,
      requestKey: fresh,
    });
    return fresh;
  });
  if (!made) return null;
  await parseIntake(scope, fresh, AT_ONCE);
  return fresh;
}

const PLAIN_CHOICE: ReadingChoice = {
  matching: [],
  order: null,
  undated: "today",
  sharedAddress: "same person",
  kind: "appointment",
  serviceId: null,
  branchId: null,
};

/** The table of a list that was read. Throws `Unreadable` when its contents were removed. */
export async function loadList(tx: Tx, scope: Scope, id: string): Promise<StoredList> {
  const [row] = await tx
    .select({ content: intakes.content })
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id)));
  if (!row?.content) throw new Unreadable({ code: "gone" });
  return parseContent(row.content);
}

/** Somebody works on a list for so long at most (real time) before saying so again. */
const LEASE = 45_000;
const leaseEnd = () => realTime() + LEASE;

/**
 * Does something long with a list, and says all the while that it is being done: once nobody says so, a worker takes
 * it up again.
 */
async function working<T>(scope: Scope, id: string, work: () => Promise<T>): Promise<T> {
  const say = () => change(scope, id, {}).catch(() => {});
  const saying = setInterval(say, LEASE / 3);
  try {
    return await work();
  } finally {
    clearInterval(saying);
  }
}

/** Lists that wait to be worked on and on which nobody does: their worker was killed. Each is claimed for a while. */
export async function claimStalledLists(): Promise<
  { clientId: string; intakeId: string; action: "read" | "look" | "keep" }[]
> {
  const rows = await rowsOf<{ client_id: string; intake_id: string; state: string }>(
    sql`select * from estima_claim_lists(20, ${LEASE / 1000})`,
  );
  return rows.map(({ client_id, intake_id, state }) => ({
    clientId: client_id,
    intakeId: intake_id,
    action: state === "reading" ? "read" : state === "looking" ? "look" : "keep",
  }));
}

async function change(scope: Scope, id: string, set: Partial<typeof intakes.$inferInsert>): Promise<void> {
  await withClient(scope, (tx) =>
    tx
      .update(intakes)
      .set({ ...set, workedUntil: leaseEnd() })
      .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id))),
  );
}

/**
 * Reads a list that was taken in: finds its columns, remembers how lists of its shape were read, and looks ahead; at
 * more than `mostAtOnce` rows in the worker.
 */
export async function parseIntake(scope: Scope, id: string, mostAtOnce = Number.POSITIVE_INFINITY): Promise<void> {
  try {
    const [raw] = await withClient(scope, (tx) =>
      tx
        .select({ content: intakes.content })
        .from(intakes)
        .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id), eq(intakes.state, "reading"))),
    );
    if (!raw?.content) return;
    // No transaction is open meanwhile: reading may take its time.
    const list = await parseContent(raw.content);
    const { setting, remembered, now, given, isErased } = await withClient(scope, async (tx) => {
      const [remembered] = await tx
        .select()
        .from(readings)
        .where(and(eq(readings.clientId, scope.clientId), eq(readings.shape, shapeOf(list.table))));
      return {
        setting: await loadSetting(tx),
        remembered,
        now: await clockNow(),
        given: (await findIntake(tx, scope, id))?.choice ?? null,
        isErased: await erasedAddresses(tx, scope),
      };
    });
    const { table } = list;
    const choice =
      remembered && remembered.choice.matching.length === table.headers.length
        ? { ...remembered.choice }
        : guessChoice(list, setting);
    if (given) {
      choice.branchId = given.branchId ?? choice.branchId;
      choice.serviceId = given.serviceId ?? choice.serviceId;
      // A link that is limited to a branch can bring visits for no other.
      if (given.onlyBranch) choice.matching = choice.matching.map((field) => (field === "branch" ? null : field));
    }
    if (isErased) emptyErasedRows(list, choice.matching, isErased, setting.client.country);
    Object.assign(choice, ordersOf(list, choice, remembered?.choice ?? null));
    await change(scope, id, {
      state: "looking",
      content: gzipSync(JSON.stringify(list), { level: 1 }),
      shape: shapeOf(table),
      choice,
      total: table.rows.length,
      found: {
        kind: list.kind,
        encoding: list.encoding,
        delimiter: list.delimiter,
        sheets: list.sheets,
        others: list.others?.map(({ sheet, table: other }) => ({
          sheet,
          rows: other.rows.length,
          headers: other.headers.slice(0, 6),
        })),
        literalQuotes: list.literalQuotes,
        oddBytes: list.oddBytes,
        headers: table.headers,
        hasHeader: table.hasHeader,
        skipped: table.skipped,
        rows: table.rows.length,
        since1904: list.since1904,
        samples: samplesOf(list),
      },
    });
    if (table.rows.length <= mostAtOnce) await previewAgain(scope, id, choice, list, setting, now);
    else await addJob("list", { clientId: scope.clientId, intakeId: id, action: "look" }, `list ${id} look`);
  } catch (error) {
    if (!(error instanceof Unreadable)) throw error;
    await change(scope, id, { state: "failed", error: error.problem, content: null });
  }
}

function guessChoice(list: StoredList, setting: Setting): ReadingChoice {
  const matching = guessColumns(list.table);
  const heads = list.table.headers.map(headerKey).join(" ");
  const kind = /invoice|rechnung|factura|facture|fatura/.test(heads)
    ? "invoice"
    : /\border\b|pedido|commande|bestell/.test(heads)
      ? "order"
      : /job|auftrag/.test(heads)
        ? "job"
        : "appointment";
  return {
    matching,
    order: null,
    undated: "today",
    sharedAddress: "same person",
    kind,
    serviceId: null,
    branchId: setting.branches.length === 1 ? setting.branches[0].id : null,
  };
}

type Orders = Pick<ReadingChoice, "order" | "birthOrder">;

/**
 * Day first or month first, each column of dates by itself; null where somebody has to say. A column of birth dates
 * that can be read both ways goes by the visits' where those are settled.
 */
function ordersOf(list: StoredList, choice: ReadingChoice, remembered: Orders | null): Orders {
  const settled = (field: "visit date" | "birth date") => {
    const columns = choice.matching.flatMap((one, index) => (one === field ? [index] : []));
    return settleOrder(list.table.rows.flatMap((row) => columns.map((index) => row[index])));
  };
  const visits = settled("visit date");
  const births = settled("birth date");
  const isSettled = (order: typeof visits): order is "day first" | "month first" =>
    order === "day first" || order === "month first";
  const known = remembered?.order ?? null;
  let order: Orders["order"] = "day first";
  if (isSettled(visits)) order = visits;
  else if (visits === "mixed") order = known ?? "day first";
  else if (visits === null || births === null) order = known;
  const birthOrder = isSettled(births) ? births : births === "mixed" ? (remembered?.birthOrder ?? order) : null;
  return { order, birthOrder };
}

/** A choice with what the columns settle themselves; the order that somebody chose for the visits stays. */
function withOrders(list: StoredList, choice: ReadingChoice): ReadingChoice {
  const found = ordersOf(list, choice, choice);
  return { ...choice, order: choice.order ?? found.order, birthOrder: found.birthOrder };
}

/** Looks through the whole list with a choice and writes down what would happen. Nothing of it is kept. */
async function previewAgain(
  scope: Scope,
  id: string,
  choice: ReadingChoice,
  list: StoredList,
  setting: Setting,
  now: number,
): Promise<void> {
  const forecast =
    choice.order === null
      ? null
      : await withClient(scope, (tx) =>
          previewImport(tx, scope, setting, readRows(list, choice, setting, now), choice, now),
        );
  await change(scope, id, { state: "ready", choice, forecast });
}

/** Changes how a list is read, and looks again. Null when the list is not waiting to be kept. */
export async function chooseReading(scope: Scope, id: string, choice: ReadingChoice): Promise<Intake | null> {
  const seen = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    if (intake?.state !== "ready" || intake.found?.headers.length !== choice.matching.length) return null;
    return {
      list: intake.total <= AT_ONCE ? await loadList(tx, scope, id) : null,
      setting: await loadSetting(tx),
      now: await clockNow(),
    };
  });
  if (!seen) return null;
  const settled = { ...choice };
  if (seen.list) {
    Object.assign(settled, withOrders(seen.list, settled));
    await previewAgain(scope, id, settled, seen.list, seen.setting, seen.now);
  } else {
    await change(scope, id, { state: "looking", choice: settled });
    await addJob("list", { clientId: scope.clientId, intakeId: id, action: "look" }, `list ${id}`);
  }
  return withClient(scope, (tx) => findIntake(tx, scope, id));
}

/** Looks ahead at a large list, in the worker. */
export async function previewIntake(scope: Scope, id: string): Promise<void> {
  const seen = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    if (intake?.state !== "looking" || !intake.choice) return null;
    return {
      list: await loadList(tx, scope, id),
      setting: await loadSetting(tx),
      now: await clockNow(),
      choice: intake.choice,
    };
  });
  if (!seen) return;
  const choice = withOrders(seen.list, seen.choice);
  await previewAgain(scope, id, choice, seen.list, seen.setting, seen.now);
}

export type ReadRow = { row: number; cells: string[]; read: Arrival | Unusable };

/** Reads rows of a list after a choice. Rows count from 1. Lazily: a large list is never held twice. */
export function* readRows(
  list: Pick<StoredList, "table" | "since1904" | "erased">,
  choice: ReadingChoice,
  setting: Setting,
  now: number,
  from = 0,
  to = list.table.rows.length,
): Generator<ReadRow> {
  const zone = setting.branches.find(({ id }) => id === choice.branchId)?.zone ?? setting.client.zone;
  const hasVisits = choice.matching.some((field) => field && VISIT_FIELDS.includes(field));
  const reading = {
    country: setting.client.country,
    zone,
    now,
    order: choice.order ?? ("day first" as const),
    birthOrder: choice.birthOrder ?? choice.order ?? ("day first" as const),
    since1904: list.since1904,
    kind: choice.kind,
    undated: hasVisits ? choice.undated : ("no visit" as const),
  };
  const erased = new Set(list.erased ?? []);
  for (let index = from; index < to; index++) {
    const cells = list.table.rows[index];
    if (erased.has(index + 1))
      yield { row: index + 1, cells, read: { problems: [{ code: "erased" as const, field: "full name" as const }] } };
    else yield { row: index + 1, cells, read: parseArrival(fieldsOfRow(cells, choice.matching), reading) };
  }
}

/** Begins to keep a list that is ready: its people only, or also to ask. False when it is not ready (any more). */
export async function startImport(scope: Scope, id: string, who: string, asks: boolean): Promise<boolean> {
  const now = await clockNow();
  const begun = await withClient(scope, async (tx) => {
    const [row] = await tx
      .update(intakes)
      .set({
        state: "keeping",
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
  else await addJob("list", { clientId: scope.clientId, intakeId: id, action: "keep" }, `list ${id}`);
  return true;
}

/**
 * Keeps the rows of a list, chunk by chunk, each in a transaction of its own that also notes how far it came: a worker
 * that is killed on the way goes on where it stood, and two workers never keep a chunk twice.
 */
export async function importRows(scope: Scope, id: string, signal?: AbortSignal): Promise<void> {
  const intake = await withClient(scope, (tx) => findIntake(tx, scope, id));
  if (intake?.state !== "keeping" || !intake.choice) return;
  const list = await withClient(scope, (tx) => loadList(tx, scope, id));
  for (let from = intake.done; ; ) {
    signal?.throwIfAborted();
    const next = await withClient(scope, (tx) => importChunk(tx, scope, id, list, from));
    if (next === null) return;
    from = next;
  }
}

/** Keeps one chunk; gives where the next begins, or null when the list is done or somebody else works on it. */
async function importChunk(tx: Tx, scope: Scope, id: string, list: StoredList, from: number): Promise<number | null> {
  const [intake] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id)))
    .for("update");
  if (intake?.state !== "keeping" || intake.done !== from || !intake.choice || !intake.counts) return null;
  const setting = await loadSetting(tx);
  const now = await clockNow();
  const to = Math.min(from + CHUNK, list.table.rows.length);
  const rows = [...readRows(list, intake.choice, setting, now, from, to)];
  const counts = await ingestRows(tx, scope, setting, intake, rows, now);
  const sum = Object.fromEntries(
    Object.entries(counts).map(([name, n]) => [name, n + (intake.counts?.[name as keyof IntakeCounts] ?? 0)]),
  ) as IntakeCounts;
  const isDone = to === list.table.rows.length;
  await tx
    .update(intakes)
    .set({ done: to, counts: sum, ...(isDone ? { state: "kept" as const, keptAt: now } : {}) })
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
    usable.map(({ read }) => ({ arrival: read })),
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

function optionsOf(intake: Intake, now: number) {
  const choice = intake.choice as ReadingChoice;
  const isDropOff = intake.source === "drop-off";
  return {
    source: intake.name,
    intakeId: intake.id,
    sharedAddress: choice.sharedAddress,
    replaces: false,
    way:
      intake.source === "end of day" ? ("end of day" as const) : isDropOff ? ("drop-off" as const) : ("file" as const),
    feedId: intake.feedId,
    looked: intake.asks === true,
    serviceId: choice.serviceId,
    branchId: choice.branchId,
    now,
  };
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
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id), eq(intakes.state, "kept")))
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
      state: "mended",
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

export type Undone =
  | { undone: true; people: number; visits: number }
  | { undone: false; sent: { name: string; at: number }[] };

/**
 * Takes a whole list back, as long as nothing that came of it was sent: its visits and their asks go, its new people
 * go unless something else happened with them since, and those it changed are as they were. Else tells what was sent.
 */
export async function undoImport(tx: Tx, scope: Scope, id: string, who: string): Promise<Undone | null> {
  const [intake] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id), eq(intakes.state, "kept")))
    .for("update");
  if (!intake) return null;
  const now = await clockNow();
  // The asks are locked first, as sending does: a message that is being handed over is either seen here or waits.
  await tx.execute(
    sql`select a.id from asks a join visits v on v.id = a.visit_id where v.client_id = ${scope.clientId} and v.intake_id = ${id} order by a.id for update of a`,
  );
  const { rows: sent } = await tx.execute(sql`
    select p.given, p.family, m.sent_at from messages m join asks a on a.id = m.ask_id join visits v on v.id = a.visit_id join people p on p.id = m.person_id
    where v.client_id = ${scope.clientId} and v.intake_id = ${id} and m.direction = 'out' and (m.sent_at is not null or m.state = 'sending') order by m.sent_at limit 50`);
  if (sent.length > 0)
    return {
      undone: false,
      sent: sent.map((row) => ({
        name: `${row.given} ${row.family}`.trim(),
        at: new Date(row.sent_at as string).getTime(),
      })),
    };
  const gone = await deleteVisitsOfList(tx, scope, id);
  const deleted = await deletePeopleOfList(tx, scope, id);
  const changed = await tx
    .select()
    .from(intakeRows)
    .where(
      and(
        eq(intakeRows.clientId, scope.clientId),
        eq(intakeRows.intakeId, id),
        inArray(intakeRows.state, ["changed", "mended"]),
      ),
    )
    .orderBy(desc(intakeRows.row));
  await restoreChanged(tx, scope, changed);
  // Whoever was here before was last here when they were.
  await refreshLastVisits(tx, scope, [...new Set(gone)]);
  await tx.update(intakes).set({ state: "undone", undoneAt: now, content: null }).where(eq(intakes.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "undid import",
    subject: "list",
    subjectId: id,
    details: { name: intake.name },
  });
  return { undone: true, people: deleted, visits: gone.length };
}

/** Sets back what rows changed, latest first, so that the oldest value wins; what somebody has changed since stays. */
async function restoreChanged(tx: Tx, scope: Scope, changed: NotedRow[]): Promise<void> {
  // What the list left behind last, and what was there before it touched anything.
  const before = new Map<string, Partial<Person>>();
  const after = new Map<string, Partial<Person>>();
  for (const row of changed) {
    if (!row.personId || !row.before) continue;
    before.set(row.personId, { ...before.get(row.personId), ...(row.before as Partial<Person>) });
    after.set(row.personId, { ...(row.after as Partial<Person> | null), ...after.get(row.personId) });
  }
  const ids = [...before.keys()].sort();
  for (let at = 0; at < ids.length; at += 500) {
    const some = await tx
      .select()
      .from(people)
      .where(and(eq(people.clientId, scope.clientId), inArray(people.id, ids.slice(at, at + 500))))
      .orderBy(people.id)
      .for("no key update");
    await updatePeople(
      tx,
      scope,
      some.map((person) => ({
        id: person.id,
        change: untouchedSince(before.get(person.id) ?? {}, after.get(person.id) ?? {}, person),
      })),
    );
  }
}

/** What the worker does with a large list. */
export async function runListTask(
  { clientId, intakeId, action }: { clientId: string; intakeId: string; action: "read" | "look" | "keep" },
  signal?: AbortSignal,
): Promise<void> {
  const scope = workFor(clientId);
  await working(scope, intakeId, async () => {
    if (action === "keep") return importRows(scope, intakeId, signal);
    if (action === "read") await parseIntake(scope, intakeId);
    else await previewIntake(scope, intakeId);
    // What a feed brings is kept by itself, unless somebody has to look at it first.
    const intake = await withClient(scope, (tx) => findIntake(tx, scope, intakeId));
    if (intake?.feedId && intake.state === "ready" && intake.choice?.order)
      await startImport(scope, intakeId, intake.broughtBy, true);
  });
}
