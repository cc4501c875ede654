import Papa from "papaparse";
import { fieldOfHeader } from "./fields";

/** Delimited text to rows and columns: delimiter and header row are found by looking, not by asking. */

export type Table = {
  /** One name for each column; made up ("Column 3") where there is no header or it is empty or stands twice. */
  headers: string[];
  rows: string[][];
  /** Which line of the source each row began at, for messages: 1 for the first. */
  hasHeader: boolean;
  /** Lines above the header that were no part of the table: a title, an empty line. */
  skipped: number;
};

const DELIMITERS = [",", ";", "\t", "|"] as const;

/**
 * The delimiter that splits the first lines most evenly. Quoted cells are respected. A single column gives a comma.
 */
export function sniffDelimiter(text: string): string {
  const sample = text.slice(0, 64_000);
  let best: string = ",";
  let bestScore = 0;
  for (const delimiter of DELIMITERS) {
    const { data } = Papa.parse<string[]>(sample, { delimiter, preview: 30, skipEmptyLines: "greedy" });
    // The last row of a cut sample may be broken.
    const rows = sample.length < text.length && data.length > 1 ? data.slice(0, -1) : data;
    const widths = rows.map((row) => row.length);
    const width = commonest(widths);
    if (width < 2) continue;
    const even = widths.filter((each) => each === width).length / widths.length;
    const known = Math.max(...rows.slice(0, 5).map((row) => row.filter((cell) => fieldOfHeader(cell)).length), 0);
    const score = even * 10 + Math.min(width, 12) * 0.2 + known * 2;
    if (score > bestScore) {
      bestScore = score;
      best = delimiter;
    }
  }
  return best;
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

/** Parses delimited text: any of comma, semicolon, tab or bar; quotes and line breaks in cells; mixed line ends. Never throws. */
export function parseDelimited(text: string): { cells: string[][]; delimiter: string } {
  const even = text.replace(/\r\n?/g, "\n");
  const delimiter = sniffDelimiter(even);
  const { data } = Papa.parse<string[]>(even, { delimiter, newline: "\n", skipEmptyLines: false });
  return { cells: data, delimiter };
}

/** Rows of cells to a table: where it begins, whether a header stands over it, and what its columns are called. Empty rows fall out. */
export function tableOf(cells: readonly (readonly string[])[]): Table {
  const filled = cells.map((row) => row.map((cell) => tidy(cell ?? ""))).filter((row) => row.some((cell) => cell !== ""));
  if (filled.length === 0) return { headers: [], rows: [], hasHeader: false, skipped: 0 };
  const header = findHeader(filled);
  const rows = header === null ? filled : filled.slice(header + 1);
  const width = Math.max(...filled.slice(header ?? 0, (header ?? 0) + 50).map((row) => row.length), ...[0]);
  const wide = rows.reduce((most, row) => Math.max(most, row.length), width);
  const names = header === null ? [] : filled[header];
  const used = new Set<string>();
  const headers = Array.from({ length: wide }, (_, index) => {
    const base = (names[index] ?? "").replace(/\s+/g, " ") || `Column ${index + 1}`;
    let name = base;
    for (let again = 2; used.has(name.toLowerCase()); again++) name = `${base} (${again})`;
    used.add(name.toLowerCase());
    return name;
  });
  // Columns beyond the header that nobody filled are no columns.
  let last = headers.length;
  while (last > 0 && !names[last - 1] && rows.every((row) => !row[last - 1])) last--;
  return {
    headers: headers.slice(0, last),
    rows: rows.map((row) => Array.from({ length: last }, (_, index) => row[index] ?? "")),
    hasHeader: header !== null,
    skipped: header ?? 0,
  };
}

function tidy(cell: string): string {
  // Spreadsheets and old exports leave marks that nobody sees; NUL cannot be stored at all.
  return cell
    .replaceAll("\u0000", "")
    .replace(/[\u200b\u200e\u200f\ufeff]/g, "")
    .replace(/\u00a0/g, " ")
    .trim();
}

/** The header's row among the first ten, or null: the one with the most known words; it holds no address and no number. */
function findHeader(rows: string[][]): number | null {
  let best: number | null = null;
  let bestKnown = 0;
  for (let index = 0; index < Math.min(10, rows.length); index++) {
    const cells = rows[index].filter(Boolean);
    if (cells.some(looksLikeData)) continue;
    const known = cells.filter((cell) => fieldOfHeader(cell)).length;
    if (known > bestKnown) {
      best = index;
      bestKnown = known;
    }
  }
  if (best !== null) return best;
  // Words nobody knows, over data that looks like data, are a header all the same.
  const [first, second] = rows;
  if (first && second && !first.some(looksLikeData) && first.filter(Boolean).length > 1 && second.some(looksLikeData)) return 0;
  return null;
}

function looksLikeData(cell: string): boolean {
  return /@.+\./.test(cell) || /^[+(]?\d[\d\s().+/:-]{4,}$/.test(cell) || /^\d{1,4}[-/.]\d{1,2}[-/.]\d{1,4}/.test(cell);
}

/** What makes two files of one shape: the same columns in the same order. */
export function shapeOf(table: Table): string {
  return table.hasHeader ? table.headers.map((header) => header.toLowerCase()).join("\u001f") : `no header, ${table.headers.length} columns`;
}
