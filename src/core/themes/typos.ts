import type { Lexicon } from "./reading";

/**
 * Slips of thumbs put right where that gives a word that the lexicon knows: two neighbouring letters in the wrong order,
 * or in a longer word one letter too few, too many, or wrong.
 */

/** Beginnings of words that a lexicon looks for, by their first two letters. */
type Stems = {
  all: Set<string>;
  byStart: Map<string, string[]>;
  longest: number;
  /** Words met before and what they became: the same few hundred make most of what people write. */
  met: Map<string, string>;
};

const stems = new WeakMap<Lexicon, Stems>();
const SHORTEST = 5;
const MOST_MET = 20_000;
/** Of shorter words, a letter more or less makes another word. */
const LONG = 8;

function stemsOf(lexicon: Lexicon): Stems {
  const known = stems.get(lexicon);
  if (known) return known;
  const all = new Set<string>();
  for (const { source } of [...lexicon.rules.map(({ when }) => when), lexicon.pleases, lexicon.displeases])
    for (const [stem] of source.replace(/\\[a-z]/g, " ").matchAll(/\p{Ll}{5,}/gu)) all.add(stem);
  const byStart = new Map<string, string[]>();
  for (const stem of all) {
    const start = stem.slice(0, 2);
    byStart.set(start, [...(byStart.get(start) ?? []), stem]);
  }
  const made = { all, byStart, longest: Math.max(...[...all].map(({ length }) => length)), met: new Map() };
  stems.set(lexicon, made);
  return made;
}

function isKnown(word: string, { all, longest }: Stems): boolean {
  for (let length = Math.min(word.length, longest); length >= SHORTEST; length--)
    if (all.has(word.slice(0, length))) return true;
  return false;
}

/** Whether two words differ by one letter at most: one more, one less, or another. */
function isNear(a: string, b: string): boolean {
  if (Math.abs(a.length - b.length) > 1) return false;
  let start = 0;
  while (start < a.length && a[start] === b[start]) start += 1;
  let end = 0;
  while (end < Math.min(a.length, b.length) - start && a[a.length - 1 - end] === b[b.length - 1 - end]) end += 1;
  return Math.max(a.length, b.length) - start - end <= 1;
}

function mendedWord(word: string, known: Stems): string {
  for (let at = 1; at < word.length - 1; at++) {
    const other = word.slice(0, at) + word[at + 1] + word[at] + word.slice(at + 2);
    if (other !== word && isKnown(other, known)) return other;
  }
  if (word.length < LONG) return word;
  return known.byStart.get(word.slice(0, 2))?.find((stem) => stem.length >= LONG && isNear(word, stem)) ?? word;
}

function lookedUp(word: string, known: Stems): string {
  const before = known.met.get(word);
  if (before !== undefined) return before;
  const after = isKnown(word, known) ? word : mendedWord(word, known);
  if (known.met.size >= MOST_MET) known.met.clear();
  known.met.set(word, after);
  return after;
}

/** Words with their slips put right, where nothing is known of them as they are. */
export function mended(words: string, lexicon: Lexicon): string {
  const known = stemsOf(lexicon);
  return words
    .split(" ")
    .map((word) => (/^\p{L}{5,24}$/u.test(word) ? lookedUp(word, known) : word))
    .join(" ");
}
