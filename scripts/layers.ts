import { existsSync, readdirSync, readFileSync } from "node:fs";
import { dirname, join, relative } from "node:path";
import { parseSync } from "@swc/core";
import { ROOT } from "./local";

/**
 * Which part may know which. Imports point down only: app and worker know features, features know core, platform and
 * ui, core knows nobody; a feature is used through its index; islands in the browser hold no server code; no circles.
 */

type Import = { to: string; typeOnly: boolean };
type Rule = {
  name: string;
  from: RegExp;
  to: RegExp;
  unless?: (from: string, to: string) => boolean;
  typesToo?: boolean;
};

const featureOf = (file: string) => /^src\/features\/([^/]+)\//.exec(file)?.[1];

const RULES: Rule[] = [
  {
    name: "core knows nobody",
    from: /^src\/core\//,
    to: /^(src\/(features|schema|platform|ui|app|worker)|standins|scripts)\//,
    typesToo: true,
  },
  {
    name: "core is pure",
    from: /^src\/core\/(?!.*\.test\.)/,
    to: /^(react|next|pg|drizzle-orm|luxon|node:|fs|crypto)/,
  },
  {
    name: "platform knows core and schema alone",
    from: /^src\/platform\//,
    to: /^src\/(features|ui|app|worker)\//,
    typesToo: true,
  },
  {
    name: "ui knows core alone",
    from: /^src\/ui\//,
    to: /^src\/(features|schema|platform|app|worker)\//,
    typesToo: true,
  },
  {
    name: "features know neither app nor worker",
    from: /^src\/features\//,
    to: /^src\/(app|worker)\//,
    typesToo: true,
  },
  {
    name: "a feature is used through its index",
    from: /^src\/features\//,
    to: /^src\/features\//,
    unless: (from, to) =>
      /\.test\.tsx?$/.test(from) || featureOf(from) === featureOf(to) || /\/(index|actions)\.tsx?$|\/parts\//.test(to),
  },
  {
    name: "islands hold no server code",
    from: /\.client\.tsx$/,
    to: /^src\/(platform\/|schema\/|features\/[^/]+\/(queries|service|index)\.tsx?$)/,
  },
  { name: "stand-ins stand alone", from: /^standins\//, to: /^(src|scripts)\//, typesToo: true },
  { name: "the app holds no SQL", from: /^src\/app\/(?!health\/)/, to: /^(drizzle-orm|pg)/ },
];

function importsOf(file: string): Import[] {
  const source = readFileSync(join(ROOT, file), "utf8");
  const { body } = parseSync(source, { syntax: "typescript", tsx: file.endsWith(".tsx"), target: "es2022" });
  const found: Import[] = [];
  for (const item of body) {
    if (item.type === "ImportDeclaration") {
      const named =
        item.specifiers.length > 0 && item.specifiers.every((one) => one.type === "ImportSpecifier" && one.isTypeOnly);
      found.push({ to: resolve(file, item.source.value), typeOnly: item.typeOnly || named });
    } else if ((item.type === "ExportNamedDeclaration" || item.type === "ExportAllDeclaration") && item.source) {
      found.push({
        to: resolve(file, item.source.value),
        typeOnly: item.type === "ExportNamedDeclaration" && item.typeOnly,
      });
    }
  }
  return found;
}

/** A file of ours as its path from the root; a package as its name. */
function resolve(from: string, to: string): string {
  if (!to.startsWith(".") && !to.startsWith("@/")) return to;
  const base = to.startsWith("@/") ? join("src", to.slice(2)) : relative(ROOT, join(ROOT, dirname(from), to));
  const candidates = [base, `${base}.ts`, `${base}.tsx`, join(base, "index.ts"), join(base, "index.tsx")];
  return candidates.find((file) => /\.\w+$/.test(file) && existsSync(join(ROOT, file))) ?? base;
}

/** Every breach of the rules, each with the two files it joins. */
export function breaches(): string[] {
  const files = ["src", "standins", "scripts"].flatMap((folder) =>
    readdirSync(join(ROOT, folder), { recursive: true, encoding: "utf8" })
      .filter((file) => /\.tsx?$/.test(file))
      .map((file) => join(folder, file)),
  );
  const graph = new Map(files.map((file) => [file, importsOf(file)]));
  const found: string[] = [];
  for (const [from, imports] of graph) {
    for (const { to, typeOnly } of imports) {
      for (const rule of RULES) {
        if ((typeOnly && !rule.typesToo) || !rule.from.test(from) || !rule.to.test(to) || rule.unless?.(from, to))
          continue;
        found.push(`${rule.name}: ${from} imports ${to}`);
      }
    }
  }
  return [...found, ...circles(graph)];
}

function circles(graph: Map<string, Import[]>): string[] {
  const found: string[] = [];
  const state = new Map<string, "open" | "done">();
  const walk = (file: string, path: string[]) => {
    if (state.get(file) === "done") return;
    if (state.get(file) === "open") {
      found.push(`no circles: ${[...path.slice(path.indexOf(file)), file].join(" → ")}`);
      return;
    }
    state.set(file, "open");
    for (const { to, typeOnly } of graph.get(file) ?? []) if (!typeOnly && graph.has(to)) walk(to, [...path, file]);
    state.set(file, "done");
  };
  for (const file of graph.keys()) walk(file, []);
  return found;
}
