import { readFileSync } from "node:fs";
import { join } from "node:path";
import { type Named, THEMES, type Theme } from "@/core/themes/themes";
import type { KnownText } from "./texts";

/**
 * Texts as different people write them, each labelled by hand with what it names. Those of `english.txt` and
 * `spanish.txt` were written before the rules that read them, by the same pen; every second one is frozen: it is
 * measured, and not looked at while rules are written. Those that come "later" were written after the rules, and no rule
 * was made from them: they tell best how a stranger's text is read.
 */

/** What may be measured: by whom the texts are, and for what. */
export const LABELLED_SETS = {
  "English, own, open": { language: "en", file: "english", part: "open" },
  "English, own, frozen": { language: "en", file: "english", part: "frozen" },
  "English, later": { language: "en", file: "later-english", part: "all" },
  "English, others', plain": { language: "en", file: "others-english", part: "plain" },
  "English, others', idiomatic": { language: "en", file: "others-english", part: "idiomatic" },
  "Spanish, own, open": { language: "es", file: "spanish", part: "open" },
  "Spanish, own, frozen": { language: "es", file: "spanish", part: "frozen" },
  "Spanish, later": { language: "es", file: "later-spanish", part: "all" },
  "Spanish, others'": { language: "es", file: "others-spanish", part: "all" },
} as const;
export type LabelledSet = keyof typeof LABELLED_SETS;

const FOLDER = join("scripts", "bench", "themes", "labelled");

/** "+kindness" or "-waiting", as a label says it. */
function labelOf(label: string): Named {
  const theme = label.slice(1);
  if (!/^[+-]/.test(label) || !(THEMES as readonly string[]).includes(theme)) throw new Error(`No label: ${label}`);
  return { theme: theme as Theme, polarity: label[0] === "+" ? "happy" : "unhappy" };
}

/**
 * The texts of a set. A line is the labels, " | " and the text; a label in brackets may be found without being wrong. A
 * line that begins with "#" heads a part.
 */
export function labelledTexts(set: LabelledSet): KnownText[] {
  const { file, part } = LABELLED_SETS[set];
  const texts: KnownText[] = [];
  let heading = "";
  let count = 0;
  for (const line of readFileSync(join(FOLDER, `${file}.txt`), "utf8").split("\n")) {
    if (line.startsWith("# ")) heading = line.slice(2);
    const at = line.indexOf("| ");
    if (line.startsWith("#") || at < 0) continue;
    count += 1;
    const isFrozen = count % 2 === 0;
    if (part === "open" ? isFrozen : part === "frozen" ? !isFrozen : part !== "all" && part !== heading) continue;
    const labels = line.slice(0, at).trim().split(" ").filter(Boolean);
    texts.push({
      text: line.slice(at + 2),
      says: labels.filter((label) => !label.startsWith("(")).map(labelOf),
      mayAlso: labels.filter((label) => label.startsWith("(")).map((label) => labelOf(label.slice(1, -1))),
    });
  }
  return texts;
}
