import { createHash } from "node:crypto";
import { existsSync, mkdirSync, renameSync, writeFileSync } from "node:fs";
import { basename, join } from "node:path";
import { build } from "esbuild";
import { ROOT } from "./local";

/**
 * One of our programs as a single file of plain JavaScript, packages left out: it starts in a third of the time that
 * it takes through tsx. Gives the file's path, which says by its name what is in it, so that it is made once.
 *
 * @example start("node", [await bundle("src/worker/main.ts")], env)
 */
export async function bundle(entry: string): Promise<string> {
  const { outputFiles } = await build({
    absWorkingDir: ROOT,
    entryPoints: [entry],
    outfile: "program.mjs",
    bundle: true,
    write: false,
    platform: "node",
    target: "node20",
    format: "esm",
    packages: "external",
    jsx: "automatic",
    sourcemap: "inline",
    sourcesContent: false,
    logLevel: "warning",
  });
  const [{ contents }] = outputFiles;
  // Below the packages, where its imports are found.
  const folder = join(ROOT, "node_modules", ".cache", "estima");
  const name = `${basename(join(entry, ".."))}-${createHash("sha256").update(contents).digest("hex").slice(0, 12)}.mjs`;
  const file = join(folder, name);
  if (!existsSync(file)) {
    mkdirSync(folder, { recursive: true });
    const unfinished = `${file}.${process.pid}`;
    writeFileSync(unfinished, contents);
    renameSync(unfinished, file);
  }
  return file;
}
