import { readdirSync, readFileSync } from "node:fs";
import { basename, dirname, join, relative } from "node:path";
import { ROOT } from "./local";

/**
 * The tests that `npm run prove` runs whole: those that say how much of them runs in `npm test` (tests/support/size.ts).
 * A part of a subject stands for the subject's file. Paths from the project's folder.
 */
export function proofs(): string[] {
  const files = ["src", "tests/integration", "tests/browser"].flatMap((folder) =>
    readdirSync(join(ROOT, folder), { recursive: true, withFileTypes: true })
      .filter((it) => it.isFile() && /\.tsx?$/.test(it.name))
      .map((it) => relative(ROOT, join(it.parentPath, it.name))),
  );
  const sized = files.filter((file) =>
    /from "[./]+(?:tests\/)?support\/size"/.test(readFileSync(join(ROOT, file), "utf8")),
  );
  const subjectOf = (file: string) =>
    /\.(?:test|spec)\.tsx?$/.test(file) ? file : `tests/integration/${basename(dirname(file))}.test.ts`;
  return [...new Set(sized.map(subjectOf))].sort();
}
