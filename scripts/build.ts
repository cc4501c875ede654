import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { hashOfFiles } from "./hashOfFiles";
import { ROOT, runToEnd } from "./local";

/** Builds the web application unless the very same sources were built before. */
export async function buildOnce(env: Record<string, string>): Promise<void> {
  const mark = join(ROOT, ".next", "built-from");
  const wanted = hashOfFiles(SOURCES);
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  await runToEnd("node", ["node_modules/next/dist/bin/next", "build"], { ...env, NODE_ENV: "production" });
  writeFileSync(mark, wanted);
}

const SOURCES = ["src", "package-lock.json", "next.config.ts", "postcss.config.mjs", "tsconfig.json"];
