import { READERS } from "./readers";
import { type Found, readClauses } from "./reading";
import { mended } from "./typos";

/** What a review or note names, in its own words. */

/** Languages in which texts are read; of the others, the rating alone tells how somebody was. */
export type ReadLanguage = keyof typeof READERS;
export const isReadLanguage = (language: string): language is ReadLanguage => Object.hasOwn(READERS, language);

/** As many characters as are read: a longer text has said it by then. */
const MOST_LETTERS = 20_000;

/**
 * What a text names, each with the clause that does, in the order in which it stands there.
 *
 * @param rating that came with it, from 1 to 5, or null
 */
export function readThemes(text: string, language: ReadLanguage, rating: number | null = null): Found[] {
  const { lexicon, clausesOf } = READERS[language];
  const clauses = clausesOf(text.slice(0, MOST_LETTERS)).map((clause) => ({
    ...clause,
    words: mended(clause.words, lexicon),
  }));
  return readClauses(clauses, lexicon, rating);
}
