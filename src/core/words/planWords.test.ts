import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { following } from "../masters/follow";
import { type PlanRules, planRulesSchema } from "../plans/planRules";
import { STARTERS, starterRules } from "../plans/starters";
import { LANGUAGES, type Language } from "./languages";
import { FIELDS, PAGE_PLACES, pieceKey, readKey } from "./pieces";
import { masterPlace, messageWords, offeredWords, pageWords, standing, takeWords, wordsOf } from "./planWords";
import { segmentsOf, templateOf } from "./segments";
import { starterWords } from "./starters";
import { piecesOf, walkChoice, walkOf } from "./walk";

/** The three levels of words, the walk over them, and the parts that an editor shows. */

const language = fc.constantFrom(...LANGUAGES);
const rules = fc.constantFrom(...STARTERS.map((starter) => starter.rules([])));
/** What an agency says otherwise: some starter places in some languages. */
const agency = fc
  .array(
    fc.tuple(
      language,
      fc.constantFrom(
        ...PAGE_PLACES.map((place) => `page/${place}`),
        "first.appointment/text",
        "second/email",
        "feeling/subject",
      ),
      fc.constantFrom("One {link}", "Two {link}", "Three {link}"),
    ),
    { maxLength: 8 },
  )
  .map((pieces) => Object.fromEntries(pieces.map(([tongue, place, words]) => [pieceKey(tongue, place), words])));

test("following: what is not changed here is offered whatever the master says by now, what is changed stays", () => {
  const value = fc.option(fc.constantFrom("a", "b", "c"), { nil: null });
  fc.assert(
    fc.property(value, fc.constantFrom("a", "b", "c"), fc.constantFrom("a", "b", "c"), (own, taken, master) => {
      const state = following(own, taken, master);
      if (own === null || own === taken)
        expect(state).toEqual({ state: "follows", offer: taken === master ? null : master });
      else expect(state).toEqual({ state: "changed", moved: taken !== master });
    }),
  );
});

test("once everything on offer is taken nothing is on offer, the rules stay sound, and words of one's own are untouched", () => {
  fc.assert(
    fc.property(rules, agency, agency, language, (plan, before, after, own) => {
      const started = takeWords(plan, before, own);
      const changed: PlanRules = {
        ...started,
        words: { ...wordsOf(started), own: { [pieceKey("es", "page/happy")]: "¡Gracias!" } },
      };
      const taken = takeWords(changed, after, own);
      expect(planRulesSchema.safeParse(taken).success).toBe(true);
      expect(offeredWords(taken, after, own).filter(({ key }) => key !== pieceKey("es", "page/happy"))).toEqual([]);
      expect(wordsOf(taken).own).toEqual(wordsOf(changed).own);
      // Taken twice is taken once.
      expect(takeWords(taken, after, own)).toEqual(taken);
      // And what the agency takes back is what it was at the start.
      const back = takeWords(taken, {}, own);
      expect(wordsOf(back).taken).toEqual({});
    }),
    { numRuns: runs(400) },
  );
});

test("a piece that was changed here is offered nothing, and one that was not is offered what is new", () => {
  const own: Language = "en";
  const plan = takeWords(starterRules(), {}, own);
  const changed = {
    ...plan,
    steps: plan.steps.map((step, at) => (at === 0 ? { ...step, text: "Ours {link}" } : step)),
  };
  const says = {
    [pieceKey("en", masterPlace(plan, `step.${plan.steps[0].key}/text`))]: "Theirs {link}",
    [pieceKey("en", "page/happy")]: "Lovely!",
  };
  expect(
    offeredWords(plan, says, own)
      .map(({ after }) => after)
      .sort(),
  ).toEqual(["Lovely!", "Theirs {link}"]);
  expect(offeredWords(changed, says, own).map(({ after }) => after)).toEqual(["Lovely!"]);
  expect(standing(changed, `step.${plan.steps[0].key}/text`, "en", says, own)).toEqual({
    state: "changed",
    moved: true,
  });
  expect(takeWords(changed, says, own).steps[0].text).toBe("Ours {link}");
  expect(takeWords(plan, says, own).steps[0].text).toBe("Theirs {link}");
  expect(takeWords(plan, says, own, [pieceKey("en", "page/happy")]).steps[0].text).toBe(plan.steps[0].text);
});

test("words are found for the service first, then the plan, then its agency, then the start; each language for itself", () => {
  const service = "01a21a20-2652-73e2-91e5-4a91caaf8653";
  const plan = takeWords(starterRules(), { [pieceKey("pl", "page/happy")]: "Agencja" }, "en");
  const find = (words: Record<string, string>, tongue: Language, serviceId: string | null) =>
    pageWords({ ...wordsOf(plan), own: words }, "happy", { language: tongue, serviceId });
  const forService = { [pieceKey("pl", "page/happy", service)]: "Usługa", [pieceKey("pl", "page/happy")]: "Plan" };
  expect(find(forService, "pl", service)).toEqual({ words: "Usługa", from: "service" });
  expect(find(forService, "pl", null)).toEqual({ words: "Plan", from: "plan" });
  expect(find({}, "pl", service)).toEqual({ words: "Agencja", from: "agency" });
  expect(find({}, "de", service)).toEqual({ words: starterWords("de", "page/happy"), from: "starter" });
  const [step] = plan.steps;
  for (const tongue of LANGUAGES) {
    const words = messageWords(plan, step, step, { language: tongue, own: "en", serviceId: null });
    for (const field of FIELDS) expect(words[field].words).toContain(field === "subject" ? "" : "{");
  }
});

test("a key names one piece and is read back as it; nothing else is one", () => {
  fc.assert(
    fc.property(
      language,
      fc.constantFrom("page/happy", "step.first/text", "first.job/subject"),
      fc.option(fc.uuid(), { nil: null }),
      (tongue, place, serviceId) => {
        expect(readKey(pieceKey(tongue, place, serviceId))).toEqual({ language: tongue, place, serviceId });
      },
    ),
  );
  for (const key of ["", "xx:page/happy", "en:", "en:page", "en:../x", "en:page/happy@1", "en:page/happy\n"])
    expect(readKey(key)).toBeNull();
});

test("every stop of every starter's walk has texts, each message is met once, and each text has words in each language", () => {
  for (const starter of STARTERS) {
    const plan = starter.rules([]);
    const stops = walkOf(plan);
    expect(new Set(stops.map(({ key }) => key)).size).toBe(stops.length);
    const steps = stops.flatMap((stop) => (stop.kind === "message" ? [stop.step] : []));
    expect(steps.sort()).toEqual(plan.steps.map((_, index) => index));
    for (const stop of stops) {
      const pieces = piecesOf(plan, stop);
      // Somebody writes the personal answer each time.
      if (stop.kind === "letter") continue;
      expect(pieces.length).toBeGreaterThan(0);
      for (const { place } of pieces)
        for (const tongue of LANGUAGES) expect(starterWords(tongue, masterPlace(plan, place))).toBeTruthy();
    }
  }
});

test("whatever an address says, the walk shows something", () => {
  fc.assert(fc.property(fc.anything(), (typed) => expect(walkChoice.safeParse(typed).success).toBe(true)));
  expect(walkChoice.parse({ stop: "x".repeat(99), language: "xx", service: 1, by: "fax", who: null })).toEqual({
    stop: "message-0",
    language: null,
    service: null,
    by: null,
    who: "made up",
  });
});

test("a wording taken apart and put together is the same wording", () => {
  const part = fc.oneof(
    fc.string({ maxLength: 20 }),
    fc.constantFrom(
      "{first name|there}",
      "{link}",
      "{about|}",
      "{no such|x}",
      "{",
      "}",
      "{first name",
      "|",
      "{ First  Name |a}",
    ),
  );
  fc.assert(
    fc.property(fc.array(part), (parts) => {
      const template = parts.join("");
      const again = templateOf(segmentsOf(template));
      // Only the spelling of a placeholder's name is put right.
      const plain = (words: string) => words.toLowerCase().replace(/\s+/g, "");
      expect(plain(again)).toBe(plain(template));
      expect(templateOf(segmentsOf(again))).toBe(again);
    }),
    { numRuns: runs(2000) },
  );
});
