import { looksLikeDate } from "./dates";
import { type DelimitedBounds, readDelimited, TooMuch } from "./delimited";
import { fieldOfHeader } from "./fields";

/**
 * Delimited text to rows and columns: delimiter and header row are found by looking, not by asking. All of it linear
 * in the text's length.
 */

export type Table = {
  /** One name for each column; made up ("Column 3") where there is no header or it is empty or stands twice. */
  headers: string[];
  /** Cells from the first column on; a row may be shorter than the headers where its last cells are empty. */
  rows: string[][];
  hasHeader: boolean;
  /** Lines above the header that were no part of the table: a title, an empty line. */
  skipped: number;
  /** Where the rows are in the spreadsheet; see `sheetRow`. */
  places?: Places;
};

/**
 * Which row of the spreadsheet the rows of a list are: pairs of a row of the list and its row there, both counted from 1,
 * at the first row and after each gap.
 */
export type Places = [row: number, sheetRow: number][];

/** As many gaps are remembered; what follows counts on from the last. */
const MOST_GAPS = 2000;

/** The row of the spreadsheet that a row of the list is, as its program numbers it: the heading is row 1, mostly. */
export function sheetRow(
  found: { places?: Places; hasHeader: boolean; skipped: number } | null | undefined,
  row: number,
): number {
  if (!found) return row;
  const place = found.places?.findLast(([first]) => first <= row);
  return place ? place[1] + row - place[0] : row + found.skipped + (found.hasHeader ? 1 : 0);
}

/** `places` of rows by their rows in the spreadsheet. */
function placesOf(at: readonly number[]): Places {
  const places: Places = [];
  for (const [index, sheet] of at.entries())
    if ((index === 0 || sheet !== at[index - 1] + 1) && places.length < MOST_GAPS) places.push([index + 1, sheet]);
  return places;
}

/** What one list may hold. */
export const TABLE_BOUNDS: DelimitedBounds = { rows: 250_000, columns: 300, cells: 8_000_000 };
/** Delimiters behind the last filled cell are no columns yet; more of them than this are none of a list. */
const WIDEST_LINE = 2000;
/** Longer cells are cut: nothing that is kept is as long. */
const LONGEST_CELL = 5000;
/** How much of a cell is looked at to tell what it is. */
const LOOK = 200;

const DELIMITERS = [",", ";", "\t", "|"] as const;

/**
 * The delimiter that splits the first lines most evenly. Quoted cells are respected. A single column gives a comma.
 */
export function sniffDelimiter(text: string): string {
  const sample = text.slice(0, 64_000);
  const bounds = { rows: 30, columns: Number.POSITIVE_INFINITY, cells: Number.POSITIVE_INFINITY };
  let best: string = ",";
  let bestScore = 0;
  for (const delimiter of DELIMITERS) {
    const cells = firstRows(sample, delimiter, bounds);
    // The last row of a cut sample may be broken.
    const rows = (sample.length < text.length && cells.length > 1 ? cells.slice(0, -1) : cells).filter((row) =>
      row.some((cell) => cell.trim() !== ""),
    );
    const widths = rows.map((row) => row.length);
    const width = commonest(widths);
    if (width < 2) continue;
    const even = widths.filter((each) => each === width).length / widths.length;
    const known = Math.max(
      ...rows
        .slice(0, 5)
        .map((row) => row.slice(0, TABLE_BOUNDS.columns).filter((cell) => fieldOfHeader(cell.slice(0, LOOK))).length),
      0,
    );
    const score = even * 10 + Math.min(width, 12) * 0.2 + known * 2;
    if (score > bestScore) {
      bestScore = score;
      best = delimiter;
    }
  }
  return best;
}

/** The first lines of a sample, split: enough to tell the delimiter. */
function firstRows(sample: string, delimiter: string, bounds: DelimitedBounds): string[][] {
  let end = 0;
  for (let line = 0; line < bounds.rows && end >= 0 && end < sample.length; line++) {
    const next = sample.indexOf("\n", end);
    end = next < 0 ? sample.length : next + 1;
  }
  return readDelimited(sample.slice(0, end), delimiter, { ...bounds, rows: Number.POSITIVE_INFINITY }).cells;
}

function commonest(numbers: number[]): number {
  const counts = new Map<number, number>();
  let best = 0;
  for (const each of numbers) {
    const count = (counts.get(each) ?? 0) + 1;
    counts.set(each, count);
    if (count > (counts.get(best) ?? 0)) best = each;
  }
  return best;
}

/**
 * Parses delimited text: any of comma, semicolon, tab or bar; quotes and line breaks in cells; mixed line ends.
 * `literalQuotes` tells how many quotes did not close and were read as written. Throws `TooMuch`, and nothing else.
 */
export function parseDelimited(
  text: string,
  bounds: DelimitedBounds = { ...TABLE_BOUNDS, columns: WIDEST_LINE },
): { cells: string[][]; delimiter: string; literalQuotes: number } {
  const even = text.replace(/\r\n?/g, "\n");
  const delimiter = sniffDelimiter(even);
  return { ...readDelimited(even, delimiter, bounds), delimiter };
}

/**
 * Rows of cells to a table: where it begins, whether a header stands over it, and what its columns are called. Empty
 * rows fall out. Throws `TooMuch` for more columns than a list may have.
 */
export function tableOf(cells: readonly (readonly string[])[]): Table {
  const filled: string[][] = [];
  const at: number[] = [];
  for (const [index, row] of cells.entries()) {
    const tidied = tidyRow(row);
    if (tidied.length === 0) continue;
    filled.push(tidied);
    at.push(index + 1);
  }
  if (filled.length === 0) return { headers: [], rows: [], hasHeader: false, skipped: 0 };
  const header = findHeader(filled);
  const rows = header === null ? filled : filled.slice(header + 1);
  const names = header === null ? [] : filled[header];
  const width = rows.reduce((most, row) => Math.max(most, row.length), names.length);
  if (width > TABLE_BOUNDS.columns) throw new TooMuch("columns");
  const places = placesOf(at.slice(header === null ? 0 : header + 1));
  return { headers: headersOf(names, width), rows, hasHeader: header !== null, skipped: header ?? 0, places };
}

/** A row's tidied cells, without the empty ones at its end. */
function tidyRow(row: readonly string[]): string[] {
  let last = row.length;
  while (last > 0 && tidy(row[last - 1]) === "") last--;
  return Array.from({ length: last }, (_, index) => tidy(row[index]));
}

/** A name for each column, each once. */
function headersOf(names: readonly string[], width: number): string[] {
  const used = new Set<string>();
  const times = new Map<string, number>();
  return Array.from({ length: width }, (_, index) => {
    const base = (names[index] ?? "").replace(/\s+/g, " ").slice(0, LOOK) || `Column ${index + 1}`;
    const key = base.toLowerCase();
    let name = base;
    while (used.has(name.toLowerCase())) {
      const again = (times.get(key) ?? 1) + 1;
      times.set(key, again);
      name = `${base} (${again})`;
    }
    used.add(name.toLowerCase());
    return name;
  });
}

function tidy(cell: string | undefined): string {
  // Spreadsheets and old exports leave marks that nobody sees; NUL and halves of letters cannot be stored at all.
  const text = (cell ?? "")
    .slice(0, LONGEST_CELL)
    .replaceAll("\u0000", "")
    .replace(/[\u200b\u200e\u200f\ufeff]/g, "")
    .replace(/\u00a0/g, " ")
    .toWellFormed()
    .trim();
  // A spreadsheet's way of saying that a number is text.
  return text.startsWith('="') && text.endsWith('"') && text.length > 2 ? text.slice(2, -1) : text;
}

/** How far down a table may begin: titles, notes and a day stand above it. */
const DEEPEST_HEADER = 50;

/**
 * The header's row among the first fifty, or null: the first with mostly known words, else the one with the most of
 * them. No row that holds an address or a number is one, and none behind such a row; but a row much narrower than the
 * table is none of its rows, whatever it holds ("Printed: 24.11.2026").
 */
function findHeader(rows: string[][]): number | null {
  const widths = rows.slice(0, 4 * DEEPEST_HEADER).map((row) => row.filter(Boolean).length);
  const narrow = Math.max(2, Math.ceil(commonest(widths) / 2));
  let best: number | null = null;
  let bestKnown = 0;
  let top = 0;
  for (let index = 0; index < Math.min(DEEPEST_HEADER, rows.length); index++) {
    const cells = rows[index].filter(Boolean).slice(0, TABLE_BOUNDS.columns);
    const isData = cells.some(looksLikeData);
    const known = isData ? 0 : cells.filter((cell) => fieldOfHeader(cell.slice(0, LOOK))).length;
    if (known >= 2 && known * 2 >= cells.length) return index;
    if (cells.length < narrow || (cells.length <= 2 && isData && cells.every(isWordOrDay))) {
      if (top === index) top = index + 1;
      continue;
    }
    if (isData) break;
    if (known > bestKnown) {
      best = index;
      bestKnown = known;
    }
  }
  if (best !== null) return best;
  // Words nobody knows, over data that looks like data, are a header all the same.
  const [first, second] = [rows[top], rows[top + 1]];
  if (first && second && !first.some(looksLikeData) && first.filter(Boolean).length > 1 && second.some(looksLikeData))
    return top;
  return null;
}

/** "Printed:", "24.11.2026": what stands above a table, and no address of anybody. */
const isWordOrDay = (cell: string) => !looksLikeData(cell) || looksLikeDate(cell.slice(0, LOOK));

function looksLikeData(whole: string): boolean {
  const cell = whole.slice(0, LOOK);
  const at = cell.indexOf("@");
  return (
    (at >= 0 && cell.indexOf(".", at + 2) > 0) ||
    /^[+(]?\d[\d\s().+/:-]{4,}$/.test(cell) ||
    /^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}/.test(cell)
  );
}

/** What makes two files of one shape: the same columns in the same order. */
export function shapeOf(table: Table): string {
  return table.hasHeader
    ? table.headers.map((header) => header.toLowerCase()).join("\u001f")
    : `no header, ${table.headers.length} columns`;
}
