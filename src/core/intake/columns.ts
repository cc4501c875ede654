import { normaliseEmail } from "../contacts/email";
import { looksLikeDate, readTime } from "./dates";
import { type Field, fieldOfHeader, readOutcome } from "./fields";
import type { Table } from "./table";

/** Which field each column holds; null for a column that is left aside. */
export type Matching = (Field | null)[];

const SAMPLE = 200;
/** How much of a cell tells what it is. */
const LOOK = 300;
/** Fields that several columns may fill: their cells are joined. */
const MANY: readonly Field[] = ["note", "tags", "postal address", "phone", "email"];

/**
 * Guesses the columns by their headers and by what their cells look like. `taken` columns are never guessed twice,
 * save for notes, tags and addresses.
 */
export function guessColumns(table: Table): Matching {
  const cells = table.headers.map((_, index) =>
    table.rows
      .slice(0, SAMPLE)
      .map((row) => (row[index] ?? "").slice(0, LOOK))
      .filter(Boolean),
  );
  const matching: Matching = table.headers.map((header, index) => {
    const named = table.hasHeader ? fieldOfHeader(header) : null;
    return named && fits(named, cells[index]) ? named : null;
  });
  dropRepeats(matching);
  for (const [index, list] of cells.entries()) {
    if (matching[index] || list.length === 0) continue;
    const seen = guessByLook(list);
    if (seen && !matching.includes(seen)) matching[index] = seen;
  }
  // A name alone is a whole name; "Name" beside "Surname" is the first of the two.
  const whole = matching.indexOf("full name");
  const given = matching.indexOf("given name");
  const family = matching.indexOf("family name");
  if (whole >= 0 && family >= 0 && given < 0) matching[whole] = "given name";
  if (given >= 0 && family < 0 && whole < 0 && mostly(cells[given], (cell) => /\S\s+\S|,/.test(cell)))
    matching[given] = "full name";
  if (family >= 0 && given < 0 && whole < 0 && mostly(cells[family], (cell) => /\S\s+\S|,/.test(cell)))
    matching[family] = "full name";
  if (
    !matching.some((field) => field === "full name" || field === "given name" || field === "family name") &&
    !table.hasHeader
  )
    guessNames(matching, cells);
  return matching;
}

/** Words over a column lie sometimes: an "Email" without a single address is none. An empty column keeps its name. */
function fits(field: Field, cells: string[]): boolean {
  if (cells.length === 0) return true;
  if (field === "email" || field === "guardian email") return cells.some((cell) => cell.includes("@"));
  if (field === "phone" || field === "guardian phone") return cells.some((cell) => cell.replace(/\D/g, "").length >= 5);
  if (field === "visit date" || field === "birth date") return cells.some(looksLikeDate);
  if (field === "visit time") return cells.some((cell) => readTime(cell) !== null || looksLikeDate(cell));
  if (field === "customer number" || field === "visit number") return !mostly(cells, (cell) => cell.includes("@"));
  return true;
}

function dropRepeats(matching: Matching): void {
  const seen = new Set<Field>();
  for (const [index, field] of matching.entries()) {
    if (!field || MANY.includes(field)) continue;
    if (seen.has(field)) matching[index] = null;
    seen.add(field);
  }
}

function mostly(cells: readonly string[], test: (cell: string) => boolean): boolean {
  return cells.length > 0 && cells.filter(test).length >= cells.length * 0.6;
}

function guessByLook(cells: string[]): Field | null {
  if (mostly(cells, (cell) => normaliseEmail(cell) !== null)) return "email";
  if (mostly(cells, (cell) => readTime(cell) !== null && /[:h]/.test(cell))) return "visit time";
  if (mostly(cells, (cell) => looksLikeDate(cell) && !/^\d{5}$/.test(cell)))
    return mostly(cells, isLongAgo) ? "birth date" : "visit date";
  if (
    mostly(
      cells,
      (cell) => /^[+(]?[\d\s().-]{7,20}$/.test(cell) && /\d{7,}/.test(cell.replace(/\D/g, "")) && /^[+(0]/.test(cell),
    )
  )
    return "phone";
  if (mostly(cells, (cell) => readOutcome(cell) !== null && cell.length > 3)) return "outcome";
  return null;
}

function isLongAgo(cell: string): boolean {
  return /\b(?:19\d\d|200\d|201[0-5])\b/.test(cell);
}

/**
 * Without headers, the first column of words is the name; when the next is of single words too, they are first and
 * last.
 */
function guessNames(matching: Matching, cells: string[][]): void {
  const wordy = cells.flatMap((list, index) =>
    matching[index] === null && mostly(list, (cell) => /^\p{L}[\p{L}\s.,'’-]{1,60}$/u.test(cell)) ? [index] : [],
  );
  const [first, second] = wordy;
  if (first === undefined) return;
  const single = (index: number) => mostly(cells[index], (cell) => !/[\s,]/.test(cell));
  if (second === first + 1 && single(first) && single(second)) {
    matching[first] = "given name";
    matching[second] = "family name";
  } else matching[first] = "full name";
}

/** One row's cells by field; cells of several columns for one field are joined by a new line. */
export function fieldsOfRow(row: readonly string[], matching: Matching): Partial<Record<Field, string>> {
  const fields: Partial<Record<Field, string>> = {};
  for (let index = 0; index < matching.length; index++) {
    const field = matching[index];
    const cell = row[index];
    if (!field || !cell) continue;
    fields[field] = fields[field] ? `${fields[field]}\n${cell}` : cell;
  }
  return fields;
}
