import fc from "fast-check";
import { createTranslator } from "use-intl/core";
import { readKeyword } from "@/core/conversations/keywords";
import { LANGUAGES, type Language, PSEUDO } from "@/core/words/languages";
import { STARTER_PLACES } from "@/core/words/pieces";
import { starterWords } from "@/core/words/starters";
import { runs } from "../../tests/support/size";
import { CUSTOMER_CATALOGUES, type CustomerKey, customerWords, LOCALES } from "./customer";

/** Every word of the English catalogue with its key: "rating.change". */
const WORDS = Object.entries(CUSTOMER_CATALOGUES.en).flatMap(([part, words]) =>
  Object.keys(words).map((name) => `${part}.${name}` as CustomerKey),
);
const wordAt = (language: (typeof LANGUAGES)[number], key: string): unknown =>
  key.split(".").reduce<unknown>((at, name) => (at as Record<string, unknown>)[name], CUSTOMER_CATALOGUES[language]);
const namesIn = (word: unknown) =>
  [...new Set([...String(word).matchAll(/\{(\w+)[,}]/g)].map((match) => match[1]))].sort();

test.each(LANGUAGES)("%s has every word, and each fills in the same names", (language) => {
  const keys = Object.entries(CUSTOMER_CATALOGUES[language]).flatMap(([part, words]) =>
    Object.keys(words).map((name) => `${part}.${name}`),
  );
  expect(keys.sort()).toEqual([...WORDS].sort());
  for (const key of WORDS) {
    expect(String(wordAt(language, key)).trim()).not.toBe("");
    expect([key, namesIn(wordAt(language, key))]).toEqual([key, namesIn(wordAt("en", key))]);
  }
});

test("words are filled in as the formatter would, whatever the values", () => {
  const value = fc.oneof(
    fc.string(),
    fc.integer({ min: 0, max: 1e6 }),
    fc.constantFrom("", "{business}", "O'Hara", "<b>", "a # b", "$&", "’"),
  );
  fc.assert(
    fc.property(
      fc.constantFrom(...LANGUAGES),
      fc.constantFrom(...WORDS),
      fc.array(value, { minLength: 4 }),
      (language, key, drawn) => {
        const names = namesIn(wordAt(language, key));
        const isCounted = /, plural/.test(String(wordAt(language, key)));
        const values = Object.fromEntries(names.map((name, n) => [name, isCounted ? n + 3 : drawn[n % drawn.length]]));
        const formatted = createTranslator({
          locale: LOCALES[language],
          messages: CUSTOMER_CATALOGUES[language] as Record<string, unknown>,
        }) as unknown as (key: string, values: Record<string, string | number>) => string;
        expect(customerWords(language)(key, values)).toBe(formatted(key, values));
      },
    ),
    { numRuns: runs(500) },
  );
});

test("a name that is not given, or a word that there is not, is an error", () => {
  for (const language of [...LANGUAGES, PSEUDO] as const) {
    expect(() => customerWords(language)("page.because", {})).toThrow();
    expect(() => customerWords(language)("page.nothing" as CustomerKey)).toThrow();
  }
});

/** Everything that customers read in a language. */
const textsOf = (language: Language): string[] => [
  ...WORDS.map((key) => String(wordAt(language, key))),
  ...STARTER_PLACES.flatMap((place) => starterWords(language, place) ?? []),
];

test("French has no plain space before a sign that stands apart", () => {
  expect(textsOf("fr").filter((text) => /[^\n] [:;!?»]|« /.test(text))).toEqual([]);
});

test.each(LANGUAGES)("whatever customers are told in %s to reply is understood", (language) => {
  const told = textsOf(language).flatMap((text) => text.match(/\b(?:STOP|START|HELP)\b/g) ?? []);
  expect(told).toContain("STOP");
  for (const word of told) expect(readKeyword(word)?.keyword).toBe(word.toLowerCase());
});

test.each([
  ["Darse de baja", "stop"],
  ["no quiero más mensajes", "stop"],
  ["Désinscription", "stop"],
  ["keine SMS mehr, vielen Dank", "stop"],
  ["anular se faz favor", "stop"],
  ["Rezygnacja", "stop"],
  ["proszę nie pisać", "stop"],
  ["ponowna zgoda", "start"],
] as const)("“%s” is read as %s", (words, keyword) => {
  expect(readKeyword(words)?.keyword).toBe(keyword);
});
