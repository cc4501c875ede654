import { readdirSync, statSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import Sequencer from "@jest/test-sequencer";

/**
 * The longest first, so that no worker is left alone with one at the end. A subject is as long as its parts, the files
 * of the folder with its name.
 */
export default class LongestFirst extends Sequencer {
  sort(tests) {
    return [...tests].sort((a, b) => weight(b.path) - weight(a.path) || a.path.localeCompare(b.path));
  }
}

function weight(file) {
  const folder = join(dirname(file), basename(file).replace(/\.test\.tsx?$/, ""));
  try {
    const parts = readdirSync(folder).map((part) => statSync(join(folder, part)).size);
    return parts.reduce((sum, size) => sum + size, 0);
  } catch {
    return statSync(file).size;
  }
}
