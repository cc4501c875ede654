import { createHash } from "node:crypto";
import { readdirSync, readFileSync, statSync } from "node:fs";
import { join, relative } from "node:path";
import { ROOT } from "./local";

/**
 * A hash (SHA-256, hexadecimal) over the names and contents of files; a folder counts with all files below it. Paths from
 * the project's folder.
 */
export function hashOfFiles(paths: readonly string[]): string {
  const hash = createHash("sha256");
  for (const file of paths.flatMap(filesOf).sort()) hash.update(file).update(readFileSync(join(ROOT, file)));
  return hash.digest("hex");
}

/** The files at or below a path, from the project's folder. */
export function filesOf(path: string): string[] {
  const at = join(ROOT, path);
  if (statSync(at).isFile()) return [path];
  return readdirSync(at, { recursive: true, withFileTypes: true })
    .filter((it) => it.isFile())
    .map((it) => relative(ROOT, join(it.parentPath, it.name)));
}
