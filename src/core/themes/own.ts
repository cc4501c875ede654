import { isReadLanguage } from "./read";
import { detachedClauses, READERS } from "./readers";
import { type Found, polarityOf } from "./reading";
import { mended } from "./typos";

/** Themes that a business adds by example words: a clause that holds one of them names it. */

export type OwnTheme = { name: string; words: readonly string[] };
export type FoundOwn = Omit<Found, "theme"> & { name: string };

const escaped = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, "\\$&");

/** Small letters without accents. */
const plain = (text: string) => text.normalize("NFD").replace(/\p{M}/gu, "").toLowerCase();

/** Example words as a pattern: each with its plain endings ("meter" is named by "meters" too). */
function patternOf(words: readonly string[]): RegExp | null {
  const each = words.map((word) => plain(word.trim())).filter((word) => word.length > 1);
  if (each.length === 0) return null;
  return new RegExp(`(?<![\\p{L}\\p{N}])(?:${each.map(escaped).join("|")})(?:e?s|ed|ing|n|en)?(?![\\p{L}\\p{N}])`, "u");
}

/**
 * What a text names of a business's own themes. How somebody was with it is read from the clause in English and
 * Spanish; where that does not tell, and in every other language, the rating does.
 */
export function readOwnThemes(
  text: string,
  language: string,
  own: readonly OwnTheme[],
  rating: number | null,
): FoundOwn[] {
  const patterns = own.flatMap(({ name, words }) => {
    const pattern = patternOf(words);
    return pattern ? [{ name, pattern }] : [];
  });
  if (patterns.length === 0) return [];
  const reader = isReadLanguage(language) ? READERS[language] : null;
  const byRating = (rating ?? 3) >= 4 ? ("happy" as const) : ("unhappy" as const);
  const clauses = reader
    ? reader.clausesOf(text).map((clause) => ({ ...clause, words: mended(clause.words, reader.lexicon) }))
    : detachedClauses(text);
  return clauses.flatMap(({ words, from, to }) =>
    patterns.flatMap(({ name, pattern }) => {
      const match = pattern.exec(plain(text.slice(from, to)));
      if (!match) return [];
      const at = Math.max(0, plain(words).indexOf(match[0]));
      const polarity = (reader && polarityOf(words, at, reader.lexicon)) ?? byRating;
      return [{ name, polarity, from, to }];
    }),
  );
}
