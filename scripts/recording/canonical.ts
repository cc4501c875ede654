import { createHash } from "node:crypto";

/**
 * A recording with identifiers and tokens of its own: each comes from what its row says, so that the same history gives
 * the same recording, in whatever order its parts were written.
 */

/** A table as text, column by column in the order of `columns`. */
export type RecordedTable = { name: string; columns: string[]; rows: (string | null)[][] };
/** What a stand-in remembers: one JSON object a line. */
export type RecordedJournal = { name: string; lines: string[] };
export type Recorded = { tables: RecordedTable[]; journals: RecordedJournal[] };

const UUID = /[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/g;
const LETTERS = "23456789abcdefghijkmnpqrstuvwxyzABCDEFGHJKLMNPQRSTUVWXYZ";
/** So many times a name takes in what the rows say that it is named with. */
const ROUNDS = 4;
/** The columns that say when a row was made, the best first. */
const TIMES = ["created_at", "at", "given_at", "opened_at", "written_at", "anchor_at", "due_at", "running_since"];

const hash = (...parts: string[]) => createHash("sha256").update(parts.join("\u0000")).digest("hex");

/** Gives every identifier and token its name from the content of its row. */
export function canonical({ tables, journals }: Recorded): Recorded {
  const tokens = tokensOf(tables);
  const names = labels(tables, journals, tokens);
  const places = placesOf(tables, names);
  const ids = new Map([...names].map(([id, label]) => [id, idFrom(label, places.get(id))]));
  const asks = new Map([...tokens].map(([token, ask]) => [token, tokenFrom(names.get(ask) ?? ask)]));
  const rename = (text: string) =>
    replaceTokens(
      text.replace(UUID, (id) => ids.get(id) ?? id),
      asks,
    );
  return {
    tables: tables.map(({ rows, ...table }) => ({
      ...table,
      rows: sorted(rows.map((row) => row.map((value) => (value === null ? null : rename(value))))),
    })),
    journals: journals.map(({ name, lines }) => ({
      name,
      lines: TIMED.includes(name) ? inTime(lines.map(rename)) : lines.map(rename),
    })),
  };
}

/** Which ask each token of a customer's link is of. */
function tokensOf(tables: readonly RecordedTable[]): Map<string, string> {
  const asks = tables.find(({ name }) => name === "asks");
  if (!asks) return new Map();
  const [id, token] = [asks.columns.indexOf("id"), asks.columns.indexOf("token")];
  return new Map(asks.rows.map((row) => [row[token] ?? "", row[id] ?? ""]));
}

const TOKEN = /(?<![0-9A-Za-z])[2-9a-km-zA-HJ-NP-Z]{14}(?![0-9A-Za-z])/g;
const replaceTokens = (text: string, by: ReadonlyMap<string, string>) =>
  text.replace(TOKEN, (token) => by.get(token) ?? token);

/** What each identifier stands for: a hash of the row it names, with the identifiers in it standing for theirs. */
function labels(
  tables: readonly RecordedTable[],
  journals: readonly RecordedJournal[],
  tokens: ReadonlyMap<string, string>,
): Map<string, string> {
  let known = new Map<string, string>();
  const hidden = new Map([...tokens.keys()].map((token) => [token, "token"]));
  const masked = (text: string, own: string | null) =>
    replaceTokens(
      text.replace(UUID, (id) => (id === own ? "own" : (known.get(id) ?? "?"))),
      hidden,
    );
  for (let round = 0; round < ROUNDS; round++) {
    const next = new Map<string, string>();
    const add = (id: string, label: string) => {
      if (!next.has(id)) next.set(id, label);
    };
    for (const { name, columns, rows } of tables) {
      const at = columns.indexOf("id");
      for (const row of rows) {
        const own = at >= 0 ? row[at] : null;
        if (own) next.set(own, hash(name, ...row.map((value) => (value === null ? "" : masked(value, own)))));
      }
    }
    // What no row is named with is named by where it stands first.
    for (const { name, columns, rows } of tables)
      for (const row of rows) {
        const text = hash(name, ...row.map((value) => (value === null ? "" : masked(value, null))));
        for (const [n, value] of row.entries())
          for (const id of value?.match(UUID) ?? []) add(id, hash(text, columns[n]));
      }
    for (const { name, lines } of journals)
      for (const line of lines) {
        const text = hash(name, masked(line, null));
        for (const [n, id] of (line.match(UUID) ?? []).entries()) add(id, hash(text, String(n)));
      }
    known = next;
  }
  return apart(known);
}

/** Rows that say the very same are told apart by their number. */
function apart(known: ReadonlyMap<string, string>): Map<string, string> {
  const seen = new Map<string, number>();
  return new Map(
    [...known].map(([id, label]) => {
      const count = (seen.get(label) ?? 0) + 1;
      seen.set(label, count);
      return [id, count === 1 ? label : hash(label, String(count))];
    }),
  );
}

type Place = { time: number; rank: number };

/** Tables whose rows of one moment are written in any order: receipts arrive as they like. */
const UNORDERED = ["ask_events"];

/**
 * When the row of each identifier was made, in milliseconds since the epoch, and which of its table it was at that
 * moment.
 */
function placesOf(tables: readonly RecordedTable[], names: ReadonlyMap<string, string>): Map<string, Place> {
  const places = new Map<string, Place>();
  for (const { name, columns, rows } of tables) {
    const own = columns.indexOf("id");
    const time = columns.indexOf(TIMES.find((one) => columns.includes(one)) ?? "");
    if (own < 0) continue;
    const order = rows
      .map((row) => ({ id: row[own] ?? "", time: time < 0 ? 0 : Date.parse(row[time] ?? "") || 0 }))
      .map((row) => ({ ...row, key: UNORDERED.includes(name) ? (names.get(row.id) ?? "") : row.id }))
      .sort((x, y) => x.time - y.time || (x.key < y.key ? -1 : 1));
    let rank = 0;
    for (const [n, { id, time: at }] of order.entries()) {
      rank = n > 0 && order[n - 1].time === at ? rank + 1 : 0;
      places.set(id, { time: at, rank });
    }
  }
  return places;
}

/** A UUID of version 7 (RFC 9562) of this time and rank; the rest is the label's. */
function idFrom(label: string, { time, rank }: Place = { time: 0, rank: 0 }): string {
  const digits = `${time.toString(16).padStart(12, "0")}7${Math.min(rank, 0xfff).toString(16).padStart(3, "0")}8${label.slice(0, 15)}`;
  return [8, 12, 16, 20, 32].map((end, n, ends) => digits.slice(n === 0 ? 0 : ends[n - 1], end)).join("-");
}

function tokenFrom(label: string): string {
  const bytes = Buffer.from(hash(label, "token"), "hex");
  return Array.from({ length: 14 }, (_, n) => LETTERS[bytes[n] % LETTERS.length]).join("");
}

const sorted = <Row>(rows: Row[]): Row[] =>
  rows
    .map((row) => ({ row, key: JSON.stringify(row) }))
    .sort((a, b) => (a.key < b.key ? -1 : 1))
    .map(({ row }) => row);

/** Journals whose lines follow from nothing but their moment. */
const TIMED = ["mail", "texts"];

/** Lines in the order of the moments they tell, those of one moment by what they say. */
function inTime(lines: readonly string[]): string[] {
  let last = 0;
  return lines
    .map((line) => {
      const at = Number(/"(?:at|sentAt|changedAt)":(\d{12,})/.exec(line)?.[1] ?? last);
      last = Math.max(last, at);
      return { line, at: last };
    })
    .sort((a, b) => a.at - b.at || (a.line < b.line ? -1 : 1))
    .map(({ line }) => line);
}
