import { type DateOrder, looksLikeDate, readDate, settleOrder } from "../intake/dates";
import { fromLocal } from "../time/zone";
import { normaliseRating, type Scale } from "./rating";

/** Reviews that are brought in as a file: which column holds what, and what a row says. */

export const REVIEW_COLUMNS = ["author", "rating", "words", "date", "reply"] as const;
export type ReviewColumn = (typeof REVIEW_COLUMNS)[number];
export type ReviewMatching = (ReviewColumn | null)[];

export type ReviewTable = { headers: readonly string[]; rows: readonly (readonly string[])[]; hasHeader: boolean };

/** Words over a column, without accents: English, Spanish, French, German, Portuguese, Polish. */
const HEADERS: Record<ReviewColumn, RegExp> = {
  author:
    /^(?:author|name|reviewer|customer|client|user|by|from|who|autor|nombre|cliente|nom|auteur|kunde|verfasser|nome|klient|imie)\b/,
  rating:
    /^(?:rating|stars?|score|points?|marks?|grade|recommend\w*|nota|puntuacion|estrellas|valoracion|note|etoiles|bewertung|sterne|punkte|avaliacao|estrelas|ocena|gwiazdki)\b/,
  words:
    /^(?:words|text|review|comment\w*|body|message|content|feedback|opinion|resena|comentario\w*|texto|avis|commentaire\w*|texte|kommentar|rezension|comentarios|opinia|komentarz|tresc)\b/,
  date: /^(?:date|day|when|written|posted|created|time|published|fecha|le|datum|am|data|dzien)\b/,
  reply: /^(?:reply|response|answer|owner|respuesta|reponse|antwort|resposta|odpowiedz)\b/,
};

const plain = (text: string) =>
  text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase().replace(/[_-]+/g, " ").trim();

const headerOf = (text: string): ReviewColumn | null =>
  REVIEW_COLUMNS.find((column) => HEADERS[column].test(plain(text))) ??
  (/repl|respon|answer/.test(plain(text)) ? "reply" : null);

/** A table whose first row is a header that nobody took for one, with that row over its columns. */
export function withHeader(table: ReviewTable): ReviewTable {
  const [first] = table.rows;
  if (table.hasHeader || !first) return table;
  const known = first.filter((cell) => headerOf(cell) !== null && cell.length < 30).length;
  if (known < 2) return table;
  return {
    headers: table.headers.map((name, index) => first[index]?.trim() || name),
    rows: table.rows.slice(1),
    hasHeader: true,
  };
}

/** Which column holds what, by the words over it and by what stands in it. */
export function guessReviewColumns({ headers, rows, hasHeader }: ReviewTable): ReviewMatching {
  const cells = headers.map((_, index) =>
    rows
      .slice(0, 200)
      .map((row) => (row[index] ?? "").trim().slice(0, 300))
      .filter(Boolean),
  );
  const matching: ReviewMatching = headers.map((header) => (hasHeader ? headerOf(header) : null));
  for (const [index, column] of matching.entries())
    if (column && matching.indexOf(column) !== index) matching[index] = null;
  // A word over a column lies sometimes: a "note" is a mark in French, and anything in English.
  for (const [index, column] of matching.entries())
    if (column === "rating" && cells[index].length > 0 && !cells[index].some((cell) => readRating(cell) !== null))
      matching[index] = null;
  const most = (index: number, test: (cell: string) => boolean) =>
    cells[index].length > 0 && cells[index].filter(test).length >= cells[index].length * 0.8;
  const free = () => headers.map((_, index) => index).filter((index) => matching[index] === null);
  const take = (column: ReviewColumn, test: (index: number) => boolean) => {
    if (matching.includes(column)) return;
    const found = free().find(test);
    if (found !== undefined) matching[found] = column;
  };
  take("date", (index) => most(index, (cell) => looksLikeDate(cell) && !/^\d{1,2}([.,]\d)?$/.test(cell)));
  take("rating", (index) => most(index, (cell) => readRating(cell) !== null));
  const length = (index: number) =>
    cells[index].reduce((sum, cell) => sum + cell.length, 0) / Math.max(1, cells[index].length);
  const longest = free().sort((a, b) => length(b) - length(a))[0];
  take("words", (index) => index === longest && length(index) > 15);
  take("author", (index) => most(index, (cell) => /^\p{Lu}[\p{L}.'’ -]{1,40}$/u.test(cell)));
  return matching;
}

const YES = /^(?:yes|true|recommend(?:ed|s)?|positive|si|oui|ja|sim|tak|👍)$/;
const NO = /^(?:no|false|not recommended|does not recommend|negative|non|nein|nao|nie|👎)$/;

/** A rating as it was written: "4", "4 of 5", "8,3/10", "★★★★☆", "recommended". `of` is null where it does not say. */
export function readRating(text: string): { value: number; of: 5 | 10 | "recommend" | null } | null {
  if (/^\s*[-–]/.test(text)) return null;
  const cell = plain(text);
  const stars = (text.match(/[★⭐]/gu) ?? []).length;
  if (stars > 0) return { value: stars, of: 5 };
  if (YES.test(cell)) return { value: 1, of: "recommend" };
  if (NO.test(cell)) return { value: 0, of: "recommend" };
  const match = /^(\d{1,2}(?:[.,]\d{1,2})?)\s*(?:(?:\/|of|out of|von|de|sur|z)\s*(5|10)|stars?|points?)?$/.exec(cell);
  if (!match) return null;
  const value = Number(match[1].replace(",", "."));
  const of = match[2] === "10" ? 10 : match[2] === "5" ? 5 : null;
  return value <= (of ?? 10) ? { value, of } : null;
}

/** How a column of ratings counts: by what it says, else by its highest. */
export function scaleOf(ratings: readonly string[]): Scale {
  const read = ratings.flatMap((cell) => readRating(cell) ?? []);
  if (read.length > 0 && read.every(({ of }) => of === "recommend")) return "recommend";
  return read.some(({ value, of }) => of === 10 || value > 5) ? "ten" : "five";
}

export type ReadReview =
  | { ok: true; author: string; value: number; rating: number; words: string; writtenAt: number; reply: string | null }
  | { ok: false; line: number; problem: "no rating" | "no date" | "in the future" | "empty" };

export type ReadImport = {
  scale: Scale;
  order: DateOrder;
  reviews: Extract<ReadReview, { ok: true }>[];
  wrong: Extract<ReadReview, { ok: false }>[];
};

/**
 * All rows as reviews; `zone` is the branch's, `now` in milliseconds since the epoch. Lines count from 1, the header not
 * counted. Without a column of dates a review counts as written at `now`.
 */
export function readReviewRows(
  table: ReviewTable,
  matching: ReviewMatching,
  it: { zone: string; now: number; since1904?: boolean },
): ReadImport {
  const at = (column: ReviewColumn) => matching.indexOf(column);
  const cell = (row: readonly string[], column: ReviewColumn) => (at(column) < 0 ? "" : (row[at(column)] ?? "").trim());
  const scale = scaleOf(table.rows.map((row) => cell(row, "rating")));
  const settled = settleOrder(table.rows.map((row) => cell(row, "date")));
  const order: DateOrder = settled === "month first" ? "month first" : "day first";
  const found: ReadImport = { scale, order, reviews: [], wrong: [] };
  for (const [index, row] of table.rows.entries()) {
    const read = readRow(row);
    if (read.ok) found.reviews.push(read);
    else found.wrong.push({ ...read, line: index + 1 });
  }
  return found;

  function readRow(row: readonly string[]): ReadReview {
    if (row.every((each) => each.trim() === "")) return { ok: false, line: 0, problem: "empty" };
    const rating = readRating(cell(row, "rating"));
    const highest = scale === "ten" ? 10 : scale === "five" ? 5 : 1;
    if (
      !rating ||
      (rating.of === "recommend") !== (scale === "recommend") ||
      rating.value > highest ||
      (scale !== "recommend" && rating.value < 1)
    )
      return { ok: false, line: 0, problem: "no rating" };
    // "4 of 5" in a column of ten points.
    const value = scale === "ten" && rating.of === 5 ? rating.value * 2 : rating.value;
    let writtenAt = it.now;
    if (at("date") >= 0) {
      const date = readDate(cell(row, "date"), order, it.since1904);
      if (!date.ok) return { ok: false, line: 0, problem: "no date" };
      // A day without a time is its noon.
      const local = date.hasTime ? date.local : date.local + 12 * 3_600_000;
      writtenAt = date.isUtc ? local : fromLocal(it.zone, local);
      if (writtenAt > it.now + 24 * 3_600_000) return { ok: false, line: 0, problem: "in the future" };
      writtenAt = Math.min(writtenAt, it.now);
    }
    return {
      ok: true,
      author: cell(row, "author").slice(0, 200) || "Someone",
      value,
      rating: normaliseRating(value, scale),
      words: cell(row, "words").slice(0, 20_000),
      writtenAt,
      reply: cell(row, "reply").slice(0, 20_000) || null,
    };
  }
}
