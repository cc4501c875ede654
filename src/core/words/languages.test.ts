import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { composeAsk, valuesOf } from "./compose";
import {
  acceptedLanguage,
  belongingTo,
  firstLanguage,
  LANGUAGES,
  PSEUDO,
  pseudoWords,
  withoutMarks,
} from "./languages";
import { FIELDS, MESSAGES, PAGE_PLACES, STARTER_PLACES } from "./pieces";
import { fillIn, PLACEHOLDERS, placeholdersIn, withoutFallback } from "./placeholders";
import { wrongPiece } from "./planWords";
import { starterWords } from "./starters";
import { textParts } from "./textParts";

const name = fc.oneof(
  fc.constant(""),
  fc.string({ maxLength: 30 }),
  fc.constantFrom(
    "Odette",
    "Władysława",
    "José María",
    "Bartholomew-Fitzgerald-Smythe",
    "<b>x</b>",
    "{link}",
    "  ",
    "O’Neil",
    "李",
    "a|b",
  ),
);
const facts = fc.record({
  person: fc.record({ given: name, family: name }),
  business: fc.constantFrom("Bramble Lane Vets", "B & Co"),
  branch: fc.constantFrom("Fenwick", "Old Mill"),
  service: fc.constantFrom("Check-up", "", "Nail trim"),
  about: fc.option(fc.constantFrom("Biscuit", "Iris", "Élan")),
  teamMember: fc.option(fc.constantFrom("Nurse Arkwright", "Sam")),
  language: fc.constantFrom(...LANGUAGES, PSEUDO),
});

/** What no sentence may have once it is filled in; French keeps a space before ! and ?. */
const gapsOf = (language: string) => (language === "fr" ? /[ \t]{2}|[ \t]+[,.]|,\s*[.!?,]|^[,.]|\(\s*\)/m : GAPS);
const GAPS = /[ \t]{2}|[ \t]+[,.!?]|,\s*[.!?,]|[¿¡][.?!]|^[,.]|\(\s*\)/m;

test("every starter wording, in every language and for anybody, fills in without a gap", () => {
  fc.assert(
    fc.property(facts, fc.constantFrom(...MESSAGES), fc.constantFrom("text", "email"), (known, message, channel) => {
      const words = Object.fromEntries(
        FIELDS.map((field) => [field, starterWords(known.language, `${message}/${field}`) ?? ""]),
      ) as Record<(typeof FIELDS)[number], string>;
      const plain = { ...known, person: { given: known.person.given.replace(/[^\p{L}]/gu, ""), family: "" } };
      const { subject, body } = composeAsk(words, channel as "text" | "email", plain, "https://e.test/a/x.0");
      for (const said of [body, ...(subject === null ? [] : [subject])]) {
        expect(said).not.toMatch(/[{}]/);
        expect(said.replace(/https\S+/g, "x")).not.toMatch(gapsOf(known.language));
      }
    }),
    { numRuns: runs(3000) },
  );
});

test("every place of the pages does, too", () => {
  fc.assert(
    fc.property(facts, fc.constantFrom(...PAGE_PLACES), (known, place) => {
      const plain = { ...known, person: { given: known.person.given.replace(/[^\p{L}]/gu, ""), family: "" } };
      const said = fillIn(
        starterWords(known.language, `page/${place}`) ?? "{",
        valuesOf(plain, null),
        known.language,
      ).text;
      expect(said).not.toMatch(/[{}]/);
      expect(said).not.toMatch(gapsOf(known.language));
    }),
    { numRuns: runs(2000) },
  );
});

test("whatever a name is, it stands as it is typed, and nothing of it is read as wording", () => {
  fc.assert(
    fc.property(name, (given) => {
      const { text } = fillIn("<{first name|}>, {link}", { "first name": given, link: "L" });
      expect(text.endsWith(", L")).toBe(true);
    }),
  );
});

test("each language has words for each place, with placeholders that exist and fall back", () => {
  for (const language of LANGUAGES)
    for (const place of STARTER_PLACES) {
      const words = starterWords(language, place);
      expect([language, place, words === null ? "missing" : wrongPiece(place, words)]).toEqual([language, place, null]);
      expect([place, withoutFallback(words ?? "")]).toEqual([place, []]);
      for (const { name: each } of placeholdersIn(words ?? "")) expect(PLACEHOLDERS).toContain(each);
    }
});

test("a first ask by text takes at most three parts in any language, and two in the alphabet of texts", () => {
  const known = {
    person: { given: "Rosalind", family: "" },
    business: "Bramble Lane Vets",
    branch: "Fenwick",
    service: "Check-up",
    about: "Biscuit",
    teamMember: "Sam",
  };
  for (const language of LANGUAGES) {
    const words = { text: starterWords(language, "first.appointment/text") ?? "", subject: "x", email: "x" };
    const { body, parts } = composeAsk(words, "text", { ...known, language }, "https://r.example/k7q2m9wx4tzr3n.0");
    expect([language, (parts ?? 9) <= (textParts(body).alphabet === "UCS-2" ? 4 : 2)]).toEqual([language, true]);
    expect([language, (textParts(withoutMarks(body)).parts ?? 9) <= 2]).toEqual([language, true]);
  }
});

test("a language comes from the record, else the last page, else the client", () => {
  expect(firstLanguage("es", "fr", "en")).toBe("es");
  expect(firstLanguage("ja", "fr-CA", "en")).toBe("fr");
  expect(firstLanguage(null, null, "pl-PL")).toBe("pl");
  expect(firstLanguage(null, "", "xx")).toBe("en");
});

test("what a browser asks for is read by its weights", () => {
  expect(acceptedLanguage("ja,de;q=0.4,pl;q=0.9")).toBe("pl");
  expect(acceptedLanguage("en-GB,en;q=0.9")).toBe("en");
  expect(acceptedLanguage("es;q=0")).toBeNull();
  expect(acceptedLanguage(null)).toBeNull();
  fc.assert(fc.property(fc.string({ maxLength: 300 }), (header) => acceptedLanguage(header) !== undefined));
});

test("the pseudo-language accents what is literal and keeps what is filled in", () => {
  expect(pseudoWords("Hi {first name|there}")).toMatch(/^Ĥí \{first name\|ţĥéŕé\}/);
  expect(pseudoWords("{count, plural, one {# review} other {# reviews}}")).toBe(
    "{count, plural, one {# ŕéṽíéẋ} other {# ŕéṽíéẋš}}".replaceAll("ẋ", "ŵ"),
  );
});

test("letters lose their marks and nothing else", () => {
  expect(withoutMarks("Zażółć gęślą jaźń, Łódź")).toBe("Zazolc gesla jazn, Lodz");
});

test("letters that texts have keep their marks: without them other words would be said", () => {
  expect(withoutMarks("años, Würden, café, à la, días, ação")).toBe("años, Würden, café, à la, dias, acao");
});

test("each of several belongs by itself", () => {
  expect(belongingTo("Biscuit et Iris", "fr")).toBe("de Biscuit et d’Iris");
  expect(belongingTo("Œuvre, Élan et Max", "fr")).toBe("d’Œuvre, d’Élan et de Max");
});

test("texts in Polish go out without marks unless the business keeps them, whatever names bring; emails keep them", () => {
  const step = {
    text: "Łucja: {first name|}, {link}",
    subject: "Zażółć",
    email: "Zażółć gęślą jaźń, {first name|}. {link}",
  };
  const facts = {
    person: { given: "Świętosława", family: "" },
    business: "Igła",
    branch: "Igła",
    service: "wizyta",
    about: null,
    teamMember: null,
    language: "pl" as const,
  };
  expect(composeAsk(step, "text", facts, "https://e.test/a").body).toBe("Lucja: Swietoslawa, https://e.test/a");
  expect(composeAsk(step, "text", { ...facts, keepsMarks: true }, "https://e.test/a").body).toContain("Świętosława");
  expect(composeAsk(step, "email", facts, "https://e.test/a").body).toContain("gęślą jaźń, Świętosława");
  expect(composeAsk(step, "text", { ...facts, language: "de" }, "https://e.test/a").body).toContain("Świętosława");
});
