import { readFileSync } from "node:fs";
import { basename, dirname, join } from "node:path";
import { filesOf } from "./hashOfFiles";
import { ROOT } from "./local";

/**
 * The tests that `npm run prove` runs whole: those that say how much of them runs in `npm test` (tests/support/size.ts).
 * For a part of a subject, the subject's file. Paths from the project's folder.
 */
export function proofs(): string[] {
  const files = ["src", "tests/integration", "tests/browser"].flatMap(filesOf).filter((file) => /\.tsx?$/.test(file));
  const sized = files.filter((file) =>
    /from "[./]+(?:tests\/)?support\/size"/.test(readFileSync(join(ROOT, file), "utf8")),
  );
  const subjectOf = (file: string) =>
    /\.(?:test|spec)\.tsx?$/.test(file) ? file : `tests/integration/${basename(dirname(file))}.test.ts`;
  return [...new Set(sized.map(subjectOf))].sort();
}
