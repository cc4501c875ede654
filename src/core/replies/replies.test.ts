import fc from "fast-check";
import { evaluationTexts } from "../../../scripts/bench/themes/texts";
import { size } from "../../../tests/support/size";
import { isReadLanguage, readThemes } from "../themes/read";
import { LANGUAGES } from "../words/languages";
import { CLAIMS, claims, withClaim } from "./claims";
import { anotherDraft, type DraftInput, draftReply, greetedAs, refusedOf } from "./draft";
import { alike, type PrivateFacts, plainWords, refusalsOf, TOO_ALIKE } from "./guards";
import { MOODS, TONES } from "./sentences/bank";

const FACTS: PrivateFacts = {
  family: "Oakley",
  abouts: ["Biscuit", "the boiler"],
  services: ["Dental cleaning", "Vaccination"],
  teamMembers: ["Dr Reyne", "Maud Ferrier"],
  emails: ["ferris@post.example"],
  phones: ["+447700900123"],
  days: ["24 November", "Tuesday"],
};
const input = (change: Partial<DraftInput> = {}): DraftInput => ({
  review: {
    text: "The vet herself was kind, but we waited almost an hour and the bill was double the estimate.",
    author: "Ferris O.",
    language: "en",
    mood: "unhappy",
  },
  named: readThemes(
    "The vet herself was kind, but we waited almost an hour and the bill was double the estimate.",
    "en",
  ),
  tone: "plain",
  signature: "Maud, Bramble Lane Vets",
  most: 4000,
  facts: FACTS,
  recent: [],
  turn: 0,
  ...change,
});

describe("a draft", () => {
  test("answers each thing that was named, and says which words", () => {
    const draft = draftReply(input());
    const answered = draft?.sentences.flatMap(({ answers }) =>
      answers ? [`${answers.theme} ${answers.polarity}`] : [],
    );
    expect(answered).toEqual(["waiting unhappy", "price unhappy", "kindness happy"]);
    expect(draft?.text.startsWith("Hello Ferris, ")).toBe(true);
    expect(draft?.text.endsWith("\n\nMaud, Bramble Lane Vets")).toBe(true);
    for (const { answers } of draft?.sentences ?? [])
      if (answers) expect(input().review.text.slice(answers.from, answers.to).length).toBeGreaterThan(3);
  });

  test("the same review gives the same draft; another one is really another", () => {
    const first = draftReply(input());
    expect(draftReply(input())).toEqual(first);
    const next = anotherDraft(input(), first?.text ?? "");
    expect(next && alike(next.draft.text, first?.text ?? "")).toBeLessThan(TOO_ALIKE);
  });

  test("no draft breaks a guard, over thousands of reviews with whatever is known of their writers", () => {
    const reviews = [
      ...evaluationTexts("en", size(400, 2400), 7).map(({ text }) => ({ text, language: "en" as const })),
      ...evaluationTexts("es", size(250, 1600), 8).map(({ text }) => ({ text, language: "es" as const })),
    ].map((review) => ({ ...review, named: readThemes(review.text, review.language) }));
    const names = ["Ferris O.", "Jun Albrecht", "anonymous", "明 K.", "<b>x</b>", "", "\u202Eevil", "Łucja Ż.", "Maud"];
    const words = [
      "Biscuit",
      "time",
      "words",
      "Please",
      "sorry",
      "thank you",
      "team",
      "Vaccination",
      "a",
      "gracias",
      "todo",
    ];
    let [made, broken] = [0, 0];
    for (let index = 0; index < size(2_500, 20_000); index++) {
      const { text, language, named } = reviews[index % reviews.length];
      const pick = <T>(list: readonly T[], step: number): T => list[(index * 7 + step * 13) % list.length];
      const it = input({
        review: { text: pick(["", text, text, text], 1), author: pick(names, 2), language, mood: pick(MOODS, 3) },
        named,
        tone: pick(TONES, 4),
        most: pick([200, 500, 4000], 5),
        facts: {
          ...FACTS,
          family: pick(words, 6),
          abouts: [pick(words, 7)],
          services: [pick(words, 8)],
          teamMembers: [pick(words, 9)],
        },
        turn: index % 5,
      });
      const draft = draftReply(it);
      if (!draft) continue;
      made += 1;
      if (refusedOf(draft.text, it).length > 0 || draft.text.length > it.most) broken += 1;
    }
    expect(broken).toBe(0);
    // Where what is known is called like the thanks themselves, there is none.
    expect(made).toBeGreaterThan(size(1_800, 15_000));
  });

  test.each(LANGUAGES)("in %s each mood and tone has one, with words and without", (language) => {
    for (const mood of MOODS)
      for (const tone of TONES)
        for (const text of ["", "…"]) {
          const named = text && isReadLanguage(language) ? readThemes(text, language) : [];
          const it = input({ review: { text, author: "Ferris O.", language, mood }, named, tone, signature: "" });
          const draft = draftReply(it);
          expect(draft?.text.length).toBeGreaterThan(15);
          const next = anotherDraft(it, draft?.text ?? "");
          expect(next?.draft.text).toBeTruthy();
          expect(draft?.text).not.toMatch(/[{}]| {2}/);
        }
  });

  /** What the business has done or will do, in words of any of the six languages. */
  const PROMISES =
    /\b(?:we (?:will|are going to|have (?!a )|plan to)|we’(?:ll|ve)|vamos a|hemos|lo (?:diremos|contaremos)|\w+(?:aremos|eremos|iremos)\b|nous (?:allons|avons|en parlerons|\w+rons)\b|wir (?:haben|werden|geben|besprechen|arbeiten|nehmen|gehen)|(?:przekażemy|omówimy|popracujemy|powiemy|poświęcimy|sprawdzimy)|já (?:falámos|fizemos))/i;
  const MAY_BE = /queremos|nous (?:serions|aimerions|saurions)|wir (?:würden|wären)/i;

  test("claims nothing that the business has done or will do: that is ticked by somebody who knows", () => {
    for (const language of LANGUAGES)
      for (const mood of MOODS)
        for (const tone of TONES)
          for (let turn = 0; turn < 12; turn++) {
            const text = language === "es" ? "Tardaron mucho y era caro." : "We waited an hour and the bill was high.";
            const named = isReadLanguage(language) ? readThemes(text, language) : [];
            const draft = draftReply(
              input({ review: { text, author: `F${turn} O.`, language, mood }, named, tone, turn, signature: "" }),
            );
            const said = draft?.text.replace(MAY_BE, "") ?? "";
            expect(PROMISES.exec(said)?.[0] ?? said).toBe(said);
          }
    for (const language of LANGUAGES)
      for (const claim of CLAIMS) {
        const words = "Thank you.\n\nMaud, Bramble Lane Vets";
        const ticked = withClaim(words, claim, language, true);
        expect([claims(words, claim, language), claims(ticked, claim, language)]).toEqual([false, true]);
        expect(ticked.endsWith("\n\nMaud, Bramble Lane Vets")).toBe(true);
        expect(withClaim(ticked, claim, language, false)).toBe(words);
      }
  });

  test("stays within what the site takes, and is none where nothing fits", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 600 }), (most) => {
        const draft = draftReply(input({ most }));
        if (draft) expect(draft.text.length).toBeLessThanOrEqual(most);
        else expect(most).toBeLessThan(60);
      }),
    );
  });

  test("is unlike the last replies of the listing, as far as there are words", () => {
    const recent: string[] = [];
    for (let n = 0; n < 30; n++) {
      const text = "Lovely staff and a fair price.";
      const review = {
        text,
        author: `Ferris${"abcdefghijklmnopqrstuvwxyzabcd"[n]} O.`,
        language: "en" as const,
        mood: "happy" as const,
      };
      const it = input({ review, named: readThemes(text, "en"), recent, signature: "" });
      const draft = draftReply(it);
      if (!draft) break;
      expect(Math.max(0, ...recent.map((one) => alike(one, draft.text)))).toBeLessThan(TOO_ALIKE);
      recent.push(draft.text);
    }
    expect(recent.length).toBeGreaterThanOrEqual(8);
  });

  test.each([
    ["Ferris O.", "Ferris"],
    ["Łucja Żak", "Łucja"],
    ["anonymous", null],
    ["Guest 42", null],
    ["x_99", null],
    ["", null],
    ["<script>", null],
  ])("%p is greeted as %p", (author, as) => {
    expect(greetedAs(author)).toBe(as);
  });
});

const review = { text: "Not good.", author: "Ferris O." };
const refused = (reply: string, change: { text?: string; own?: string[]; recent?: string[] } = {}) =>
  refusalsOf(reply, {
    review: { ...review, ...(change.text ? { text: change.text } : {}) },
    facts: FACTS,
    ...change,
  }).map(({ guard, words }) => `${guard}: ${words}`);

describe("guards", () => {
  test.each([
    [
      "Thank you for your visit on Tuesday, Mr Oakley.",
      ["private fact: tuesday", "private fact: oakley", "private fact: your visit"],
    ],
    ["We hope Biscuit is better after the vaccination.", ["private fact: biscuit", "private fact: vaccination"]],
    ["B\u200Biscuit sends his love.", ["private fact: biscuit"]],
    ["BISCUIT!", ["private fact: biscuit"]],
    ["Reyne is sorry too.", ["private fact: reyne"]],
    ["We offer you a refund of £40.", ["money: refund"]],
    ["Here is a voucher.", ["money: voucher"]],
    ["You should have told us.", ["blame: you should have"]],
    ["Would you change your review?", ["asks to change it: change your review"]],
    ["Could you please raise the rating to five stars?", ["asks to change it: please raise the rating to five stars"]],
    ["We were negligent and accept full responsibility.", ["admission: we were negligent"]],
    ["We wrote to ferris@post.example.", ["contact data: ferris@post.example"]],
    ["Ring us on 07700 900999.", ["contact data: 07700 900999"]],
    ["Le haremos un descuento.", ["money: descuento"]],
    ["Thank you for telling us. Please get in touch.", []],
  ])("%p is refused for %p", (reply, why) => {
    expect(refused(reply)).toEqual(why);
  });

  test.each([
    ["Merci de votre visite.", "private fact"],
    ["Lors de votre passage, nous étions débordés.", "private fact"],
    ["Nous espérons que l’opération s’est bien remise.", "private fact"],
    ["C’est faux, et c’est votre faute.", "blame"],
    ["Pourriez-vous modifier votre avis ?", "asks to change it"],
    ["Nous reconnaissons notre faute.", "admission"],
    ["Danke für Ihren Besuch.", "private fact"],
    ["Nach Ihrer letzten Behandlung ging es besser.", "private fact"],
    ["Das stimmt nicht, Sie haben nicht gewartet.", "blame"],
    ["Könnten Sie Ihre Bewertung bitte ändern?", "asks to change it"],
    ["Ändern Sie bitte Ihre Bewertung.", "asks to change it"],
    ["Es war fahrlässig von uns.", "admission"],
    ["Obrigado pela sua visita.", "private fact"],
    ["Esperamos que a cirurgia tenha corrido bem.", "private fact"],
    ["Não é verdade: não avisou.", "blame"],
    ["Pode alterar a sua avaliação?", "asks to change it"],
    ["Foi negligência nossa.", "admission"],
    ["Dziękujemy za Pani wizytę.", "private fact"],
    ["Podczas ostatniej wizyty było inaczej.", "private fact"],
    ["To nieprawda, Pani przesadza.", "blame"],
    ["Prosimy o zmianę opinii.", "asks to change it"],
    ["Stało się to z naszej winy.", "admission"],
  ])("%p is refused for %p", (reply, guard) => {
    expect(refused(reply).map((why) => why.split(":")[0])).toContain(guard);
  });

  test.each([
    ["Je suis venue mardi, et j’ai attendu une heure.", "Merci de votre visite, et pardon pour l’attente."],
    ["Mein Termin war um neun, ich habe lange gewartet.", "Es tut uns leid, dass Ihr Termin so lange gedauert hat."],
    ["A consulta correu mal.", "Lamentamos que a sua consulta tenha corrido mal."],
    ["Wizyta trwała za krótko.", "Przykro nam, że Pani wizyta trwała za krótko."],
  ])("who wrote %p said themselves that they were there", (text, reply) => {
    expect(refused(reply, { text })).toEqual([]);
  });

  test("what the review says itself may be answered", () => {
    const text = "My appointment on Tuesday with Dr Reyne: Biscuit was sick after the vaccination.";
    expect(
      refused(
        "We are sorry that your appointment on Tuesday with Dr Reyne was so hard on Biscuit after the vaccination.",
        { text },
      ),
    ).toEqual([]);
  });

  test("the business may give its own number and address", () => {
    const own = ["+44 7700 900999", "hello@bramblelane.example"];
    expect(refused("Ring us on 07700 900999 or write to hello@bramblelane.example.", { own })).toEqual([]);
  });

  test("nearly the words of a reply before are refused, whatever the names", () => {
    const before = "Hello Ferris, thank you for telling us so plainly. We are sorry about the wait.";
    expect(
      refused("Hello Jun, thank you for telling us so plainly! We are sorry about the wait.", { recent: [before] }),
    ).toEqual([expect.stringContaining("repeats a reply")]);
    expect(refused("Good to read this, thank you.", { recent: [before] })).toEqual([]);
  });

  test("the measure is symmetric, 1 for the same and 0 for what shares nothing", () => {
    const text = fc
      .array(fc.constantFrom("thank", "you", "for", "the", "kind", "words", "sorry", "about", "wait"), {
        maxLength: 12,
      })
      .map((words) => words.join(" "));
    fc.assert(
      fc.property(text, text, (a, b) => {
        expect(alike(a, b)).toBe(alike(b, a));
        expect(alike(a, a)).toBe(1);
        expect(alike(a, b)).toBeGreaterThanOrEqual(0);
        expect(alike(a, b)).toBeLessThanOrEqual(1);
      }),
    );
    expect(alike("thank you for the kind words", "we are sorry about it")).toBe(0);
    expect(alike("thank you for the kind words", "Thank you for the kind words!")).toBe(1);
    expect(alike("thank you for the kind words", "thank you for your kind words")).toBeCloseTo(0.6);
  });

  test("whatever stands in a reply, guards answer", () => {
    fc.assert(
      fc.property(fc.string({ unit: "grapheme", maxLength: 400 }), (reply) => {
        for (const { words } of refusalsOf(reply, { review, facts: FACTS })) expect(typeof words).toBe("string");
        expect(plainWords(reply)).not.toMatch(/ {2}/);
      }),
    );
  });
});
