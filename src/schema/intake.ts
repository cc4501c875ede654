import { sql } from "drizzle-orm";
import {
  boolean,
  customType,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { Reason } from "@/core/asks/findings";
import type { Matching } from "@/core/intake/columns";
import type { DateOrder } from "@/core/intake/dates";
import type { FileProblem } from "@/core/intake/fileProblems";
import type { ForecastVerdict } from "@/core/intake/forecast";
import type { Remark } from "@/core/intake/remarks";
import type { Places } from "@/core/intake/table";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal, personal } from "./personal";

const bytes = customType<{ data: Buffer; driverData: Buffer }>({ dataType: () => "bytea" });
/** How a list is to be read: chosen by guessing, changed by picking, remembered for lists of the same shape. */
export type ReadingChoice = {
  matching: Matching;
  /** Null while somebody has to say which it is. */
  order: DateOrder | null;
  /** Of the birth dates, where it differs. */
  birthOrder?: DateOrder | null;
  undated: "today" | "no visit";
  /** What to do with rows that have a known address and another given name. */
  sharedAddress: "same person" | "another person";
  kind: "appointment" | "job" | "invoice" | "order" | "stay";
  /** For rows that name none. */
  serviceId: string | null;
  branchId: string | null;
  /** No row may name another branch. */
  onlyBranch?: boolean;
};

export type IntakeCounts = {
  rows: number;
  new: number;
  changed: number;
  unchanged: number;
  refused: number;
  doubtful: number;
  visits: number;
};

/** One list that somebody brought: read, looked at, kept, perhaps undone. */
export const intakes = pgTable(
  "intakes",
  {
    id: key(),
    clientId: clientId(),
    source: text("source").$type<"file" | "pasted" | "drop-off" | "end of day">().notNull(),
    feedId: uuid("feed_id"),
    name: text("name").notNull(),
    broughtBy: text("brought_by").notNull(),
    at: instant("at").notNull(),
    state: text("state")
      .$type<"reading" | "checking" | "ready" | "importing" | "imported" | "undone" | "failed">()
      .notNull(),
    /** The list itself, compressed; removed once it is kept and thirty days old. */
    content: bytes("content"),
    /** What was found while reading: encoding, delimiter, sheet, rows, headers and a few sample rows. */
    found: jsonb("found").$type<Found>(),
    shape: text("shape"),
    choice: jsonb("choice").$type<ReadingChoice>(),
    /** What a look at the whole list said, before anything was kept. */
    forecast: jsonb("forecast").$type<Forecast>(),
    asks: boolean("asks"),
    /** How many rows are done, of how many. */
    done: integer("done").notNull().default(0),
    total: integer("total").notNull().default(0),
    counts: jsonb("counts").$type<IntakeCounts>(),
    error: jsonb("error").$type<FileProblem>(),
    importedAt: instant("imported_at"),
    undoneAt: instant("undone_at"),
    /** Real time: until when somebody works on it. Past it, a worker takes it up again. */
    workedUntil: instant("worked_until"),
    requestKey: text("request_key"),
  },
  (t) => [
    index("intakes_worked").on(t.workedUntil).where(sql`state in ('reading', 'checking', 'importing')`),
    index("intakes_client").on(t.clientId, t.at),
    index("intakes_feed").on(t.feedId, t.at),
    uniqueIndex("intakes_request").on(t.clientId, t.requestKey),
  ],
);

export type Found = {
  kind: "delimited" | "workbook" | "contacts";
  encoding?: string;
  delimiter?: string;
  /** The sheets that are read, all of one shape, and those of other shapes that could be. */
  sheets?: string[];
  others?: { sheet: string; rows: number; headers: string[] }[];
  /** Quotes that did not close and were read as written, and bytes that did not fit the encoding. */
  literalQuotes?: number;
  oddBytes?: number;
  headers: string[];
  hasHeader: boolean;
  skipped: number;
  /** Which row of the spreadsheet the rows are (core/intake/table). */
  places?: Places;
  rows: number;
  since1904: boolean;
  samples: string[][];
};

export type Forecast = {
  counts: IntakeCounts;
  /**
   * What would happen to the visits if plans looked at them: how many asked, and how many left out for which reason.
   */
  asked: number;
  leftOut: Partial<Record<Reason, number>>;
  /** How many are decided on later, since they are still to come; absent where nobody counted. */
  later?: number;
  firstLeaves: number | null;
  unknownNames: { kind: "service" | "branch" | "team" | "tag"; name: string; count: number }[];
  /** The first of them, each with what would happen. */
  visits: { row: number; name: string; what: ForecastVerdict; endsAt: number }[];
};

/**
 * Rows of a list that need a look (refused, doubtful), or that changed somebody: what was there before makes the list
 * undoable.
 */
export const intakeRows = pgTable(
  "intake_rows",
  {
    clientId: clientId(),
    intakeId: uuid("intake_id")
      .notNull()
      .references(() => intakes.id, { onDelete: "cascade" }),
    /** Which row of the list, 1 for the first below the header. */
    row: integer("row").notNull(),
    state: text("state").$type<"refused" | "doubtful" | "changed" | "fixed">().notNull(),
    cells: jsonb("cells").$type<string[]>(),
    problems: jsonb("problems").$type<Remark[]>().notNull().default([]),
    personId: uuid("person_id"),
    /** The details of the person that this row changed, as they were and as it left them. */
    before: jsonb("before"),
    after: jsonb("after"),
  },
  (t) => [primaryKey({ columns: [t.intakeId, t.row, t.state] }), index("intake_rows_client").on(t.clientId)],
);

/** How lists of one shape are read. */
export const readings = pgTable(
  "readings",
  {
    clientId: clientId(),
    shape: text("shape").notNull(),
    choice: jsonb("choice").$type<ReadingChoice>().notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.shape] })],
);

/**
 * Names of services, branches, team members and tags as they came in, and what each stands for: assigned once by a
 * person.
 */
export const seenNames = pgTable(
  "seen_names",
  {
    id: key(),
    clientId: clientId(),
    kind: text("kind").$type<"service" | "branch" | "team" | "tag">().notNull(),
    /** Small letters, without accents and punctuation. */
    key: text("key").notNull(),
    name: text("name").notNull(),
    /** The service, branch, team member or tag it stands for. */
    targetId: uuid("target_id"),
    /** Nothing is meant by it. */
    ignored: boolean("ignored").notNull().default(false),
    times: integer("times").notNull().default(0),
    firstSeenAt: instant("first_seen_at").notNull(),
  },
  (t) => [
    uniqueIndex("seen_names_key").on(t.clientId, t.kind, t.key),
    index("seen_names_open").on(t.clientId).where(sql`target_id is null and not ignored`),
  ],
);

/** Rows of lists that name somebody erased are emptied one by one. */
export const intakesPersonal = personal(intakes, { owners: [], erase: "by its feature" });

export const intakeRowsPersonal = personal(intakeRows, {
  owners: [intakeRows.personId],
  erase: "delete",
  exports: { as: "listRows", only: ["cells"] },
});

export const readingsPersonal = notPersonal(readings);
export const seenNamesPersonal = notPersonal(seenNames);
