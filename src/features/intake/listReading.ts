import { and, eq } from "drizzle-orm";
import { type Arrival, parseArrival, type Unusable } from "@/core/intake/arrival";
import { fieldsOfRow, guessColumns } from "@/core/intake/columns";
import { settleOrder } from "@/core/intake/dates";
import { headerKey, VISIT_FIELDS } from "@/core/intake/fields";
import { shapeOf } from "@/core/intake/table";
import { loadSetting, type Setting, zoneOf } from "@/features/clients";
import { now as clockNow } from "@/platform/clock";
import { type Scope, withClient } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { newId } from "@/schema/columns";
import { intakes, type ReadingChoice, readings } from "@/schema/intake";
import { AT_ONCE } from "./atOnce";
import { packBytes, packList, readContent, type StoredList, samplesOf } from "./content";
import { MOST_BYTES, Unreadable } from "./files";
import { previewImport } from "./forecast";
import { emptyErasedRows, erasedAddresses } from "./forget";
import { change, findIntake, type Intake, leaseEnd, loadList } from "./listState";

/** Lists as they are received and read: which column is what, which day comes first, and what importing would do. */

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
    const content = packList({ table: other.table, kind: list.kind, since1904: list.since1904, sheets: [sheet] });
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
  sharedAddress: "another person",
  kind: "appointment",
  serviceId: null,
  branchId: null,
};

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
    const { list, packed } = await readContent(scope.clientId, raw.content);
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
      state: "checking",
      content: isErased ? packList(list) : Buffer.from(packed),
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
        places: table.places,
        rows: table.rows.length,
        since1904: list.since1904,
        samples: samplesOf(list),
      },
    });
    if (table.rows.length <= mostAtOnce) await previewAgain(scope, id, choice, list, setting, now);
    else await addJob("list", { clientId: scope.clientId, intakeId: id, action: "check" }, `list ${id} check`);
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
    sharedAddress: "another person",
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
      : await withClient(scope, async (tx) => {
          const intake = await findIntake(tx, scope, id);
          return intake && previewImport(tx, scope, setting, intake, readRows(list, choice, setting, now), choice, now);
        });
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
    await change(scope, id, { state: "checking", choice: settled });
    await addJob("list", { clientId: scope.clientId, intakeId: id, action: "check" }, `list ${id}`);
  }
  return withClient(scope, (tx) => findIntake(tx, scope, id));
}

/** Looks ahead at a large list, in the worker. */
export async function previewIntake(scope: Scope, id: string): Promise<void> {
  const seen = await withClient(scope, async (tx) => {
    const intake = await findIntake(tx, scope, id);
    if (intake?.state !== "checking" || !intake.choice) return null;
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
): Generator<ReadRow> {
  const zone = zoneOf(setting, choice.branchId);
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
  for (let index = from; index < list.table.rows.length; index++) {
    const cells = list.table.rows[index];
    if (erased.has(index + 1))
      yield { row: index + 1, cells, read: { problems: [{ code: "erased" as const, field: "full name" as const }] } };
    else yield { row: index + 1, cells, read: parseArrival(fieldsOfRow(cells, choice.matching), reading) };
  }
}
