import { isReadLanguage, readThemes } from "@/core/themes/read";
import type { Found } from "@/core/themes/reading";
import { readLanguage } from "@/core/words/detectLanguage";
import type { Language } from "@/core/words/languages";

/** What somebody's words name, read once for however often they are shown. */

/** `named` is null where the language is not read. */
export type Reading = { language: Language; isLanguageSure: boolean; named: readonly Found[] | null };

/** Kept by language of the client, rating and text; the eldest goes first. */
const kept = new Map<string, Reading>();
const MOST_KEPT = 2000;
/** Longer ones are rare, and are read anew. */
const MOST_LETTERS = 2000;

/** The language of a text, of a client who speaks `own`, and what it names with this rating (1 to 5). */
export function readingOf(words: string, own: Language, rating: number | null = null): Reading {
  const key = `${own} ${rating} ${words}`;
  const known = kept.get(key);
  if (known) return known;
  const { language, isSure } = readLanguage(words, own);
  const reading: Reading = {
    language,
    isLanguageSure: isSure,
    named: isReadLanguage(language) ? readThemes(words, language, rating) : null,
  };
  if (words.length > MOST_LETTERS) return reading;
  for (const eldest of kept.keys()) {
    if (kept.size < MOST_KEPT) break;
    kept.delete(eldest);
  }
  kept.set(key, reading);
  return reading;
}
