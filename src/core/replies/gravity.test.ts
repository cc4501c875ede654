import { LANGUAGES, type Language } from "../words/languages";
import { type DraftInput, draftReply } from "./draft";
import { type Gravity, gravityOf, isAllegation } from "./gravity";
import { NOTHING_KNOWN } from "./guards";
import { MOODS, TONES } from "./sentences/bank";

/** What people write after the worst has happened, thanking or accusing. */
const GRAVE: Record<Language, [Gravity, string][]> = {
  en: [
    ["loss", "They were so kind when I miscarried."],
    ["loss", "Our old dog was put to sleep here and they gave us all the time we needed."],
    ["loss", "So gentle with us when Biscuit passed away."],
    ["loss", "We lost our beloved cat last month, thank you for your care."],
    ["loss", "They tuned the piano for my mother's funeral at short notice."],
    ["loss", "When my husband died they sorted the chimney without a word about money."],
    ["loss", "Fitted my suit the day before I buried my dad."],
    ["loss", "Thank you for the compassion on her last day."],
    ["loss", "He didn't make it, but they did everything they could."],
    ["loss", "Our baby was stillborn and the team were wonderful."],
    ["loss", "She passed peacefully in our arms."],
    ["loss", "Had to let our boy go. Lovely people."],
    ["illness", "They found my tumour at a routine eye test. I owe them."],
    ["illness", "Patient with my mum who has dementia."],
    ["illness", "Came the same day because I was going through chemo."],
    ["illness", "Saved my son's life."],
    ["danger", "The boiler was leaking carbon monoxide and they came at night."],
    ["danger", "Changed all locks after we were burgled. Very kind."],
    ["danger", "Helped me leave an abusive husband by changing the locks."],
  ],
  es: [
    ["loss", "Fueron muy amables cuando murió nuestro perro."],
    ["loss", "Nos acompañaron en la pérdida de mi padre."],
    ["illness", "Muy pacientes conmigo durante la quimioterapia."],
  ],
  fr: [
    ["loss", "Très doux quand nous avons perdu notre chien."],
    ["loss", "Merci pour votre aide après le décès de mon mari."],
    ["illness", "Ils ont été patients pendant ma chimio."],
  ],
  de: [
    ["loss", "Sehr einfühlsam, als unser Hund gestorben ist."],
    ["loss", "Nach dem Tod meines Mannes waren sie für mich da."],
    ["illness", "Trotz meiner Krebserkrankung sehr geduldig."],
  ],
  pt: [
    ["loss", "Foram muito carinhosos quando o nosso cão morreu."],
    ["loss", "Obrigada pelo apoio depois do falecimento da minha mãe."],
    ["illness", "Muito pacientes durante a quimioterapia."],
  ],
  pl: [
    ["loss", "Bardzo delikatni, kiedy zmarł nasz pies."],
    ["loss", "Dziękuję za wsparcie po śmierci męża."],
    ["illness", "Cierpliwi podczas mojej chemioterapii."],
  ],
};

const ACCUSING: Record<Language, string[]> = {
  en: [
    "The technician touched me inappropriately.",
    "He touched my daughter's leg during the lesson.",
    "Money was stolen from my purse.",
    "They refused to serve us because we are black.",
    "My dog came back injured, with a broken tooth.",
    "I will be speaking to my solicitor.",
    "I have reported this to the police.",
    "He smelled of alcohol while driving with my 17 year old.",
    "The receptionist made a racist remark.",
    "He hit my dog.",
    "You killed my cat with the wrong medication.",
    "See you in court.",
    "My son was left alone with a man he did not know.",
  ],
  es: ["El técnico me tocó.", "Me robaron dinero.", "Comentarios racistas.", "Voy a llamar a mi abogado."],
  fr: ["Le moniteur m’a touchée.", "On m’a volé de l’argent.", "Propos racistes.", "Je vais porter plainte."],
  de: [
    "Der Fahrlehrer hat mich angefasst.",
    "Mir wurde Geld gestohlen.",
    "Rassistische Sprüche.",
    "Ich schalte meinen Anwalt ein.",
  ],
  pt: ["O instrutor apalpou-me.", "Roubaram o meu dinheiro.", "Comentários racistas.", "Vou falar com o meu advogado."],
  pl: ["Instruktor mnie dotykał.", "Ukradli mi pieniądze.", "Rasistowskie uwagi.", "Zgłoszę to na policję."],
};

const HARMLESS = [
  "I passed this morning with only two minors, brilliant instructor!",
  "Passed first time last week!",
  "My phone died on the way and they waited for me.",
  "Dead easy to book, dead friendly.",
  "They took down a dead tree and swept the ashes from the stove.",
  "I'm dying to come back.",
  "They shook my hand and went the extra mile, nailed it.",
  "Price was a steal.",
  "Sue at the desk is a star.",
  "It beats the competition and killed the weeds.",
  "The finish is to die for.",
  "Our new kitchen is brand new and the war on damp is won.",
  "Es war wunderbar, das Gericht war lecker und die Qualität stimmt.",
  "Das ist die beste Werkstatt, dies sagt jeder.",
  "Further work was needed but they explained it.",
  "He passed on my message to the right person.",
  "They made it easy. We made it in time.",
  "They lost my keys. My sister found them.",
];

const JOY =
  /delight|wonderful|lovely|made our day|smil|great|happy|glad|thrilled|heart|pleasure|encant|alegr|ravi|heureu|plaisir|freu|schön|feliz|cieszy|radoś|miło|!/i;

const input = (change: Partial<DraftInput> & { text: string; language: Language }): DraftInput => ({
  named: [],
  signature: "Bramble Lane Vets",
  most: 4000,
  facts: NOTHING_KNOWN,
  recent: [],
  tone: "warm",
  turn: 0,
  ...change,
  review: { text: change.text, author: "Ferris O.", language: change.language, mood: "happy", ...change.review },
});

describe("what is grave is seen", () => {
  test.each(LANGUAGES.flatMap((language) => GRAVE[language].map(([gravity, text]) => [text, gravity])))(
    "%s",
    (text, gravity) => expect(gravityOf(text, false)).toBe(gravity),
  );

  test.each(LANGUAGES.flatMap((language) => ACCUSING[language]))("“%s” is an allegation", (text) => {
    expect(isAllegation(text, 1)).toBe(true);
  });

  test("what befell somebody elsewhere is no allegation, and is not cheered about either", () => {
    expect(gravityOf("They fitted new locks within an hour after my bike was stolen.", false)).toBe("danger");
    expect(isAllegation("They fitted new locks within an hour after my bike was stolen.", 5)).toBe(false);
  });

  test("things that are dead are no loss of somebody", () => {
    for (const text of [
      "£65 for flowers that were dead by Thursday.",
      "The roses arrived half dead.",
      "My boiler died.",
    ])
      expect([text, gravityOf(text, true)]).toEqual([text, null]);
    expect(gravityOf("The flowers were lovely. My mother died in May.", false)).toBe("loss");
  });

  test.each(HARMLESS)("“%s” is not", (text) => expect(gravityOf(text, false)).toBeNull());
});

describe("drafts", () => {
  const drafts = LANGUAGES.flatMap((language) =>
    GRAVE[language].flatMap(([gravity, text]) =>
      TONES.flatMap((tone) =>
        MOODS.flatMap((mood) =>
          [0, 1, 2].map((turn) => ({
            text,
            draft: draftReply(
              input({ text, language, tone, turn, gravity, review: { text, author: "Ferris O.", language, mood } }),
            ),
          })),
        ),
      ),
    ),
  );

  test("are there, and rejoice over nothing", () => {
    expect(drafts.length).toBeGreaterThan(800);
    expect(drafts.filter(({ draft }) => draft).length).toBeGreaterThan(drafts.length * 0.9);
    for (const { text, draft } of drafts) {
      if (!draft) continue;
      const body = draft.text.replace("Bramble Lane Vets", "").replace(/kind|happier/g, "");
      expect([text, body, JOY.test(body)]).toEqual([text, body, false]);
      expect(body.split(/[.!?]+\s/).filter((sentence) => sentence.trim()).length).toBeLessThanOrEqual(3);
    }
  });

  test("to an allegation there is none", () => {
    for (const language of LANGUAGES)
      for (const text of ACCUSING[language])
        expect(draftReply(input({ text, language, gravity: "allegation" }))).toBeNull();
  });
});
