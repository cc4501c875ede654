/**
 * Delimited text (RFC 4180 and what programs make of it) to rows of cells. One pass, linear in the text's length
 * whatever it holds.
 *
 * A cell is quoted when it begins with a quote and the quote closes right before a delimiter or a line's end, on the
 * same line or a later one. A quote that does not close so is a character like any other (`12" pipe`, `"big" dog`,
 * `"Buddy" Marsh`): it swallows no row.
 */

export type Delimited = {
  cells: string[][];
  /** How many cells began with a quote that did not close, and were read as written. */
  literalQuotes: number;
};

export type DelimitedBounds = { rows: number; cells: number; columns: number };

/** Thrown where a text holds more than was bargained for; `bound` says what. */
export class TooMuch extends Error {
  constructor(readonly bound: keyof DelimitedBounds) {
    super(`more ${bound} than allowed`);
  }
}

const QUOTE = 0x22;
const NEWLINE = 0x0a;
const SPACE = 0x20;

/** Reads `text`, whose lines end with "\n". Rows in order, empty ones too. Throws `TooMuch`. */
export function readDelimited(text: string, delimiter: string, bounds: DelimitedBounds): Delimited {
  const mark = delimiter.charCodeAt(0);
  const cells: string[][] = [];
  let literalQuotes = 0;
  let count = 0;
  let at = 0;
  // The next quote of the text, looked for once: behind the last one no quoted cell can close.
  let nextQuote = -1;
  const quoteFrom = (from: number): number => {
    if (nextQuote < from && nextQuote !== text.length) {
      const found = text.indexOf('"', from);
      nextQuote = found < 0 ? text.length : found;
    }
    return nextQuote;
  };

  /** The end of a quoted cell whose content begins at `from`: where its closing quote stands, or -1. */
  const closing = (from: number): number => {
    for (let place = quoteFrom(from); place < text.length; ) {
      if (text.charCodeAt(place + 1) === QUOTE) {
        place = quoteFrom(place + 2);
        continue;
      }
      const next = skipSpaces(text, place + 1);
      const after = text.charCodeAt(next);
      return next >= text.length || after === mark || after === NEWLINE ? place : -1;
    }
    return -1;
  };

  while (at < text.length) {
    const row: string[] = [];
    const began = at;
    let lines = 0;
    let plainOnly = false;
    for (;;) {
      const start = mark === SPACE ? at : skipSpaces(text, at);
      const opens = openingLength(text, start);
      const end = opens > 0 && !plainOnly ? closing(start + opens) : -1;
      if (end >= 0) {
        const content = text.slice(start + opens, end);
        row.push(content.includes('"') ? content.replaceAll('""', '"') : content);
        if (content.includes("\n")) lines += 1;
        at = skipSpaces(text, end + 1);
      } else {
        if (opens > 0) literalQuotes += 1;
        const stop = endOfPlain(text, at, mark);
        row.push(text.slice(at, stop));
        at = stop;
      }
      if (row.length > bounds.columns) throw new TooMuch("columns");
      if (at < text.length && text.charCodeAt(at) === mark) {
        at += 1;
        continue;
      }
      if (
        lines > 0 &&
        !plainOnly &&
        cells.length > 0 &&
        spansRows(text, began, at, mark, [cells[0].length, cells[cells.length - 1].length], row.length)
      ) {
        row.length = 0;
        at = began;
        plainOnly = true;
        continue;
      }
      break;
    }
    at += 1;
    cells.push(row);
    count += row.length;
    if (cells.length > bounds.rows) throw new TooMuch("rows");
    if (count > bounds.cells) throw new TooMuch("cells");
  }
  return { cells, literalQuotes };
}

/** How long the beginning of a quoted cell is: a quote, or a spreadsheet's `="`. */
function openingLength(text: string, at: number): number {
  if (text.charCodeAt(at) === QUOTE) return 1;
  return text.charCodeAt(at) === 0x3d && text.charCodeAt(at + 1) === QUOTE ? 2 : 0;
}

function skipSpaces(text: string, at: number): number {
  let place = at;
  while (text.charCodeAt(place) === SPACE) place += 1;
  return place;
}

function endOfPlain(text: string, from: number, mark: number): number {
  for (let place = from; place < text.length; place++) {
    const code = text.charCodeAt(place);
    if (code === mark || code === NEWLINE) return place;
  }
  return text.length;
}

/**
 * Whether the lines from `began` to `end`, which a quoted cell joins, are rows of their own all the same. A joined row
 * that is as wide as rows are is one row, as RFC 4180 has it, unless every line of it is that wide, too, and has an
 * address or a date in the same column: then two quotes met by chance. A joined row of another width is split where its
 * first line alone is as wide as rows are.
 */
function spansRows(
  text: string,
  began: number,
  end: number,
  mark: number,
  widths: readonly number[],
  joined: number,
): boolean {
  const isWide = (width: number) => width > 1 && widths.includes(width);
  if (!widths.includes(joined)) return isWide(plainWidth(text, began, mark));
  let telling: number[] | null = null;
  for (let from = began; from <= end; ) {
    const line = text.slice(from, lineEnd(text, from)).split(String.fromCharCode(mark));
    if (!isWide(line.length)) return false;
    const own = line.flatMap((cell, column) => (TELLING.test(cell) ? [column] : []));
    telling = telling === null ? own : telling.filter((column) => own.includes(column));
    if (telling.length === 0) return false;
    from = lineEnd(text, from) + 1;
  }
  return true;
}

/** A cell that is an email address, a date or a phone number, and so tells what its column holds. */
const TELLING =
  /^\s*(?:[^\s@"]{1,64}@[^\s@"]{1,190}\.[^\s@"]{2,20}|\d{1,4}[./-]\d{1,2}[./-]\d{1,4}|\+?\d[\d ()./-]{5,18}\d)\s*$/;

function lineEnd(text: string, from: number): number {
  const found = text.indexOf("\n", from);
  return found < 0 ? text.length : found;
}

/** How many cells the line that begins at `from` has when its quotes mean nothing. */
function plainWidth(text: string, from: number, mark: number): number {
  let width = 1;
  for (let place = from; place < text.length && text.charCodeAt(place) !== NEWLINE; place++)
    if (text.charCodeAt(place) === mark) width += 1;
  return width;
}
