import fc from "fast-check";
import { evaluationTexts, measure } from "../../../scripts/bench/themes/texts";
import { ENGLISH, ENGLISH_SLOTS } from "../../../standins/townsfolk/sayings/english";
import { runs } from "../../../tests/support/size";
import { isReadLanguage, readThemes } from "./read";
import { THEMES } from "./themes";

const said = (text: string, language: "en" | "es" = "en") =>
  readThemes(text, language).map(({ theme, polarity }) => `${theme} ${polarity}`);

test.each([
  ["en", 0.9, 0.85],
  ["es", 0.8, 0.8],
] as const)("of texts in %s that no rule was made from, what is named is found", (language, precision, recall) => {
  const measured = measure(evaluationTexts(language, 2000), (text) => readThemes(text, language));
  expect(measured.precision).toBeGreaterThanOrEqual(precision);
  expect(measured.recall).toBeGreaterThanOrEqual(recall);
});

test("what the townsfolk say is understood", () => {
  const filled = (text: string) =>
    text.replace(/\{(\w+)\}/g, (_, name: string) => (name === "it" ? "Biscuit" : ENGLISH_SLOTS[name][0]));
  const texts = THEMES.flatMap((theme) =>
    (["happy", "unhappy"] as const).flatMap((polarity) =>
      ENGLISH[theme][polarity].map((text) => ({ text: `${filled(text)}.`, says: [{ theme, polarity }] })),
    ),
  );
  const { precision, recall } = measure(texts, (text) => readThemes(text, "en"));
  expect([precision >= 0.95, recall >= 0.95]).toEqual([true, true]);
});

test.each([
  ["The vet was kind, but we waited an hour.", ["kindness happy", "waiting unhappy"]],
  ["Not at all slow.", ["waiting happy"]],
  ["It was not cheap and the floor was not clean.", ["price unhappy", "cleanliness unhappy"]],
  ["Nobody was rude, nobody rushed us.", ["kindness happy", "thoroughness happy"]],
  ["I feared a huge bill. There was none.", ["price happy"]],
  ["I feared a huge bill.", []],
  ["The explantion was claer.", ["explanation happy"]],
  ["Couldn’t have been friendlier!", ["kindness happy"]],
  ["They should have called me back.", ["follow-up unhappy"]],
  ["a kind of garage", []],
  ["5 stars", []],
  ["", []],
])("%p says %p", (text, says) => {
  expect(said(text)).toEqual(says);
});

test.each([
  ["Muy amables, pero tardaron una eternidad en atender.", ["kindness happy", "waiting unhappy"]],
  ["No es nada caro.", ["price happy"]],
  ["Nadie fue maleducado.", ["kindness happy"]],
  ["Bien.", []],
])("%p says %p in Spanish", (text, says) => {
  expect(said(text, "es")).toEqual(says);
});

test("whatever somebody writes, what is found stands in it, and reading it again finds the same", () => {
  const odd = fc.oneof(
    fc.string({ unit: "grapheme", maxLength: 300 }),
    fc.constantFrom(
      "<b>slow</b> & rude",
      "\u202Eslow\u202C",
      "s\u200Blow",
      "!!!",
      "👍🏽👎",
      "ñ".repeat(5000),
      "slow. ".repeat(500),
    ),
    fc
      .array(
        fc.constantFrom("not", "never", "kind", "but", "and", "the", "bill", ",", ".", "slow", "nobody", "on time"),
        {
          maxLength: 40,
        },
      )
      .map((words) => words.join(" ")),
  );
  fc.assert(
    fc.property(odd, fc.constantFrom("en" as const, "es" as const), (text, language) => {
      const found = readThemes(text, language);
      for (const { from, to, theme } of found) {
        expect(from).toBeGreaterThanOrEqual(0);
        expect(to).toBeLessThanOrEqual(text.length);
        expect(from).toBeLessThan(to);
        expect(THEMES).toContain(theme);
      }
      expect(readThemes(text, language)).toEqual(found);
    }),
    { numRuns: runs(300) },
  );
});

test("a review of ten thousand words is read in a moment", () => {
  const long = "The nurses were lovely but we waited an hour and the bill was double the estimate. ".repeat(700);
  expect(new Set(said(long))).toEqual(new Set(["kindness happy", "waiting unhappy", "price unhappy"]));
});

test("other languages are not read", () => {
  expect(["en", "es", "fr", "pl", "toString"].filter(isReadLanguage)).toEqual(["en", "es"]);
});
