import { z } from "zod";
import { TooMuch } from "@/core/intake/delimited";
import { parseDelimited } from "@/core/intake/table";

/** The rows of a file of words, read in the process that works on files from outside (`src/apart`). */

const rowInput = z.object({ piece: z.string().max(120), words: z.string().max(5000).default("") });
const fileInput = z.object({ words: z.array(rowInput).max(5000) });

/** The texts that a file names, or what is wrong with it, in words. */
export type WordsRows = { rows: z.output<typeof rowInput>[] } | { wrong: string };

/** Reads a file of words: JSON where it begins so, else CSV. */
export function readRows(text: string): WordsRows {
  return text.trimStart().startsWith("{") ? rowsOfJson(text) : rowsOfCsv(text);
}

function rowsOfJson(text: string): WordsRows {
  try {
    const read = fileInput.safeParse(JSON.parse(text));
    return read.success
      ? { rows: read.data.words }
      : { wrong: "This isn’t a words file. It needs “words”, each with “piece” and “words”." };
  } catch {
    return { wrong: "We can’t read this JSON." };
  }
}

/** Rows, columns and cells that a file of words may have. */
const BOUNDS = { rows: 5_002, columns: 60, cells: 100_000 };

function rowsOfCsv(text: string): WordsRows {
  let cells: string[][];
  try {
    ({ cells } = parseDelimited(text.replace(/^\uFEFF/, ""), BOUNDS));
  } catch (error) {
    if (!(error instanceof TooMuch)) throw error;
    return { wrong: "A passage is too long, or there are too many." };
  }
  const [names = [], ...rows] = cells.filter((row) => row.some((cell) => cell !== ""));
  const [piece, words] = ["piece", "words"].map((name) => names.indexOf(name));
  if (piece < 0 || words < 0) return { wrong: "The file needs the columns “piece” and “words”." };
  const read = z
    .array(rowInput)
    .max(5000)
    .safeParse(rows.map((row) => ({ piece: row[piece] ?? "", words: row[words] ?? "" })));
  return read.success ? { rows: read.data } : { wrong: "A passage is too long, or there are too many." };
}
