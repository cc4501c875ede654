import { readdirSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { parseSync } from "@swc/core";

/**
 * The words on screen, checked: catalogues, the guide, what JSX says, and sentences in the code that people read. What may not be
 * said, with what to say instead, is in `BANNED`; a sentence that is right all the same is in `ALLOWED`, with why.
 */

export type Banned = { pattern: RegExp; instead: string };

export const BANNED: readonly Banned[] = [
  { pattern: /\b(?:some|any|every)body\b/i, instead: "someone, anyone, everyone" },
  { pattern: /\bwho(?:ever|m)\b/i, instead: "people who, anyone who" },
  { pattern: /\bany ?more\b(?= ?[.,;:!?)]|$)/i, instead: "no longer" },
  { pattern: /\bat once\b/i, instead: "straight away" },
  { pattern: /\bby (?:it|them|your|him|her|one)sel(?:f|ves)\b/i, instead: "automatically, on its own" },
  { pattern: /\bst(?:ands?|ood) (?:there|in|on|beside|below|above|at|for|with)\b/i, instead: "is, shows, appears" },
  { pattern: /\b(?:in|into) force\b/i, instead: "live, applied" },
  { pattern: /\btak(?:es?|en|ing) (?:back|in)\b|\btook (?:back|in)\b/i, instead: "undo, restore, import" },
  { pattern: /\b(?:is|are|was|were|be|being) told\b|\btold of\b/i, instead: "notified" },
  { pattern: /\bleft aside\b|\bleaves? aside\b|\blaid aside\b/i, instead: "ignored" },
  {
    pattern:
      /\b(?:can|could|will|would|does|do|did|is|are|was|were|has|have|had|should)(?: not|not)\b(?! (?:only|yet)\b)/i,
    instead: "a contraction",
  },
  { pattern: /\d %/, instead: "no space before %" },
  { pattern: /(?<!\.)\.\.\.(?!\.)/, instead: "…, closed up" },
  { pattern: /\p{L}'(?:s|t|re|ve|ll|d|m)\b/u, instead: "a curly apostrophe" },
  { pattern: /\p{L}!(?:$|\s)/u, instead: "a full stop" },
  { pattern: /^(?:Empty|Blank)\b.*(?: for |:)/, instead: "Leave blank for" },
  { pattern: /\bthere is no such\b/i, instead: "doesn’t exist" },
  { pattern: /\bgateway\b/i, instead: "our sending service" },
];

/** What is right although a rule would refuse it: found by its file or by its words, each with why. */
export const ALLOWED: readonly { file?: RegExp; words?: RegExp; why: string }[] = [
  {
    file: /^src\/core\/(?:themes|conversations|intake)\/|^src\/core\/words\/detect|^src\/core\/contacts\/name/,
    why: "what customers write",
  },
  { file: /^src\/core\/replies\/(?:gravity|guards|draft)/, why: "what customers write, or drafts may not say" },
  {
    file: /^src\/core\/replies\/sentences\//,
    words: /n.t\b|\b(?:not|cannot)\b|!$/,
    why: "formal replies don’t contract",
  },
  {
    file: /^src\/(?:features\/api|platform|web)\/|\/(?:webhook|hook)\.ts$/,
    why: "read by programmers, in plain ASCII",
  },
  { words: /\bwhoever (?:looks after|runs|invited|set it up|picks them up)\b/i, why: "a person nobody can name here" },
  { words: /\bno rule (?:stood|stands) in the way\b/i, why: "an idiom" },
  { words: /^(?:let sent=|…? ?feed could not be|a site does not tell)/, why: "a script, and lines of the log" },
];

export type Said = { file: string; line: number; words: string };

/** Files of code under `folder`, tests aside. */
function filesIn(folder: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const path = join(folder, entry.name);
    if (entry.isDirectory()) return filesIn(path);
    return /\.tsx?$/.test(entry.name) && !/\.test\.tsx?$/.test(entry.name) ? [path] : [];
  });
}

/** Whether a literal is prose; a code is a few small words and nothing else ("would not", "at once"). */
const isProse = (words: string) =>
  /\p{L}[,’]? \p{L}/u.test(words) && (/^\p{Lu}|[.,…?!:;’“”]/u.test(words) || words.trim().split(/\s+/).length > 4);

type Node = { type?: string } & Record<string, unknown>;

/** Attributes of elements that nobody reads. */
const UNREAD = new Set(["className", "d", "style", "id", "href", "name", "type", "key", "pattern", "autoComplete"]);

/** What a file of code says: texts of JSX, and literals of more than one word, "…" for what they insert. */
export function saidIn(file: string, code: string): Said[] {
  const said: Said[] = [];
  const add = (text: string, near: string) => {
    const words = text.replace(/\s+/g, " ").trim();
    const at = code.indexOf(near.trim().split("\n")[0]);
    if (words) said.push({ file, line: at < 0 ? 1 : code.slice(0, at).split("\n").length, words });
  };
  const visit = (it: unknown): void => {
    if (Array.isArray(it)) {
      for (const each of it) visit(each);
      return;
    }
    if (!it || typeof it !== "object") return;
    const node = it as Node;
    switch (node.type) {
      case "ImportDeclaration":
      case "TaggedTemplateExpression":
      case "TsTypeAliasDeclaration":
      case "TsInterfaceDeclaration":
      case "TsTypeAnnotation":
      case "TsLiteralType":
      case "ThrowStatement":
        return;
      case "JSXAttribute":
        if (UNREAD.has(String((node.name as Node)?.value))) return;
        break;
      case "JSXText":
        add(String(node.value), String(node.value));
        return;
      case "StringLiteral":
        if (isProse(String(node.value))) add(String(node.value), String(node.value));
        return;
      case "TemplateLiteral": {
        const pieces = (node.quasis as { cooked: string }[]).map(({ cooked }) => cooked);
        if (isProse(pieces.join(" … "))) add(pieces.join("…"), pieces.find((piece) => piece.trim()) ?? "");
        visit(node.expressions);
        return;
      }
      case "KeyValueProperty":
        visit(node.value);
        return;
    }
    for (const [key, value] of Object.entries(node)) if (key !== "span") visit(value);
  };
  visit(parseSync(code, { syntax: "typescript", tsx: file.endsWith(".tsx"), target: "esnext" }).body);
  return said;
}

/** What a catalogue in English says, without what it inserts. */
export function saidInCatalogue(file: string, json: string): Said[] {
  return json.split("\n").flatMap((line, at) => {
    const words = /^\s*"[^"]+": "(.*)",?$/.exec(line)?.[1];
    return words ? [{ file, line: at + 1, words }] : [];
  });
}

const withoutComments = (code: string) => code.replace(/\/\*[\s\S]*?\*\/|(?<=^|\s)\/\/.*$/gm, "");

/** Which sentences on screen say what the style refuses: "file:line: …, say … instead". */
export function wordingFaults(root: string): string[] {
  const faultOf = ({ words }: Said) => BANNED.find(({ pattern }) => pattern.test(words));
  const isAllowed = (said: Said) =>
    ALLOWED.some(({ file, words }) => (file?.test(said.file) ?? true) && (words?.test(said.words) ?? true));
  const code = filesIn(join(root, "src")).flatMap((path) => {
    const text = readFileSync(path, "utf8");
    const bare = withoutComments(text);
    // Only a file with a banned word in it somewhere is read as code.
    return BANNED.some(({ pattern }) => pattern.test(bare)) ? saidIn(relative(root, path), text) : [];
  });
  const catalogues = ["src/locales/en.json", "src/locales/customer/en.json"].flatMap((file) =>
    saidInCatalogue(file, readFileSync(join(root, file), "utf8")),
  );
  const guide = readdirSync(join(root, "docs/guide")).flatMap((name) =>
    readFileSync(join(root, "docs/guide", name), "utf8")
      .split("\n")
      .map((words, index) => ({ file: `docs/guide/${name}`, line: index + 1, words })),
  );
  return [...code, ...catalogues, ...guide].flatMap((said) => {
    const fault = isAllowed(said) ? undefined : faultOf(said);
    return fault ? [`${said.file}:${said.line}: “${said.words}” (say: ${fault.instead})`] : [];
  });
}
