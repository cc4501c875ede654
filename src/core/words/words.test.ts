import fc from "fast-check";
import { openDoors } from "../answers/doors";
import { normaliseRating, sayAverage, sayRating } from "../reviews/rating";
import { valuesOf } from "./compose";
import { fillIn, PLACEHOLDERS, withoutFallback } from "./placeholders";
import { plainForText, textParts } from "./textParts";

describe("placeholders", () => {
  test("are filled in, or give their fallback", () => {
    const template = "Hi {first name|there}, how was {about|your} { Service } at {branch}?";
    expect(
      fillIn(template, { "first name": "Odette", about: "Biscuit's", service: "check-up", branch: "Fenwick" }).text,
    ).toBe("Hi Odette, how was Biscuit's check-up at Fenwick?");
    expect(fillIn(template, { "first name": " ", branch: "Fenwick" })).toEqual({
      text: "Hi there, how was your at Fenwick?",
      missing: ["service"],
    });
  });

  test("braces around anything else stay, and a value is never read as wording again", () => {
    expect(fillIn("{nonsense} {first name}", { "first name": "{link}" }).text).toBe("{nonsense} {link}");
    fc.assert(
      fc.property(fc.string(), (name) => {
        const { text } = fillIn("<{first name|x}>", { "first name": name });
        expect(text.startsWith("<") && text.endsWith(">")).toBe(true);
      }),
    );
  });

  test("any text can be a template without harm", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 200 }), (template) => {
        expect(typeof fillIn(template, Object.fromEntries(PLACEHOLDERS.map((name) => [name, "x"]))).text).toBe(
          "string",
        );
      }),
    );
  });

  const NOBODY = { "first name": null, about: null, branch: "Fenwick", business: "B" };
  test.each([
    ["Olá, {first name|}, como foi?", "en", "Olá, como foi?"],
    ["Gracias ({about|}).", "en", "Gracias."],
    ["{first name|}, dziękujemy. {first name|}, do zobaczenia", "pl", "Dziękujemy. Do zobaczenia"],
    ["Thank you, {first name|}", "en", "Thank you"],
    ["Comment ça va {first name|} ?", "fr", "Comment ça va\u00A0?"],
    ["Un clic suffit : chez {business} ?", "fr", "Un clic suffit\u00A0: chez B\u00A0?"],
    ["How was it , {first name|} ?", "en", "How was it?"],
  ] as const)("where nothing comes, “%s” closes up", (template, language, said) => {
    expect(fillIn(template, NOBODY, language).text).toBe(said);
  });

  test.each([
    ["MOT test", "en", "MOT test"],
    ["Check-up", "en", "check-up"],
    ["Zahnreinigung", "de", "Zahnreinigung"],
    ["Été au vert", "fr", "été au vert"],
  ] as const)("the service %s within a sentence in %s is %s", (service, language, said) => {
    const facts = { person: { given: "Odette", family: "" }, business: "B", branch: "B", service, about: null };
    expect(valuesOf({ ...facts, teamMember: null, language }, null).service).toBe(said);
  });

  test("those without fallback are named, except what is always known", () => {
    expect(withoutFallback("{first name} {link} {business} {about|it}")).toEqual(["first name"]);
  });
});

describe("parts of a text", () => {
  test.each([
    ["", 0, 0, "GSM 03.38"],
    ["a".repeat(160), 160, 1, "GSM 03.38"],
    ["a".repeat(161), 161, 2, "GSM 03.38"],
    ["a".repeat(306), 306, 2, "GSM 03.38"],
    ["a".repeat(307), 307, 3, "GSM 03.38"],
    ["€".repeat(80), 160, 1, "GSM 03.38"],
    ["€".repeat(81), 162, 2, "GSM 03.38"],
    ["ł".repeat(70), 70, 1, "UCS-2"],
    ["ł".repeat(71), 71, 2, "UCS-2"],
    ["🐕".repeat(35), 70, 1, "UCS-2"],
    ["🐕".repeat(36), 72, 2, "UCS-2"],
  ])("%#", (text, units, parts, alphabet) => {
    expect(textParts(text)).toMatchObject({ units, parts, alphabet });
  });

  test("an escape or a surrogate pair is never split: the parts hold everything", () => {
    fc.assert(
      fc.property(fc.array(fc.constantFrom("a", "€", "[", "é", "🐕", "ł"), { maxLength: 700 }), (characters) => {
        const { units, parts, perPart } = textParts(characters.join(""));
        expect(parts * perPart).toBeGreaterThanOrEqual(units);
        // At most one unit of each part stays empty.
        if (parts > 1) expect(units).toBeGreaterThan((parts - 1) * (perPart - 1));
      }),
    );
  });

  test("typographic marks are put plainly, which keeps the small alphabet", () => {
    expect(plainForText("“It’s – fine…”")).toBe('"It\'s - fine..."');
    expect(textParts(plainForText("Biscuit’s check-up – good?")).alphabet).toBe("GSM 03.38");
  });
});

describe("doors", () => {
  const sites = ["a", "b", "c", "d"];
  test.each([
    ["open", 1, "both", 3],
    ["open", 5, "both", 3],
    ["listen first", 3, "form", 3],
    ["listen first", 4, "sites", 3],
    ["private only", 2, "form", 0],
    ["private only", 5, "sites", 3],
  ] as const)("%s, rated %i", (mode, rating, first, count) => {
    expect(openDoors(mode, 3, rating, sites)).toMatchObject({ first, showsForm: true });
    expect(openDoors(mode, 3, rating, sites).sites).toHaveLength(count);
  });

  test("nobody is ever left without a way to say something", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("open" as const, "listen first" as const, "private only" as const),
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 5 }),
        (mode, threshold, rating) => {
          const doors = openDoors(mode, threshold, rating, sites);
          expect(doors.showsForm || doors.sites.length > 0).toBe(true);
          if (mode !== "private only") expect(doors.sites.length).toBeGreaterThan(0);
        },
      ),
    );
  });
});

test("scales are kept in words and compared on one", () => {
  expect([
    normaliseRating(7, "ten"),
    normaliseRating(1, "ten"),
    normaliseRating(10, "ten"),
    normaliseRating(0, "recommend"),
    normaliseRating(1, "recommend"),
    normaliseRating(4, "five"),
  ]).toEqual([4, 1, 5, 2, 4, 4]);
  // In tenths, halved upward.
  expect([6, 6.1, 8.05].map((value) => normaliseRating(value, "ten"))).toEqual([3, 4, 5]);
  expect([sayRating(7, "ten"), sayRating(7.46, "ten"), sayRating(0, "recommend"), sayRating(2)]).toEqual([
    "7 of 10",
    "7.5 of 10",
    "not recommended",
    "2 of 5",
  ]);
  expect([sayAverage(9, 2, "five"), sayAverage(16.6, 2, "ten"), sayAverage(2, 3, "recommend")]).toEqual([
    "4.5 of 5",
    "8.3 of 10",
    "67% recommend",
  ]);
});

test("a business with one branch isn’t named twice", () => {
  const values = { business: "Needle & Quay", branch: "Needle & Quay" };
  expect(fillIn("Thank you for coming to {business}, {branch|}.", values).text).toBe(
    "Thank you for coming to Needle & Quay.",
  );
  expect(fillIn("You visited us a few days ago ({branch|}).", values).text).toBe("You visited us a few days ago.");
  expect(fillIn("See you at {branch}.", values)).toEqual({ text: "See you at Needle & Quay.", missing: [] });
  expect(fillIn("Thanks, {business}, {branch|}.", { ...values, branch: "Fenwick" }).text).toBe(
    "Thanks, Needle & Quay, Fenwick.",
  );
});
