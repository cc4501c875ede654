import fc from "fast-check";
import { evaluationTexts } from "../../../scripts/bench/themes/texts";
import { detectLanguage, readLanguage } from "./detectLanguage";
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

test.each([
  // Told, and so a rule may post.
  ["Great service!", "en", "en", true],
  ["Excellent, would recommend", "en", "en", true],
  ["Muy recomendable", "en", "es", true],
  ["Excelente trato", "en", "es", true],
  ["Super!", "de", "de", true],
  ["", "en", "en", true],
  ["👍👍", "en", "en", true],
  ["Freundlich und kompetent, gerne wieder", "en", "de", true],
  // Not told: the client's own, and nothing is posted by rule.
  ["Ottimo!", "en", "en", false],
  ["Hvala", "en", "en", false],
  ["Uitstekend", "de", "de", false],
  ["Ottimo lavoro, molto gentili e puntuali, prezzo giusto. Ci torneremo sicuramente.", "en", "en", false],
  ["Zeer vriendelijk personeel en snel geholpen, ik kom zeker terug naar deze zaak.", "en", "en", false],
  ["Отличный сервис, очень вежливый персонал, всем советую обращаться сюда.", "en", "en", false],
] as const)("%p, at a client who speaks %s, is %s, told: %p", (text, own, language, isSure) => {
  expect(readLanguage(text, own)).toEqual({ language, isSure });
});

test.each(["en", "es"] as const)("what is told of a text in %s is seldom wrong, short or long", (language) => {
  const other = language === "en" ? "de" : "en";
  const texts = evaluationTexts(language, 600);
  const told = texts.map(({ text }) => readLanguage(text, other)).filter(({ isSure }) => isSure);
  expect(told.filter((it) => it.language === language).length / told.length).toBeGreaterThan(0.98);
  expect(told.length / texts.length).toBeGreaterThan(0.6);
  const atHome = texts.filter(({ text }) => readLanguage(text, language).isSure).length;
  expect(atHome / texts.length).toBeGreaterThan(0.7);
});

test("whatever a text is, one of the languages is told", () => {
  fc.assert(
    fc.property(fc.string({ unit: "grapheme", maxLength: 200 }), fc.constantFrom(...LANGUAGES), (text, otherwise) => {
      expect(LANGUAGES).toContain(detectLanguage(text, otherwise));
    }),
  );
});
