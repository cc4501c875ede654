import { existsSync, readdirSync, readFileSync } from "node:fs";
import { basename, dirname, join, relative } from "node:path";
import { parseSync } from "@swc/core";
import { ROOT } from "./local";

/**
 * Which part may know which. Imports point down only: app, web and worker know features, features know core, schema,
 * locales, platform and ui, core knows nobody. Among features imports point down in the order below, types, parts and actions
 * counted, so that there are no circles. A feature is used through its index; its parts (React) and actions (server
 * actions, for islands) are faces of their own, because the worker must not load React, nor the browser the database. A
 * server action is exported through `action` or `readAction` (src/platform/action.ts).
 */

/** Features from the ground up. Each may use those before it. */
export const FEATURES = [
  "audit",
  "clients",
  "accounts",
  "images",
  "people",
  "visits",
  "plans",
  "notices",
  "sites",
  "asks",
  "conversations",
  "concerns",
  "messaging",
  "own-reviews",
  "answers",
  "standing-links",
  "words",
  "reviews",
  "themes",
  "intake",
  "review-import",
  "timeline",
  "people-admin",
  "plan-editor",
  "onboarding",
  "desk",
  "offboarding",
  "api",
  "outlook",
  "guide",
  "today",
  "navigation",
];

type Import = { to: string; typeOnly: boolean };
type Rule = {
  name: string;
  from: RegExp;
  to: RegExp;
  unless?: (from: string, to: string) => boolean;
  /** Also where only a type is imported. */
  typesToo?: boolean;
};

const featureOf = (file: string) => /^src\/features\/([^/]+)\//.exec(file)?.[1];
const isTest = (file: string) => /\.test\.tsx?$/.test(file);

const RULES: Rule[] = [
  {
    name: "core knows nobody",
    from: /^src\/core\//,
    to: /^(src\/(features|schema|connectors|locales|platform|ui|app|web|worker)|standins|scripts)\//,
    unless: isTest,
    typesToo: true,
  },
  {
    // The worker and the tests load queries and services; parts would bring them React, and actions the web's sign-in.
    name: "queries and services load no parts and no actions",
    from: /^src\/features\/[^/]+\/(?!actions|page|http|dropOff|\w+Actions)[^/]+\.tsx?$/,
    to: /^src\/features\/[^/]+\/(?:parts\/|actions|\w+Actions)/,
    unless: isTest,
  },
  {
    name: "locales know core alone",
    from: /^src\/locales\//,
    to: /^src\/(features|schema|connectors|platform|ui|app|web|worker)\//,
    typesToo: true,
  },
  {
    name: "core is pure",
    from: /^src\/core\/(?!.*\.test\.)/,
    to: /^(react|next|pg|drizzle-orm|luxon|node:|fs|crypto)/,
  },
  {
    name: "schema knows core alone",
    from: /^src\/schema\//,
    to: /^src\/(features|connectors|locales|platform|ui|app|web|worker)\//,
    typesToo: true,
  },
  {
    name: "platform knows core and schema alone",
    from: /^src\/platform\//,
    to: /^src\/(features|connectors|locales|ui|app|web|worker)\//,
    typesToo: true,
  },
  {
    name: "connectors know core and platform alone",
    from: /^src\/connectors\//,
    to: /^src\/(features|schema|locales|ui|app|web|worker)\//,
    typesToo: true,
  },
  {
    name: "ui knows core and locales alone",
    from: /^src\/ui\//,
    to: /^src\/(features|schema|connectors|platform|app|web|worker)\//,
    typesToo: true,
  },
  {
    name: "features know neither app nor worker",
    from: /^src\/features\//,
    to: /^src\/(app|web|worker)\//,
    typesToo: true,
  },
  {
    name: "a feature is used through its index",
    from: /^(src|scripts)\//,
    to: /^src\/features\//,
    // The process that reads files loads just what a kind of file needs.
    unless: (from, to) => featureOf(from) === featureOf(to) || isFace(from, to) || from.startsWith("src/apart/"),
    typesToo: true,
  },
  {
    name: "features point down",
    from: /^src\/features\//,
    to: /^src\/features\//,
    unless: (from, to) => place(to) <= place(from) || isTest(from),
    typesToo: true,
  },
  {
    name: "islands hold no server code",
    from: /\.client\.tsx$/,
    to: /^src\/(platform|schema|connectors|features)\//,
    unless: (_, to) => /^src\/features\/.*(\/parts\/|\/\w*[aA]ctions\.ts$|\.client\.tsx$)/.test(to),
  },
  { name: "stand-ins stand alone", from: /^standins\//, to: /^(src|scripts)\//, typesToo: true },
  { name: "the app holds no SQL", from: /^src\/app\/(?!health\/)/, to: /^(drizzle-orm|pg)/ },
];

/** Which features write the tables of a file of src/schema, where that is not the feature of the same name. */
const WRITERS: Record<string, string[]> = {
  askEvents: ["asks"],
  feeds: ["intake"],
  // Planned by asks; sent and received by messaging.
  messages: ["asks", "messaging"],
  messagePictures: ["messaging"],
  households: ["people-admin", "people"],
  dismissed_matches: ["people-admin"],
  people_matches: ["people-admin"],
  merges: ["people-admin"],
  erasures: ["people-admin"],
  triggers: ["asks"],
  site_turns: ["asks"],
  mail_domains: ["asks"],
  // A shared phone signs in as a user of its own.
  users: ["accounts", "desk"],
  accounts: ["accounts", "desk"],
  shared_phones: ["desk"],
  desk_tries: ["desk"],
  standing_links: ["standing-links"],
  own_reviews: ["own-reviews"],
  answer_photos: ["answers"],
  reviewImports: ["review-import"],
  replyRules: ["reviews"],
  tellings: ["notices"],
  // How far a reading of all came is noted by who reads.
  site_readings: ["reviews"],
  agency_words: ["words"],
  preview_links: ["words"],
  handovers: ["offboarding"],
  needs_aside: ["outlook"],
  summary_readers: ["outlook"],
};

/** Erasing searches every table for what names somebody: beside the registry of personal data, and in one file. */
const WRITES_ALL = "src/features/people-admin/erase.ts";

const place = (file: string) => FEATURES.indexOf(featureOf(file) ?? "");

/** Whether `to` is what its feature shows to `from`: its index, and to pages and parts also its parts and actions. */
function isFace(from: string, to: string): boolean {
  if (/^src\/features\/[^/]+\/index\.ts$/.test(to) || isTest(from)) return true;
  const showsReact = /^src\/app\//.test(from) || /\.tsx$/.test(from);
  return showsReact && /\/parts\/[^/]+$|\/\w*[aA]ctions\.ts$/.test(to);
}

function importsOf(root: string, file: string): Import[] {
  const source = readFileSync(join(root, file), "utf8");
  const { body } = parseSync(source, { syntax: "typescript", tsx: file.endsWith(".tsx"), target: "es2022" });
  const found: Import[] = [];
  for (const item of body) {
    if (item.type === "ImportDeclaration") {
      const named =
        item.specifiers.length > 0 && item.specifiers.every((one) => one.type === "ImportSpecifier" && one.isTypeOnly);
      found.push({ to: resolve(root, file, item.source.value), typeOnly: item.typeOnly || named });
    } else if ((item.type === "ExportNamedDeclaration" || item.type === "ExportAllDeclaration") && item.source) {
      const typeOnly = item.type === "ExportNamedDeclaration" && item.typeOnly;
      found.push({ to: resolve(root, file, item.source.value), typeOnly });
    }
  }
  // Whatever is imported within an expression or a type.
  for (const [, to] of source.matchAll(/\bimport\(\s*"([^"]+)"\s*\)/g))
    found.push({ to: resolve(root, file, to), typeOnly: false });
  return found;
}

/** Writes to a table of another feature, by its name in the code or in SQL. */
function foreignWrites(root: string, files: string[]): string[] {
  const schema = files.filter((file) => file.startsWith("src/schema/"));
  const tables = schema.flatMap((file) =>
    [...readFileSync(join(root, file), "utf8").matchAll(/export const (\w+) = pgTable\(\s*"(\w+)"/g)].map(
      ([, name, table]) => ({
        name,
        table,
        writers: WRITERS[table] ?? WRITERS[basename(file, ".ts")] ?? [basename(file, ".ts")],
      }),
    ),
  );
  const found: string[] = [];
  for (const file of files) {
    const feature = featureOf(file);
    if (!feature || isTest(file) || file === WRITES_ALL) continue;
    const text = readFileSync(join(root, file), "utf8");
    for (const { name, table, writers } of tables) {
      const writes =
        new RegExp(`\\b(update|insert|delete)\\(${name}\\)`).test(text) ||
        new RegExp(`\\b(update|insert into|delete from) (${table}\\b|\\$\\{${name}\\})`).test(text);
      if (writes && !writers.includes(feature))
        found.push(`a table is written by its own feature: ${file} writes ${table}`);
    }
  }
  return found;
}

/** What a file of server actions exports that is neither a type nor made by `action` or `readAction`. */
function unguardedActions(root: string, file: string): string[] {
  const source = readFileSync(join(root, file), "utf8");
  if (!source.startsWith('"use server"')) return [];
  const { body } = parseSync(source, { syntax: "typescript", tsx: file.endsWith(".tsx"), target: "es2022" });
  const found: string[] = [];
  const note = (name: string) => found.push(`an action is exported through action() or readAction(): ${file} ${name}`);
  for (const item of body) {
    if (item.type === "ExportDefaultDeclaration" || item.type === "ExportDefaultExpression") note("default");
    if (item.type === "ExportAllDeclaration" || (item.type === "ExportNamedDeclaration" && !item.typeOnly)) note("{}");
    if (item.type !== "ExportDeclaration") continue;
    const { declaration } = item;
    if (declaration.type === "FunctionDeclaration" || declaration.type === "ClassDeclaration")
      note(declaration.identifier.value);
    if (declaration.type !== "VariableDeclaration") continue;
    for (const { id, init } of declaration.declarations) {
      const made = init?.type === "CallExpression" && init.callee.type === "Identifier" ? init.callee.value : null;
      if (made !== "action" && made !== "readAction") note(id.type === "Identifier" ? id.value : "a pattern");
    }
  }
  return found;
}

/** A file of ours as its path from the root; a package as its name. */
function resolve(root: string, from: string, to: string): string {
  if (!to.startsWith(".") && !to.startsWith("@/")) return to;
  const base = to.startsWith("@/") ? join("src", to.slice(2)) : relative(root, join(root, dirname(from), to));
  const candidates = [base, `${base}.ts`, `${base}.tsx`, join(base, "index.ts"), join(base, "index.tsx")];
  return candidates.find((file) => /\.\w+$/.test(file) && existsSync(join(root, file))) ?? base;
}

/** Every breach of the rules in the tree under `root`, each with the two files it joins. */
export function breaches(root = ROOT): string[] {
  const files = ["src", "standins", "scripts"]
    .filter((folder) => existsSync(join(root, folder)))
    .flatMap((folder) =>
      readdirSync(join(root, folder), { recursive: true, encoding: "utf8" })
        .filter((file) => /\.tsx?$/.test(file))
        .map((file) => join(folder, file)),
    );
  const graph = new Map(files.map((file) => [file, importsOf(root, file)]));
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
  const features = new Set(files.flatMap((file) => featureOf(file) ?? []));
  for (const feature of features) {
    if (!FEATURES.includes(feature)) found.push(`features have a place: ${feature} is not in the order of FEATURES`);
    const index = `src/features/${feature}/index.ts`;
    if (graph.has(index) && /export \*/.test(readFileSync(join(root, index), "utf8")))
      found.push(`an index names what it shows: ${index}`);
  }
  const unguarded = files.flatMap((file) => unguardedActions(root, file));
  return [...found, ...unguarded, ...foreignWrites(root, files), ...circles(graph)];
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
