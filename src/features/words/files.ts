import Papa from "papaparse";
import { z } from "zod";
import { TooMuch } from "@/core/intake/delimited";
import { parseDelimited } from "@/core/intake/table";
import type { PlanRules } from "@/core/plans/planRules";
import { LANGUAGES } from "@/core/words/languages";
import { FIELDS, PAGE_PLACES, pieceKey, readKey } from "@/core/words/pieces";
import { masterPlace, ownPiece, wordsOf } from "@/core/words/planWords";
import { starterWords } from "@/core/words/starters";
import { loadSetting } from "@/features/clients";
import type { Tx } from "@/platform/database";
import { ownLanguage } from "./agencyWords";
import { withPiece } from "./pieces";

/**
 * All words of a plan as one file, for a translator or another client: CSV or JSON, a row a text with `piece` (its key),
 * `above` (what it says without a change here) and `words` (the change; blank for none).
 */

export type WordsRow = { piece: string; above: string; words: string };

/** Every text of a plan in every language, with what is said here. */
export function rowsOfWords(rules: PlanRules, own: string): WordsRow[] {
  const places = [
    ...rules.steps.flatMap(({ key }) => FIELDS.map((field) => `step.${key}/${field}`)),
    ...PAGE_PLACES.map((place) => `page/${place}`),
  ];
  const { taken, own: said } = wordsOf(rules);
  const rows = LANGUAGES.flatMap((language) =>
    places.map((place): WordsRow => {
      const master = masterPlace(rules, place);
      const above = taken[pieceKey(language, master)] ?? starterWords(language, master) ?? "";
      const words = ownPiece(rules, place, language, ownLanguage(own));
      return { piece: pieceKey(language, place), above, words: words === null || words === above ? "" : words };
    }),
  );
  const forServices = Object.entries(said)
    .filter(([key]) => readKey(key)?.serviceId)
    .map(([piece, words]): WordsRow => ({ piece, above: "", words }));
  return [...rows, ...forServices];
}

/** The file itself. */
export function wordsFile(rows: readonly WordsRow[], kind: "csv" | "json"): string {
  if (kind === "json") return `${JSON.stringify({ version: 1, words: rows }, null, 2)}\n`;
  return Papa.unparse([...rows], { columns: ["piece", "above", "words"], escapeFormulae: true, newline: "\r\n" });
}

const rowInput = z.object({ piece: z.string().max(120), words: z.string().max(5000).default("") });
const fileInput = z.object({ words: z.array(rowInput).max(5000) });

/** The rules with the words of a file, and how many texts differ; or what is wrong, with its line. */
export async function readWordsFile(
  tx: Tx,
  rules: PlanRules,
  text: string,
): Promise<{ rules: PlanRules; changed: number } | { wrong: string }> {
  const { client, services } = await loadSetting(tx);
  const rows = text.trimStart().startsWith("{") ? rowsOfJson(text) : rowsOfCsv(text);
  if ("wrong" in rows) return rows;
  let after = rules;
  let changed = 0;
  for (const [index, { piece, words }] of rows.rows.entries()) {
    const line = `Line ${index + 2}: `;
    const name = readKey(piece);
    if (!name) return { wrong: `${line}“${piece.slice(0, 60)}” names no text. Keep the first column as it was.` };
    if (name.serviceId && !services.some(({ id }) => id === name.serviceId)) continue;
    if (words.trim() === "") continue;
    const said = words.replace(/^'(?=[=+\-@])/, "");
    const next = withPiece(after, name, said, ownLanguage(client.language));
    if ("wrong" in next) return { wrong: `${line}${next.wrong}` };
    if (JSON.stringify(next.rules) !== JSON.stringify(after)) changed += 1;
    after = next.rules;
  }
  return { rules: after, changed };
}

type Rows = { rows: z.output<typeof rowInput>[] } | { wrong: string };

function rowsOfJson(text: string): Rows {
  try {
    const read = fileInput.safeParse(JSON.parse(text));
    return read.success
      ? { rows: read.data.words }
      : { wrong: "This is no file of words: it needs “words”, each with piece and words." };
  } catch {
    return { wrong: "This is no readable JSON." };
  }
}

/** Rows, columns and cells that a file of words may have. */
const BOUNDS = { rows: 5_002, columns: 60, cells: 100_000 };

function rowsOfCsv(text: string): Rows {
  let cells: string[][];
  try {
    ({ cells } = parseDelimited(text.replace(/^\uFEFF/, ""), BOUNDS));
  } catch (error) {
    if (!(error instanceof TooMuch)) throw error;
    return { wrong: "A text in it is too long, or there are too many." };
  }
  const [names = [], ...rows] = cells.filter((row) => row.some((cell) => cell !== ""));
  const [piece, words] = ["piece", "words"].map((name) => names.indexOf(name));
  if (piece < 0 || words < 0) return { wrong: "The file needs the columns “piece” and “words”." };
  const read = z
    .array(rowInput)
    .max(5000)
    .safeParse(rows.map((row) => ({ piece: row[piece] ?? "", words: row[words] ?? "" })));
  return read.success ? { rows: read.data } : { wrong: "A text in it is too long, or there are too many." };
}
