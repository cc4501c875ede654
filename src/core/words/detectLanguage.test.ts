import fc from "fast-check";
import { evaluationTexts } from "../../../scripts/bench/themes/texts";
import { detectLanguage } from "./detectLanguage";
import { LANGUAGES } from "./languages";

test.each([
  ["The vet was very kind and we were seen on time.", "en"],
  ["Nos atendieron muy bien y el precio es justo.", "es"],
  ["Le personnel est très aimable et nous avons été bien reçus.", "fr"],
  ["Das Team war sehr freundlich und wir mussten nicht warten.", "de"],
  ["O atendimento foi muito bom e não esperámos nada.", "pt"],
  ["Bardzo miła obsługa i wszystko było na czas.", "pl"],
  ["Super!", "fr"],
  ["", "fr"],
  ["👍", "fr"],
] as const)("%p is %s", (text, language) => {
  expect(detectLanguage(text, "fr")).toBe(language);
});

test.each(["en", "es"] as const)("nearly every longer text in %s is known for what it is", (language) => {
  const texts = evaluationTexts(language, 600).filter(({ text }) => text.split(" ").length >= 9);
  const other = language === "en" ? "es" : "en";
  const right = texts.filter(({ text }) => detectLanguage(text, other) === language).length;
  expect(right / texts.length).toBeGreaterThan(0.95);
});

test.each([
  ["I felt listened to.", "en"],
  ["I go to no other garage.", "en"],
  ["Do go to them.", "en"],
  ["I had to do it on my own.", "en"],
  ["In and out in an hour.", "en"],
  ["So good, so quick.", "en"],
  ["As good as ever.", "en"],
  ["No mess, no fuss.", "en"],
  ["Do as I did: ring them.", "en"],
  ["Lovely people.", "en"],
  ["Es ist gut.", "de"],
  ["Muy bien.", "es"],
  ["Très bien.", "fr"],
  ["Polecam, było super.", "pl"],
] as const)("%p is %s, or is taken for the client’s language, never for a third", (text, language) => {
  for (const otherwise of LANGUAGES) expect([language, otherwise]).toContain(detectLanguage(text, otherwise));
});

test("whatever a text is, one of the languages is told", () => {
  fc.assert(
    fc.property(fc.string({ unit: "grapheme", maxLength: 200 }), fc.constantFrom(...LANGUAGES), (text, otherwise) => {
      expect(LANGUAGES).toContain(detectLanguage(text, otherwise));
    }),
  );
});
