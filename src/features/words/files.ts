import Papa from "papaparse";
import type { PlanRules } from "@/core/plans/planRules";
import { LANGUAGES } from "@/core/words/languages";
import { FIELDS, PAGE_PLACES, pieceKey, readKey } from "@/core/words/pieces";
import { masterPlace, ownPiece, wordsOf } from "@/core/words/planWords";
import { starterWords } from "@/core/words/starters";
import { loadSetting } from "@/features/clients";
import { ApartFailed, workApart } from "@/platform/apart";
import type { Tx } from "@/platform/database";
import { ownLanguage } from "./agencyWords";
import type { WordsRows } from "./fileRows";
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

/**
 * The rows of a file of words, read in a process of its own. `owner` is whose file it is: a client.
 */
export async function readWordsFile(owner: string, text: string): Promise<WordsRows> {
  try {
    return (await workApart(owner, "words", text)) as WordsRows;
  } catch (error) {
    if (!(error instanceof ApartFailed)) throw error;
    return {
      wrong:
        error.why === "not now"
          ? "We’re reading too many files just now. Try again in a minute."
          : "This file takes too long to read.",
    };
  }
}

/** The rules with the words of a file, and how many texts differ; or what is wrong, with its line. */
export async function withWordsRows(
  tx: Tx,
  rules: PlanRules,
  rows: WordsRows,
): Promise<{ rules: PlanRules; changed: number } | { wrong: string }> {
  const { client, services } = await loadSetting(tx);
  if ("wrong" in rows) return rows;
  let after = rules;
  let changed = 0;
  for (const [index, { piece, words }] of rows.rows.entries()) {
    const line = `Line ${index + 2}: `;
    const name = readKey(piece);
    if (!name)
      return { wrong: `${line}“${piece.slice(0, 60)}” doesn’t match any passage. Leave the first column unchanged.` };
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
