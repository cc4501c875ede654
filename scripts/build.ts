import { execFileSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { ROOT, runToEnd } from "./local";

/** Builds the web application unless the very same sources were built before. */
export async function buildOnce(env: Record<string, string>): Promise<void> {
  const mark = join(ROOT, ".next", "built-from");
  const wanted = sourceHash();
  if (existsSync(mark) && readFileSync(mark, "utf8") === wanted) return;
  await runToEnd("node", ["node_modules/next/dist/bin/next", "build"], { ...env, NODE_ENV: "production" });
  writeFileSync(mark, wanted);
}

function sourceHash(): string {
  const files = execFileSync(
    "find",
    ["src", "package-lock.json", "next.config.ts", "postcss.config.mjs", "tsconfig.json", "-type", "f"],
    { cwd: ROOT, encoding: "utf8" },
  )
    .trim()
    .split("\n")
    .sort();
  const hash = createHash("sha256");
  for (const file of files) hash.update(file).update(readFileSync(join(ROOT, file)));
  return hash.digest("hex");
}
