import { isInAlphabet } from "./textParts";

/** The languages in which customers are written to. Edit here, in `starters` and in `src/locales/customer` together. */

export const LANGUAGES = ["en", "es", "fr", "de", "pt", "pl"] as const;
export type Language = (typeof LANGUAGES)[number];

/** Every letter accented and a third longer: a page in it shows which words come from no catalogue. Never offered. */
export const PSEUDO = "en-XA";
export type AnyLanguage = Language | typeof PSEUDO;

/** What English calls each, and what each calls itself. */
export const LANGUAGE_NAMES: Record<Language, string> = {
  en: "English",
  es: "Spanish",
  fr: "French",
  de: "German",
  pt: "Portuguese",
  pl: "Polish",
};
export const OWN_NAMES: Record<Language, string> = {
  en: "English",
  es: "Español",
  fr: "Français",
  de: "Deutsch",
  pt: "Português",
  pl: "Polski",
};

export const isLanguage = (tag: string): tag is Language => (LANGUAGES as readonly string[]).includes(tag);

/** The language of a BCP 47 tag, whatever its script and region; null for one that nobody is written to in. */
export function languageOf(tag: string | null | undefined): AnyLanguage | null {
  if (!tag) return null;
  if (tag === PSEUDO) return PSEUDO;
  const primary = tag.toLowerCase().split(/[-_]/)[0];
  return isLanguage(primary) ? primary : null;
}

/** The first of these tags (a person's record, their last page, their client's) that is one of ours; else English. */
export function firstLanguage(...tags: (string | null | undefined)[]): AnyLanguage {
  for (const tag of tags) {
    const language = languageOf(tag);
    if (language) return language;
  }
  return "en";
}

/**
 * The language that a browser asks for, by the weights of its `Accept-Language` (RFC 9110, 12.5.4); null where it names
 * none of ours. At most the first 200 characters are read.
 */
export function acceptedLanguage(header: string | null): Language | null {
  const ranked = (header ?? "")
    .slice(0, 200)
    .split(",")
    .map((part, place) => {
      const [tag, ...rest] = part.trim().split(";");
      const weight = rest.map((each) => /^\s*q=([0-9.]+)\s*$/.exec(each)?.[1]).find(Boolean);
      return { language: languageOf(tag.trim()), weight: weight ? Number(weight) : 1, place };
    })
    .filter(({ language, weight }) => language !== null && language !== PSEUDO && weight > 0)
    .sort((a, b) => b.weight - a.weight || a.place - b.place);
  return (ranked[0]?.language as Language | undefined) ?? null;
}

const ACCENTED = new Map(
  [..."abcdefghijklmnopqrstuvwxyz"].flatMap((letter, index) => {
    const small = [..."àƀçđéƒğĥíĵķłɱñöƥɋŕšţüṽŵẋýž"][index];
    return [
      [letter, small],
      [letter.toUpperCase(), small.toUpperCase()],
    ];
  }),
);

/**
 * Words as the pseudo-language has them: literal letters accented, and some more at the end. Arguments of ICU messages
 * and names of placeholders stay; what stands inside a plural, or as a fallback, is literal again.
 */
export function pseudoWords(words: string): string {
  let depth = 0;
  let literal = true;
  let letters = 0;
  let out = "";
  for (const character of words) {
    if (character === "{") literal = ++depth % 2 === 0;
    else if (character === "}") literal = --depth % 2 === 0;
    else if (character === "|" && depth === 1) literal = true;
    const accented = literal ? ACCENTED.get(character) : undefined;
    if (accented && depth === 0) letters += 1;
    out += accented ?? character;
  }
  return letters > 3 ? `${out} ${"·".repeat(Math.ceil(letters * 0.3))}` : out;
}

/**
 * "Biscuit" as what something belongs to: "Biscuit’s", "Iris’" in English; "de Biscuit", "d’Iris", "von Biscuit" where
 * languages say it so; in brackets in Polish, which would bend the name.
 */
export function belongingTo(name: string, language: AnyLanguage): string {
  switch (language) {
    case "es":
    case "pt":
      return `de ${name}`;
    case "fr":
      // Each of several has its own: "de Biscuit et d’Iris".
      return name
        .split(/(, | et )/)
        .map((part, at) => (at % 2 ? part : /^[aeiouyàâéèêëîïôûhœæ]/i.test(part) ? `d’${part}` : `de ${part}`))
        .join("");
    case "de":
      return `von ${name}`;
    case "pl":
      return `(${name})`;
    default:
      return /s$/i.test(name) ? `${name}’` : `${name}’s`;
  }
}

/**
 * Letters outside GSM 03.38 with their marks taken off, which keeps a text in a language with many of them inside it.
 * Those of the alphabet stay: "años" and "Würden" mean something else without their marks.
 */
export function withoutMarks(text: string): string {
  const bare = (letter: string) =>
    letter
      .replace(/[łŁ]/g, (it) => (it === "ł" ? "l" : "L"))
      .normalize("NFD")
      .replace(/\p{Mn}/gu, "");
  return [...text.normalize("NFC")].map((letter) => (isInAlphabet(letter) ? letter : bare(letter))).join("");
}
