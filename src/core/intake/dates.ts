import { DAY, MINUTE } from "../time/zone";

/** Dates as people and programs write them. "Local" values are wall-clock readings in milliseconds, as in time/zone. */

export type DateOrder = "day first" | "month first";

type Loose = { a: number; b: number; year: number; rest: string };

const NUMERIC = /^(\d{1,2})[-/. ](\d{1,2})[-/. ](\d{4}|\d{2})(?:[,T\s]+(.*))?$/;
const YEAR_FIRST = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[T,\s]+(.*))?$/;
const COMPACT = /^(\d{4})(\d{2})(\d{2})(?:[T ]?(\d{2})(\d{2})(\d{2})?(Z)?)?$/;

const MONTHS: string[][] = [
  ["jan", "january", "enero", "ene", "janvier", "janv", "januar", "janner", "janeiro", "styczen", "stycznia", "sty"],
  ["feb", "february", "febrero", "fevrier", "fevr", "fev", "februar", "fevereiro", "luty", "lutego", "lut"],
  ["mar", "march", "marzo", "mars", "marz", "mrz", "marco", "marzec", "marca"],
  ["apr", "april", "abril", "abr", "avril", "avr", "kwiecien", "kwietnia", "kwi"],
  ["may", "mayo", "mai", "maio", "maj", "maja"],
  ["jun", "june", "junio", "juin", "juni", "junho", "czerwiec", "czerwca", "cze"],
  ["jul", "july", "julio", "juillet", "juil", "juli", "julho", "lipiec", "lipca", "lip"],
  ["aug", "august", "agosto", "ago", "aout", "sierpien", "sierpnia", "sie"],
  ["sep", "sept", "september", "septiembre", "septembre", "setembro", "set", "wrzesien", "wrzesnia", "wrz"],
  ["oct", "october", "octubre", "octobre", "oktober", "okt", "outubro", "out", "pazdziernik", "pazdziernika", "paz"],
  ["nov", "november", "noviembre", "novembre", "novembro", "listopad", "listopada", "lis"],
  ["dec", "december", "diciembre", "dic", "decembre", "dezember", "dez", "dezembro", "grudzien", "grudnia", "gru"],
];
const MONTH_OF = new Map(MONTHS.flatMap((names, index) => names.map((name) => [name, index + 1] as const)));

/** Days of the week, as they stand before a date or behind it: they say nothing that the date does not. */
const WEEKDAYS =
  "mon(?:day)?|tue(?:s(?:day)?)?|wed(?:nesday)?|thu(?:r(?:s(?:day)?)?)?|fri(?:day)?|sat(?:urday)?|sun(?:day)?|lun(?:es|di)?|mar(?:tes|di)?|mie(?:rcoles)?|jue(?:ves)?|vie(?:rnes)?|sab(?:ado)?|dom(?:ingo)?|mer(?:credi)?|jeu(?:di)?|ven(?:dredi)?|sam(?:edi|stag)?|dim(?:anche)?|mo(?:ntag)?|di(?:enstag)?|mi(?:ttwoch)?|do(?:nnerstag)?|fr(?:eitag)?|sa|so(?:nntag)?|sonnabend|segunda(?: feira)?|terca(?: feira)?|quarta(?: feira)?|quinta(?: feira)?|sexta(?: feira)?|pon(?:iedzialek)?|wt(?:orek)?|sr(?:oda)?|czw(?:artek)?|pt|piatek|sob(?:ota)?|niedz(?:iela)?|nd";
const WEEKDAY_FIRST = new RegExp(
  `^\\(?(?:${WEEKDAYS})\\)?[.,]?\\s+(?=\\d{1,4}[./-]\\d|\\d{1,2}\\.?\\s+[^\\d\\s])`,
  "i",
);
const WEEKDAY_LAST = new RegExp(`(?<=\\d)[,\\s]+\\(?(?:${WEEKDAYS})\\)?[.]?$`, "i");
const ROMAN = ["i", "ii", "iii", "iv", "v", "vi", "vii", "viii", "ix", "x", "xi", "xii"];

/** A date without what people put around it: weekdays, "at", "r." for "year"; Roman and East Asian ones in figures. */
function bare(text: string): string {
  const trimmed = text.trim();
  // Most cells are figures alone.
  if (!/[^\d\s./:,-]/.test(trimmed)) return trimmed;
  return trimmed
    .replace(/\u0142/g, "l")
    .replace(/^(\d{4})\s?\u5e74\s?(\d{1,2})\s?\u6708\s?(\d{1,2})\s?\u65e5/, "$1-$2-$3 ")
    .replace(/[\u00b4\u2019\u2018](?=\d{1,2}[\u00b4\u2019\u2018])|(?<=\d)[\u00b4\u2019\u2018](?=\d{4}$)/g, "/")
    .replace(/^(\d{1,2})([./ -])([ivx]{1,4})\2(?=\d{4}|\d{2}$)/i, (whole, day: string, mark: string, month: string) => {
      const number = ROMAN.indexOf(month.toLowerCase()) + 1;
      return number > 0 ? `${day}${mark}${number}${mark}` : whole;
    })
    .replace(WEEKDAY_FIRST, "")
    .replace(WEEKDAY_LAST, "")
    .replace(/(?<=\d)\s?(?:r|\u0433)\.?$/i, "")
    .replace(
      /(?<=\d),?\s+(?:at|um|gegen|\u00e0|a las|las|\u00e0s|as|o|godz\.?)\s+(?=\d{1,2}(?:[:.h]|\s?[ap]m|$))/i,
      " ",
    )
    .trim();
}

const plain = (text: string) => text.normalize("NFKD").replace(/\p{M}/gu, "").toLowerCase();

function loose(text: string): Loose | null {
  const match = NUMERIC.exec(bare(text));
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
 * One date, with or without a time. Understands ISO 8601, numeric dates in `order`, names of months in six languages
 * and day numbers of spreadsheets (days since 1899-12-30; `since1904` for the other kind). `local` is the wall-clock
 * reading, or UTC with `isUtc` where the text names an offset.
 */
export function readDate(text: string, order: DateOrder, since1904 = false): ReadDate {
  const cell = text.length > LONGEST_DATE ? "" : bare(text);
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
    .flatMap((word) =>
      /^(?:\d{1,4}-\p{L}+-\d{1,4}|\p{L}+-\d{1,2}-\d{4})$/u.test(word)
        ? word.split("-")
        : /^\d{1,2}\p{L}{3,10}\.?(?:\d{2}|\d{4})$/u.test(word)
          ? (word.match(/\d+|\p{L}+/gu) ?? [])
          : [word],
    );
  const at = words.findIndex((word) => MONTH_OF.has(word.replace(/\.$/, "")));
  if (at < 0) return FAIL;
  const month = MONTH_OF.get(words[at].replace(/\.$/, "")) ?? 0;
  const number = (word: string | undefined) =>
    word && /^\d{1,2}\.?$/.test(word) ? Number(word.replace(".", "")) : null;
  const year = (word: string | undefined) =>
    word && /^(?:\d{4}|'?\d{2})$/.test(word) ? fullYear(word.replace("'", "")) : null;
  if (/^\d{4}$/.test(words[at - 1] ?? "")) {
    const day = number(words[at + 1]);
    return day === null ? FAIL : assemble(Number(words[at - 1]), month, day, words.slice(at + 2).join(" "));
  }
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
