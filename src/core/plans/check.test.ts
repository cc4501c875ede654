import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { weekOf } from "../time/sendHours";
import { composeAsk } from "../words/compose";
import { type CheckFacts, checkPlan } from "./check";
import { differences } from "./differences";
import { PLAIN_RULES, type PlanRules, type PlanStep } from "./planRules";
import { starterRules } from "./starters";

const week = weekOf([0, 1, 2, 3, 4], 540, 1140);
const [modelStep] = starterRules().steps;

describe("what is wrong with a plan", () => {
  const facts: CheckFacts = {
    link: "http://127.0.0.1:3000/a/k7q2m9wx4tzr3n.0",
    rules: starterRules(),
    business: "Bramble Lane Vets",
    postalAddress: "4 Bramble Lane",
    sendHours: { text: week, email: weekOf([0, 1, 2, 3, 4, 5], 540, 1140) },
    branches: [
      { id: "b", name: "Fenwick" },
      { id: "c", name: "Old Mill" },
    ],
    services: [{ id: "s", name: "End-of-life care", neverAsk: true, retired: false }],
    listings: [{ branchId: "b", site: "Waypost", url: "https://waypost.example/x", problem: "the site answers 404" }],
    tags: [{ name: "landlord", neverAsks: true }],
  };
  const change = (rules: Partial<PlanRules>, more: Partial<CheckFacts> = {}) =>
    checkPlan({ ...facts, ...more, rules: { ...facts.rules, ...rules } });
  const step = (part: Partial<PlanStep>) => ({ steps: [{ ...modelStep, ...part }] });

  test.each([
    ["a review link that leads nowhere", change({}), "error", "branches", "is broken"],
    ["a branch without a page", change({}), "warning", "branches", "Old Mill"],
    [
      "a placeholder without fallback",
      change(step({ text: "Hi {first name}, {link} STOP" })),
      "warning",
      "words",
      "{first name}",
    ],
    ["a text without a way out", change(step({ text: "Hi {link}" })), "warning", "words", "opt out"],
    [
      "a text that is too long",
      change(step({ text: `{link} STOP ${"long ".repeat(100)}` })),
      "warning",
      "words",
      "parts",
    ],
    ["no postal address", change({}, { postalAddress: " " }), "error", "address", "postal address"],
    ["days without hours", change({}), "warning", "hours", "Saturday or Sunday"],
    [
      "no hours at all",
      change({}, { sendHours: { text: weekOf([], 0, 0), email: week } }),
      "error",
      "hours",
      "any day",
    ],
    ["tags that contradict each other", change({ onlyTags: ["landlord"] }), "error", "who", "leaves them out"],
    [
      "services that are never asked about",
      change({ begins: { kind: "visit", services: ["s"], branches: [], kinds: [] } }),
      "error",
      "begins",
      "never ask about",
    ],
    [
      "a first message that depends on one before it",
      change(step({ onlyIf: "not opened" })),
      "error",
      "step",
      "an earlier one",
    ],
    ["more than three sites", change({ sites: { ...facts.rules.sites, most: 4 } }), "warning", "sites", "three"],
    [
      "private only",
      change({ doors: { mode: "private only", threshold: 3, acknowledgedBy: "Iris Vane" } }),
      "warning",
      "doors",
      "Iris Vane",
    ],
  ])("%s is found, and names its place", (_name, findings, level, place, says) => {
    expect(findings).toContainEqual(expect.objectContaining({ level, place, says: expect.stringContaining(says) }));
    // What stops a plan comes before what one should look at.
    expect(findings.map((finding) => finding.level)).toEqual([...findings.map((finding) => finding.level)].sort());
  });

  test("two versions differ in nothing when they are the same, and in each thing that was changed", () => {
    const rules = starterRules();
    expect(differences(rules, structuredClone(rules))).toEqual([]);
    const after: PlanRules = {
      ...rules,
      freshDays: 9,
      repeat: { kind: "once" },
      steps: [{ ...rules.steps[0], delay: { amount: 3, unit: "hours" } }],
    };
    expect(differences(rules, after).map(({ place, before, after: then }) => [place, before, then])).toEqual([
      ["“First ask” goes out", "2 hours", "3 hours"],
      ["message “Second ask”", "2 days at 10:00, by email", "removed"],
      ["how often", "at most once every 180 days", "once only"],
      ["too late after", "7 days", "9 days"],
    ]);
  });
});

test("the check before a plan runs counts the parts of a text as sending does", () => {
  const text = fc.array(
    fc.constantFrom(
      "{first name|there}",
      "{about|your}",
      "{service|visit}",
      "{business}",
      "{link}",
      "{good link}",
      "’",
      "–",
      "…",
      "é",
      "ő",
      "word ",
      "a longer sentence with some words in it. ",
    ),
    { minLength: 1, maxLength: 30 },
  );
  const facts = {
    person: { given: "Rosalind", family: "Fairweather" },
    about: "Bramley",
    service: "Surgery follow-up",
    teamMember: "Nurse Arkwright",
    branch: "Merrow Bay",
    business: "Bramble Lane Vets",
  };
  fc.assert(
    fc.property(
      text,
      fc.constantFrom(
        "http://127.0.0.1:3000/a/k7q2m9wx4tzr3n.0",
        "https://reviews.a-long-name-of-a-business.example/a/k7q2m9wx4tzr3n.0",
      ),
      (parts, link) => {
        const [step] = starterRules().steps;
        const wording = { ...step, text: parts.join("") };
        const sent = composeAsk(wording, "text", facts, link).parts ?? 0;
        const found = checkPlan({
          link,
          rules: { ...PLAIN_RULES, steps: [wording] },
          business: facts.business,
          postalAddress: "1 Lane",
          sendHours: {
            text: weekOf([0, 1, 2, 3, 4, 5, 6], 540, 1140),
            email: weekOf([0, 1, 2, 3, 4, 5, 6], 540, 1140),
          },
          branches: [],
          services: [],
          listings: [],
          tags: [],
        });
        const told = found
          .map(({ says }) => /takes about (\d+) parts/.exec(says)?.[1])
          .find((count) => count !== undefined);
        expect(told).toBe(sent > 3 ? String(sent) : undefined);
      },
    ),
    { numRuns: runs(300) },
  );
});
