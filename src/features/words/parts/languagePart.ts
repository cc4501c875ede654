import { LANGUAGE_NAMES, LANGUAGES, type Language } from "@/core/words/languages";
import type { FilterPart } from "@/ui/FilterSentence.client";
import { filterPart } from "@/ui/filterPart";

/** The part of a way's sentence that chooses the language in which it is read. */
export const languagePart = (
  own: Language,
  language: Language,
  href: (language: string | null) => string,
): FilterPart =>
  filterPart({
    label: "Language",
    any: LANGUAGE_NAMES[own],
    value: language === own ? null : language,
    choices: LANGUAGES.filter((each) => each !== own).map((value) => ({ value, words: LANGUAGE_NAMES[value] })),
    href,
  });
