import fc from "fast-check";
import { LABELLED_SETS, type LabelledSet, labelledTexts } from "../../../scripts/bench/themes/labelled";
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

test.each<[LabelledSet, precision: number, recall: number]>([
  ["English, others', plain", 0.88, 0.88],
  ["English, others', idiomatic", 0.86, 0.88],
  ["English, own, open", 0.8, 0.8],
  ["English, own, frozen", 0.78, 0.8],
  ["English, later", 0.8, 0.82],
  ["Spanish, others'", 0.88, 0.88],
  ["Spanish, own, frozen", 0.9, 0.86],
  ["Spanish, later", 0.82, 0.8],
])("of the labelled texts %p, what is named is found", (set, precision, recall) => {
  const measured = measure(labelledTexts(set), (text) => readThemes(text, LABELLED_SETS[set].language));
  expect(measured.precision).toBeGreaterThanOrEqual(precision);
  expect(measured.recall).toBeGreaterThanOrEqual(recall);
});

test("where the rating says the opposite, what only neighbouring words tell is left out", () => {
  const told = (text: string, rating: number | null) => readThemes(text, "en", rating).map(({ polarity }) => polarity);
  expect(told("What a wonderful estimate.", null)).toEqual(["happy"]);
  expect(told("What a wonderful estimate.", 1)).toEqual([]);
  // What is said outright stands, whatever the rating.
  expect(told("The receptionist was rude.", 5)).toEqual(["unhappy"]);
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
  // A few name a second theme as well, and rightly: who felt ripped off speaks of the price and of honesty.
  expect([precision >= 0.92, recall >= 0.95]).toEqual([true, true]);
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
  ["Parking is never an issue.", ["access happy"]],
  ["My car failed inspection.", ["result unhappy"]],
  ["A smile wouldn’t hurt.", ["kindness unhappy"]],
  ["They could do with being on time.", ["waiting unhappy"]],
  ["Not cheap but worth every penny.", ["price unhappy"]],
  ["We walked down Kind Street.", []],
  ["We bought pan pipes.", []],
  ["They promised to call me back but never did.", ["follow-up unhappy"]],
  ["The flowers were wilted.", ["result unhappy"]],
  ["The stain came out completely.", ["result happy"]],
  ["Nobody turned up.", ["waiting unhappy"]],
  ["I was shocked by the bill.", ["price unhappy"]],
  ["He put his foot through my ceiling.", ["damage unhappy"]],
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
  ["Quedaron en llamarme y hasta hoy.", ["follow-up unhappy"]],
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
