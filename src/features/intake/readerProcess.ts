import { gzipSync } from "node:zlib";
import type { FileProblem } from "@/core/intake/fileProblems";
import { readListBytes, Unreadable } from "./files";

/**
 * The process that reads lists, started by `reader.ts`: one list at a time, within the memory it was started with. It
 * answers with the list as compressed JSON, or with what is wrong with the file.
 */

export type ReaderAnswer = { ok: true; list: Uint8Array } | { ok: false; problem: FileProblem };

process.on("message", async (bytes: Uint8Array) => {
  let answer: ReaderAnswer;
  try {
    answer = { ok: true, list: gzipSync(JSON.stringify(await readListBytes(bytes)), { level: 1 }) };
  } catch (error) {
    // What else went wrong is the file's doing too: there is nothing in it that this could read.
    answer = {
      ok: false,
      problem: error instanceof Unreadable ? error.problem : { code: "not readable" },
    };
  }
  process.send?.(answer);
});
process.on("disconnect", () => process.exit(0));
process.send?.("ready");
