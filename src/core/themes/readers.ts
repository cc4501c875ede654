import { englishClauses } from "./english/clauses";
import { ENGLISH } from "./english/lexicon";
import { SPANISH, spanishClauses } from "./spanish";

/** The languages in which texts are read, each with its words and how it is parted into clauses. */
export const READERS = {
  en: { lexicon: ENGLISH, clausesOf: englishClauses },
  es: { lexicon: SPANISH, clausesOf: spanishClauses },
} as const;

/** A text of any language in its sentences, in small letters; characters from 0. */
export function detachedClauses(text: string): { words: string; from: number; to: number }[] {
  return [...text.matchAll(/[^.!?\n;]+[.!?]*/g)].flatMap(({ 0: words, index }) =>
    words.trim() ? [{ words: words.toLowerCase(), from: index, to: index + words.length }] : [],
  );
}
