import { DAY, MINUTE } from "../time/zone";

/** Dates as people and programs write them. "Local" values are wall-clock readings in milliseconds, as in time/zone. */

export type DateOrder = "day first" | "month first";

type Loose = { a: number; b: number; year: number; rest: string };

const NUMERIC = /^(\d{1,2})[-/. ](\d{1,2})[-/. ](\d{4}|\d{2})(?:[,T\s]+(.*))?$/;
const YEAR_FIRST = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T,\s]+(.*))?$/;
const COMPACT = /^(\d{4})(\d{2})(\d{2})(?:T?(\d{2})(\d{2})(\d{2})?(Z)?)?$/;

const MONTHS: string[][] = [
  ["jan", "january", "enero", "ene", "janvier", "janv", "januar", "janner", "janeiro"],
  ["feb", "february", "febrero", "fevrier", "fevr", "fev", "februar", "fevereiro"],
  ["mar", "march", "marzo", "mars", "marz", "mrz", "marco"],
  ["apr", "april", "abril", "abr", "avril", "avr"],
  ["may", "mayo", "mai", "maio"],
  ["jun", "june", "junio", "juin", "juni", "junho"],
  ["jul", "july", "julio", "juillet", "juil", "juli", "julho"],
  ["aug", "august", "agosto", "ago", "aout"],
  ["sep", "sept", "september", "septiembre", "septembre", "setembro", "set"],
  ["oct", "october", "octubre", "octobre", "oktober", "okt", "outubro", "out"],
  ["nov", "november", "noviembre", "novembre", "novembro"],
  ["dec", "december", "diciembre", "dic", "decembre", "dezember", "dez", "dezembro"],
];
const MONTH_OF = new Map(MONTHS.flatMap((names, index) => names.map((name) => [name, index + 1] as const)));

const plain = (text: string) => text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

function loose(text: string): Loose | null {
  const match = NUMERIC.exec(text.trim());
  if (!match) return null;
  return { a: Number(match[1]), b: Number(match[2]), year: fullYear(match[3]), rest: match[4] ?? "" };
}

function fullYear(text: string): number {
  const year = Number(text);
  if (text.length > 2) return year;
  return year < 70 ? 2000 + year : 1900 + year;
}

/**
 * Which comes first in a column of dates: settled by any date that can be read only one way. `null` when every date
 * can be read both ways (and at least one needs the choice); "mixed" when some need one order and some the other.
 */
export function settleOrder(column: readonly (string | undefined)[]): DateOrder | "mixed" | "either" | null {
  let dayFirst = 0;
  let monthFirst = 0;
  let open = 0;
  for (const cell of column) {
    const date = loose((cell ?? "").slice(0, LONGEST_DATE));
    if (!date || date.a === date.b) continue;
    if (date.a > 12 && date.b <= 12) dayFirst += 1;
    else if (date.b > 12 && date.a <= 12) monthFirst += 1;
    else if (date.a <= 12 && date.b <= 12) open += 1;
  }
  if (dayFirst > 0 && monthFirst > 0) return "mixed";
  if (dayFirst > 0) return "day first";
  if (monthFirst > 0) return "month first";
  return open > 0 ? null : "either";
}

export type ReadDate =
  | {
      ok: true;
      local: number;
      hasTime: boolean /** The text named its own offset: `local` is UTC then. */;
      isUtc: boolean;
    }
  | { ok: false };

/** No date is written with more letters. */
const LONGEST_DATE = 80;

const FAIL: ReadDate = { ok: false };

/**
 * One date, with or without a time. Understands ISO 8601, numeric dates in `order`, names of months in five languages
 * and day numbers of spreadsheets (days since 1899-12-30; `since1904` for the other kind). `local` is the wall-clock
 * reading, or UTC with `isUtc` where the text names an offset.
 */
export function readDate(text: string, order: DateOrder, since1904 = false): ReadDate {
  const cell = text.length > LONGEST_DATE ? "" : text.trim();
  if (!cell) return FAIL;
  const iso = YEAR_FIRST.exec(cell);
  if (iso) return assemble(Number(iso[1]), Number(iso[2]), Number(iso[3]), iso[4] ?? "");
  const numeric = loose(cell);
  if (numeric) {
    const [day, month] = order === "day first" ? [numeric.a, numeric.b] : [numeric.b, numeric.a];
    return assemble(numeric.year, month, day, numeric.rest);
  }
  const compact = COMPACT.exec(cell);
  if (compact) {
    const time = compact[4] ? `${compact[4]}:${compact[5]}:${compact[6] ?? "00"}${compact[7] ?? ""}` : "";
    return assemble(Number(compact[1]), Number(compact[2]), Number(compact[3]), time);
  }
  if (/^\d{5}(?:[.,]\d+)?$/.test(cell)) return fromSerial(Number(cell.replace(",", ".")), since1904);
  return named(cell);
}

/** "24 Nov 2026 14:05", "Tuesday, November 24, 2026", "24 de noviembre de 2026", "24. November 2026". */
function named(cell: string): ReadDate {
  const words = plain(cell)
    .replace(/,/g, " ")
    .replace(/(\d)(?:st|nd|rd|th|er|o|º)\b/g, "$1")
    .split(/\s+/)
    .filter((word) => word && word !== "de" && word !== "del" && word !== "of" && word !== "le")
    .flatMap((word) => (/^\d{1,2}-\p{L}+-\d{2,4}$/u.test(word) ? word.split("-") : [word]));
  const at = words.findIndex((word) => MONTH_OF.has(word.replace(/\.$/, "")));
  if (at < 0) return FAIL;
  const month = MONTH_OF.get(words[at].replace(/\.$/, "")) ?? 0;
  const number = (word: string | undefined) =>
    word && /^\d{1,2}\.?$/.test(word) ? Number(word.replace(".", "")) : null;
  const year = (word: string | undefined) =>
    word && /^(?:\d{4}|'?\d{2})$/.test(word) ? fullYear(word.replace("'", "")) : null;
  const before = number(words[at - 1]);
  if (before !== null) {
    const found = year(words[at + 1]);
    return found === null ? FAIL : assemble(found, month, before, words.slice(at + 2).join(" "));
  }
  const after = number(words[at + 1]);
  const found = year(words[at + 2]);
  return after === null || found === null ? FAIL : assemble(found, month, after, words.slice(at + 3).join(" "));
}

function assemble(year: number, month: number, day: number, rest: string): ReadDate {
  if (year < 1900 || year > 2200 || month < 1 || month > 12 || day < 1) return FAIL;
  const start = Date.UTC(year, month - 1, day);
  if (new Date(start).getUTCDate() !== day) return FAIL;
  const text = rest.trim();
  if (!text) return { ok: true, local: start, hasTime: false, isUtc: false };
  // Hours alone are an offset only behind seconds, as databases write them; "10:00-11" is a span.
  const offset = /(?:Z|UTC|GMT|[+-](?:0\d|1[0-4]):?[0-5]\d|(?<=:\d{2}(?::\d{2}|\.\d{1,9}))[+-](?:0\d|1[0-4]))$/i.exec(
    text,
  );
  // Behind a zone's name stands nothing more: "10:00 UTC+2" is told by the sign alone.
  const time = readTime((offset ? text.slice(0, offset.index) : text).replace(/\s*(?:UTC|GMT)$/i, ""));
  if (time === null) return FAIL;
  return {
    ok: true,
    local: start + time - (offset ? offsetMillis(offset[0]) : 0),
    hasTime: true,
    isUtc: offset !== null,
  };
}

function offsetMillis(text: string): number {
  const [, sign, hours, minutes] = /([+-])(\d{2}):?(\d{2})?/.exec(text) ?? [];
  return sign ? (sign === "-" ? -1 : 1) * (Number(hours) * 60 + Number(minutes ?? 0)) * MINUTE : 0;
}

/**
 * A time of day in milliseconds after midnight, or null: "14:05", "2.05 pm", "14h05", "1405", "0.5868" (part of a
 * day).
 */
export function readTime(text: string): number | null {
  const cell = text.length > LONGEST_DATE ? "" : text.trim().toLowerCase();
  if (/^0?[.,]\d+$/.test(cell)) return Math.round((Number(cell.replace(",", ".")) * DAY) / 1000) * 1000;
  const match =
    /^(\d{1,2})(?:[:.h]\s?(\d{2}))?(?::(\d{2})(?:[.,]\d+)?)?\s*(?:uhr|h|hrs)?\s*([ap])?\.?\s?m?\.?$/.exec(cell) ??
    /^(\d{2})(\d{2})()()$/.exec(cell);
  if (!match) return null;
  let hour = Number(match[1]);
  const minute = Number(match[2] ?? 0);
  const second = Number(match[3] || 0);
  if (match[4] === "p" && hour < 12) hour += 12;
  if (match[4] === "a" && hour === 12) hour = 0;
  if (match[2] === undefined && !match[4] && !/h|uhr/.test(cell)) return null;
  if (hour > 23 || minute > 59 || second > 59) return null;
  return (hour * 3600 + minute * 60 + second) * 1000;
}

/** Day numbers of spreadsheets count from 30 December 1899, or in some from 1 January 1904. */
function fromSerial(serial: number, since1904: boolean): ReadDate {
  const days = since1904 ? serial + 1462 : serial;
  // 1970 to 2099: anything else is a number, not a date.
  if (days < 25_569 || days > 73_050) return FAIL;
  const whole = Math.floor(days);
  const time = Math.round(((days - whole) * DAY) / 1000) * 1000;
  return { ok: true, local: (whole - 25_569) * DAY + time, hasTime: time > 0, isUtc: false };
}

/** Whether a cell could be a date at all, in either order. */
export function looksLikeDate(text: string): boolean {
  return readDate(text, "day first").ok || readDate(text, "month first").ok;
}
