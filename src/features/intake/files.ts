import Papa from "papaparse";
import { decodeText } from "@/core/intake/decode";
import { TooMuch } from "@/core/intake/delimited";
import { fieldOfHeader } from "@/core/intake/fields";
import type { FileProblem } from "@/core/intake/fileProblems";
import { type Places, parseDelimited, shapeOf, TABLE_BOUNDS, type Table, tableOf } from "@/core/intake/table";
import { looksLikeCards, tableOfCards } from "@/core/intake/vcards";
import { readWorkbook } from "./workbook";

/**
 * The bytes of a list to its table. Delimited text of any kind, a workbook (Office Open XML), or vCards. It runs in a process
 * of its own (`reader.ts`), so that no file keeps web or worker from answering.
 */

export const MOST_BYTES = 25 * 1024 * 1024;

/** A list that cannot be read at all, and why. */
export class Unreadable extends Error {
  constructor(readonly problem: FileProblem) {
    super(problem.code);
  }
}

export type ReadyList = {
  table: Table;
  kind: "delimited" | "workbook" | "contacts";
  encoding?: string;
  delimiter?: string;
  /** The sheets that the table was made of, all of one shape. */
  sheets?: string[];
  since1904: boolean;
  /** Quotes that did not close and were read as written, and bytes that did not fit the encoding. */
  literalQuotes?: number;
  oddBytes?: number;
  /** Sheets of another shape, each with its own table: offered to be read too. */
  others?: { sheet: string; table: Table }[];
};

/** Reads a list. Throws `Unreadable`. */
export async function readListBytes(bytes: Uint8Array): Promise<ReadyList> {
  try {
    return await readBytes(bytes);
  } catch (error) {
    if (error instanceof TooMuch) throw new Unreadable(BOUNDS[error.bound]);
    throw error;
  }
}

const BOUNDS: Record<TooMuch["bound"], FileProblem> = {
  rows: { code: "too many rows", most: TABLE_BOUNDS.rows },
  columns: { code: "too many columns", most: TABLE_BOUNDS.columns },
  cells: { code: "too many cells" },
};

async function readBytes(bytes: Uint8Array): Promise<ReadyList> {
  if (bytes.length === 0) throw new Unreadable({ code: "empty" });
  if (bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4) return readSheets(bytes);
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11) throw new Unreadable({ code: "old workbook" });
  if (Buffer.from(bytes.subarray(0, 5)).toString("latin1") === "%PDF-") throw new Unreadable({ code: "PDF" });
  const { text, encoding, oddBytes } = decodeText(bytes);
  if (looksBinary(text)) throw new Unreadable({ code: "not text" });
  if (looksLikeCards(text))
    return { table: filled(tableOfCards(text)), kind: "contacts", encoding, since1904: false, oddBytes };
  const { cells, delimiter, literalQuotes } = parseDelimited(text);
  return {
    table: filled(tableOf(cells)),
    kind: "delimited",
    encoding,
    delimiter,
    since1904: false,
    literalQuotes,
    oddBytes,
  };
}

function filled(table: Table): Table {
  if (table.rows.length === 0) throw new Unreadable({ code: "no rows" });
  return table;
}

/** Where the rows of a sheet are, counted after those of the sheets before it. */
function placesAfter({ table }: { table: Table }, index: number, all: readonly { table: Table }[]): Places {
  const before = all.slice(0, index).reduce((sum, { table: { rows } }) => sum + rows.length, 0);
  return (table.places ?? []).map(([row, sheet]): Places[number] => [row + before, sheet]);
}

function looksBinary(text: string): boolean {
  const sample = text.slice(0, 4000);
  let odd = 0;
  for (let index = 0; index < sample.length; index++) {
    const code = sample.charCodeAt(index);
    if (code < 9 || (code > 13 && code < 32 && code !== 27)) odd += 1;
  }
  return odd > sample.length * 0.02 + 2;
}

/** All sheets of one shape are one list; the shape with the most rows is read, sheets of other shapes are named. */
async function readSheets(bytes: Uint8Array): Promise<ReadyList> {
  const book = await readWorkbook(bytes);
  if ("problem" in book) throw new Unreadable(book.problem);
  const sheets = book.sheets
    .map(({ name, cells }) => ({ name, table: tableOf(cells) }))
    .filter(({ table }) => table.rows.length > 0);
  if (sheets.length === 0) throw new Unreadable({ code: "no filled sheet" });
  const groups = new Map<string, typeof sheets>();
  // Without a header nothing says that two sheets hold the same.
  for (const sheet of sheets) {
    const key = sheet.table.hasHeader ? shapeOf(sheet.table) : `sheet ${sheet.name}`;
    groups.set(key, [...(groups.get(key) ?? []), sheet]);
  }
  const rowsOf = (group: typeof sheets) => group.reduce((sum, { table }) => sum + table.rows.length, 0);
  // A cover in front has no columns that a list of people has.
  const isList = ([{ table }]: typeof sheets) =>
    Number(table.headers.filter((header) => fieldOfHeader(header)).length >= 2);
  const [main, ...rest] = [...groups.values()].sort((a, b) => isList(b) - isList(a) || rowsOf(b) - rowsOf(a));
  const rows = main.flatMap(({ table }) => table.rows);
  if (rows.length > TABLE_BOUNDS.rows) throw new TooMuch("rows");
  return {
    table: { ...main[0].table, rows, places: main.flatMap(placesAfter) },
    kind: "workbook",
    sheets: main.map(({ name }) => name),
    since1904: book.since1904,
    others: rest.flatMap((group) => group.map(({ name, table }) => ({ sheet: name, table }))),
  };
}

/** What a spreadsheet would run as a formula. Phones in E.164 and negative numbers are none. */
const FORMULA = /^(?:[=@\t\r]|[+-](?!\d[\d\s().-]*$)).*$/s;

/** Rows as CSV for people's spreadsheets: UTF-8 with a mark, and no cell that would run as a formula. */
export function toCsv(rows: readonly (readonly string[])[]): string {
  return `\ufeff${Papa.unparse(rows as string[][], { newline: "\r\n", escapeFormulae: FORMULA })}\r\n`;
}

/** A cell of a workbook that a spreadsheet would run as a formula gets an apostrophe in front. */
export function harmless(cell: string): string {
  return FORMULA.test(cell) ? `'${cell}` : cell;
}
