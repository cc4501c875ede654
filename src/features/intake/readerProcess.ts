import { gzipSync } from "node:zlib";
import { readListBytes, Unreadable } from "./files";

/**
 * The process that reads lists, started by `reader.ts`: one list at a time, within the memory it was started with. It
 * answers with the list as compressed JSON, or with what is wrong with the file in words.
 */

export type ReaderAnswer = { ok: true; list: Uint8Array } | { ok: false; words: string };

process.on("message", async (bytes: Uint8Array) => {
  let answer: ReaderAnswer;
  try {
    answer = { ok: true, list: gzipSync(JSON.stringify(await readListBytes(bytes)), { level: 1 }) };
  } catch (error) {
    // What else went wrong is the file's doing too: there is nothing in it that this could read.
    answer = {
      ok: false,
      words: error instanceof Unreadable ? error.message : "The file could not be read. Save it as CSV and bring that.",
    };
  }
  process.send?.(answer);
});
process.on("disconnect", () => process.exit(0));
process.send?.("ready");
