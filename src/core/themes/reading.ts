import type { Named, Polarity, Theme } from "./themes";

/** What reading a text for themes works on, in whichever language. */

/** A sign of a theme in a clause. Without a polarity, it is what is said beside it that tells. */
export type Rule = { theme: Theme; pattern: string; when: RegExp; polarity?: Polarity };

/** Patterns that tell of a theme: pleased, not pleased, or only that it is named. */
export type Signs = { happy?: readonly string[]; unhappy?: readonly string[]; named?: readonly string[] };

const onWholeWords = (pattern: string) => new RegExp(`(?<![\\w-])(?:${pattern})(?![\\w])`);

/** Patterns as rules: each on whole words. */
const compiled = (theme: Theme, patterns: readonly string[] = [], polarity?: Polarity): Rule[] =>
  patterns.map((pattern) => ({ theme, pattern, when: onWholeWords(pattern), polarity }));

/**
 * The rules of several collections of signs. Where a sign leaves room for any word, that word is none of `turning`, which
 * would turn its meaning round.
 */
export const rulesOf = (turning: string, ...collections: Partial<Record<Theme, Signs>>[]): Rule[] => {
  const firm = (patterns: readonly string[] = []) =>
    patterns.map((pattern) =>
      pattern
        .replaceAll("(?:\\w+ )", `(?:(?!(?:${turning}) )\\w+ )`)
        .replace(/(?<!\\)\.(\{0,\d+\})/g, `(?:(?!\\b(?:${turning})\\b).)$1`),
    );
  return collections.flatMap((signs) =>
    (Object.entries(signs) as [Theme, Signs][]).flatMap(([theme, { happy, unhappy, named }]) => [
      ...compiled(theme, firm(happy), "happy"),
      ...compiled(theme, firm(unhappy), "unhappy"),
      ...compiled(theme, firm(named)),
    ]),
  );
};

/** A part of a sentence that says one thing, with its words in small letters, one space between them. */
export type Clause = {
  words: string;
  /** Where it stands in the text: characters, from 0. */
  from: number;
  to: number;
  /** Whether it turns against what stood before it ("but", "although"). */
  turns: boolean;
  /** Whether a sentence begins with it. */
  begins: boolean;
};

export type Lexicon = {
  rules: readonly Rule[];
  /** Words that please or displease whatever they are said of. */
  pleases: RegExp;
  displeases: RegExp;
  /** Words that turn what follows them into its opposite. */
  negates: RegExp;
  /** Between a word that negates and what it negates stands none of these. */
  closes: RegExp;
  /** What stands before something that is only wished for, and what stands behind it. */
  wishes: RegExp;
  wishesAfter: RegExp;
  /** Sayings that are not about what their words are about. */
  sayings: RegExp;
  /** A whole clause that takes back the one before it ("there was none"). */
  takesBack: RegExp;
  /** Introduces what somebody feared or expected, and not what was. */
  supposes: RegExp;
};

/** Something that was named, and the very words that name it: characters of the text, from 0. */
export type Found = Named & { from: number; to: number };

const opposite = (polarity: Polarity): Polarity => (polarity === "happy" ? "unhappy" : "happy");

/** How many words before a sign are looked at for one that negates it. */
const REACH = 4;

/** Whether what stands at `at` is negated by one of the few words before it. */
function isNegated(words: string, at: number, { negates, closes }: Lexicon): boolean {
  const before = words.slice(0, at).trim().split(" ").filter(Boolean).slice(-REACH);
  // What could be better is not good: "could be friendlier", "should be more careful".
  if (/^(?:\p{L}+er|more|better|less)\b/u.test(words.slice(at)) || before.at(-1) === "more") {
    const modal = before.findLastIndex((word) => /^(?:could|should|might|would)$/.test(word));
    if (modal >= 0 && /^(?:be|have)$/.test(before[modal + 1] ?? "be")) return true;
    if (modal >= 0 && before[modal + 1] === "not") return false;
  }
  for (let index = before.length - 1; index >= 0; index--) {
    if (closes.test(before[index])) return false;
    // What should have been was not.
    if (/^(?:should|could)$/.test(before[index]) && before.slice(index + 1, index + 3).includes("have")) return true;
    if (negates.test(before[index])) return before[index + 1] !== "only";
  }
  return false;
}

type Sign = { polarity: Polarity; at: number };

/** What a clause says of what is named at `at`, or null where it does not tell how. */
export function polarityOf(words: string, at: number, lexicon: Lexicon): Polarity | null {
  const signs: Sign[] = [];
  for (const [polarity, pattern] of [
    ["happy", lexicon.pleases],
    ["unhappy", lexicon.displeases],
  ] as const)
    for (const match of words.matchAll(pattern)) {
      const place = match.index ?? 0;
      signs.push({ polarity: isNegated(words, place, lexicon) ? opposite(polarity) : polarity, at: place });
    }
  signs.sort((a, b) => Math.abs(a.at - at) - Math.abs(b.at - at));
  return signs[0]?.polarity ?? null;
}

/** Rules in groups, each with one pattern that fits wherever one of them does. */
type RuleGroup = { any: RegExp; rules: Rule[] };

const groups = new WeakMap<Lexicon, RuleGroup[]>();
const GROUP_SIZE = 16;

/** Most clauses fit no rule at all: one search for a group tells so, instead of one for each rule. */
function groupsOf(lexicon: Lexicon): RuleGroup[] {
  const known = groups.get(lexicon);
  if (known) return known;
  const made: RuleGroup[] = [];
  for (let at = 0; at < lexicon.rules.length; at += GROUP_SIZE) {
    const rules = lexicon.rules.slice(at, at + GROUP_SIZE);
    made.push({ any: onWholeWords(rules.map(({ pattern }) => pattern).join("|")), rules });
  }
  groups.set(lexicon, made);
  return made;
}

type Match = { theme: Theme; at: number; words: string; polarity: Polarity | null; tells: boolean };

/** What a sign says where it fits: turned round by a word before it that negates. */
function polarityAt({ polarity }: Rule, match: RegExpExecArray, words: string, lexicon: Lexicon): Polarity | null {
  if (!polarity) return polarityOf(words, match.index, lexicon);
  if (polarity === "happy" && isWished(words, match.index, lexicon)) return "unhappy";
  return isNegated(words, match.index, lexicon) ? opposite(polarity) : polarity;
}

/** Whether what is said is only wished for: "could do with a smile", "a smile would not hurt". */
const isWished = (words: string, at: number, { wishes, wishesAfter }: Lexicon): boolean =>
  wishes.test(words.slice(0, at)) || wishesAfter.test(words);

/** Whether one sign is part of a longer one that means something else: "take" in "take advantage". */
const isPartOf = (part: Match, whole: Match): boolean =>
  whole.tells &&
  part.theme !== whole.theme &&
  part.at >= whole.at &&
  part.at + part.words.length <= whole.at + whole.words.length &&
  part.words.length < whole.words.length;

/** What one clause names. */
function readClause(words: string, lexicon: Lexicon): Map<Theme, { polarity: Polarity | null; isPlain: boolean }> {
  const matches: Match[] = [];
  for (const group of groupsOf(lexicon)) {
    if (!group.any.test(words)) continue;
    for (const rule of group.rules) {
      const match = rule.when.exec(words);
      if (!match) continue;
      const polarity = polarityAt(rule, match, words, lexicon);
      matches.push({
        theme: rule.theme,
        at: match.index,
        words: match[0],
        polarity,
        tells: rule.polarity !== undefined,
      });
    }
  }
  const told = new Map<Theme, { polarity: Polarity | null; isPlain: boolean; weight: number }>();
  for (const match of matches) {
    if (matches.some((other) => isPartOf(match, other))) continue;
    // A sign that tells how outweighs one that only names; of two that tell, the longer one.
    const weight = (match.tells ? 1000 : match.polarity ? 500 : 0) + match.words.length;
    const before = told.get(match.theme);
    if (!before || weight > before.weight)
      told.set(match.theme, { polarity: match.polarity, isPlain: match.tells, weight });
  }
  return told;
}

/** Whether somebody who gave this rating, from 1 to 5, meant it so; only the ends of the scale tell. */
const agrees = (polarity: Polarity, rating: number | null): boolean =>
  rating === null || (polarity === "happy" ? rating > 2 : rating < 5);

/**
 * What a text names, clause by clause. What is named without a word of how it was goes with its neighbour in the
 * sentence, or is left out. So is what only words beside it tell, where the rating says the opposite: "oh, great prices"
 * with one star.
 *
 * @param rating from 1 to 5, or null where there is none
 */
export function readClauses(clauses: readonly Clause[], lexicon: Lexicon, rating: number | null = null): Found[] {
  const found: Found[] = [];
  let last: { named: Found[]; polarity: Polarity | null; isSupposed: boolean } | null = null;
  for (const { words: said, from, to, turns, begins } of clauses) {
    const words = said.replace(lexicon.sayings, " … ");
    if (lexicon.takesBack.test(words)) {
      for (const each of last?.named ?? []) each.polarity = opposite(each.polarity);
      if (last?.isSupposed) found.push(...last.named);
      last = null;
      continue;
    }
    const before: Polarity | null = begins || turns ? null : (last?.polarity ?? null);
    const named: Found[] = [];
    for (const [theme, { polarity, isPlain }] of readClause(words, lexicon)) {
      const told = polarity ?? before;
      // "Not cheap, but worth it": what is conceded first was meant, and what follows takes nothing back.
      const isConceded =
        turns && !begins && (last?.named ?? []).some((it) => it.theme === theme && it.polarity !== told);
      if (told && !isConceded && (isPlain || agrees(told, rating))) named.push({ theme, polarity: told, from, to });
    }
    // What was feared or expected is not what was, unless the next sentence says so.
    const isSupposed = lexicon.supposes.test(words);
    if (!isSupposed) found.push(...named);
    last = { named, polarity: named[0]?.polarity ?? null, isSupposed };
  }
  return found;
}
