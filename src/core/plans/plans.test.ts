import fc from "fast-check";
import { addDelay } from "../time/delay";
import { nextPermitted, type SendCalendar, weekOf } from "../time/sendHours";
import { DAY, MINUTE } from "../time/zone";
import { type CheckFacts, checkPlan } from "./check";
import { delayTo, exampleOf } from "./example";
import { carryOver, legsOf, MOST_LEGS } from "./legs";
import { type PlanRules, type PlanStep, planRulesSchema, STEP_CHANNELS } from "./planRules";
import { STARTERS, starterRules } from "./starters";
import { planByHand, planFor, type TakingPlan } from "./takes";

const week = weekOf([0, 1, 2, 3, 4], 540, 1140);
const london: SendCalendar = { zone: "Europe/London", hours: { text: week, email: week }, closedDays: new Set() };
const tuesday = Date.UTC(2026, 10, 24, 11);
const [modelStep] = starterRules().steps;
const anySteps = fc
  .array(
    fc.record({
      key: fc.constantFrom("a", "b", "c", "d", "e", "f"),
      channel: fc.constantFrom(...STEP_CHANNELS),
      days: fc.integer({ min: 0, max: 9 }),
    }),
    {
      minLength: 1,
      maxLength: 6,
    },
  )
  .map((list) =>
    [...new Map(list.map((one) => [one.key, one])).values()].map(
      ({ key, channel, days }): PlanStep => ({ ...modelStep, key, channel, delay: { amount: days, unit: "days" } }),
    ),
  );
const rulesWith = (steps: PlanStep[]): PlanRules => ({ ...starterRules(), steps });

describe("plans to start from", () => {
  test.each(STARTERS.map((starter) => [starter.key, starter] as const))("%s works untouched", (_key, starter) => {
    const rules = starter.rules(["landlord"]);
    expect(planRulesSchema.parse(rules)).toEqual(rules);
    const facts: CheckFacts = {
      link: "http://127.0.0.1:3000/a/k7q2m9wx4tzr3n.0",
      rules,
      business: "Bramble Lane Vets",
      postalAddress: "4 Bramble Lane",
      sendHours: { text: weekOf([0, 1, 2, 3, 4, 5], 540, 1140), email: weekOf([0, 1, 2, 3, 4, 5], 540, 1140) },
      branches: [{ id: "b", name: "Fenwick" }],
      services: [],
      listings: [{ branchId: "b", site: "Waypost", url: "https://waypost.example/x", problem: null }],
      tags: [],
    };
    expect(checkPlan(facts)).toEqual([]);
  });
});

describe("legs", () => {
  test("a step by both channels is two, the email right behind the text, and never more than twelve", () => {
    fc.assert(
      fc.property(anySteps, (steps) => {
        const legs = legsOf({ steps });
        expect(legs.length).toBe(steps.length + steps.filter(({ channel }) => channel === "both").length);
        expect(legs.length).toBeLessThanOrEqual(MOST_LEGS);
        legs.forEach((leg, index) => {
          if (leg.isCopy)
            expect([legs[index - 1].hasCopy, legs[index - 1].step, leg.channel]).toEqual([true, leg.step, "email"]);
        });
      }),
    );
  });

  test("whoever had a message never gets it again in another version, and an ask of which nothing left begins anew", () => {
    fc.assert(
      fc.property(anySteps, anySteps, fc.nat({ max: 12 }), (before, after, had) => {
        const [a, b] = [rulesWith(before), rulesWith(after)];
        const done = Math.min(had, legsOf(a).length);
        const stands = carryOver(a, b, done);
        expect(stands).toBeGreaterThanOrEqual(0);
        expect(stands).toBeLessThanOrEqual(legsOf(b).length);
        if (done === 0) expect(stands).toBe(0);
        const sent = new Set(
          legsOf(a)
            .slice(0, done)
            .map(({ step, isCopy }) => `${before[step].key} ${isCopy}`),
        );
        for (const { step, isCopy } of legsOf(b).slice(stands))
          expect(sent.has(`${after[step].key} ${isCopy}`)).toBe(false);
        expect(carryOver(a, a, done)).toBe(done);
      }),
    );
  });
});

test("the first plan in order that begins with a visit takes it, and the others are named", () => {
  const plan = (name: string, begins: PlanRules["begins"], state: TakingPlan["state"] = "running"): TakingPlan => ({
    name,
    state,
    rules: { begins },
  });
  const every: PlanRules["begins"] = { kind: "visit", services: [], branches: [], kinds: [] };
  const all = [
    plan("Draft", every, "draft"),
    plan("Jobs", { kind: "visit", services: [], branches: [], kinds: ["job"] }),
    plan("Fenwick", { kind: "visit", services: [], branches: ["fenwick"], kinds: [] }, "paused"),
    plan("All", every),
    plan("Gone", every, "archived"),
    plan("Paid", { kind: "invoice", services: [], branches: [] }),
    plan("Lists", { kind: "list", services: [], branches: [] }),
    plan("Hand", { kind: "by hand" }),
  ];
  const visit = { serviceId: null, branchId: "mill", kind: "appointment" as const, fromList: false };
  const named = (change: Partial<typeof visit> | { kind: "job" | "invoice" }) => {
    const { plan: taken, alsoTakenBy } = planFor(all, { ...visit, ...change });
    return [taken?.name ?? null, ...alsoTakenBy];
  };
  expect(named({})).toEqual(["All"]);
  expect(named({ branchId: "fenwick" })).toEqual(["Fenwick", "All"]);
  expect(named({ kind: "job" })).toEqual(["Jobs", "All"]);
  expect(named({ kind: "invoice" })).toEqual(["All", "Paid"]);
  expect(named({ fromList: true })).toEqual(["All", "Lists"]);
  expect(planByHand(all, visit)?.name).toBe("Hand");
  expect(planByHand(all.slice(0, 5), visit)?.name).toBe("All");
  expect(planByHand([all[0]], visit)).toBeNull();
});

describe("a plan on the ruler", () => {
  test("dragging puts a message where it was dropped, within the rounding", () => {
    fc.assert(
      fc.property(
        fc.constantFrom("Europe/London", "America/St_Johns", "Australia/Lord_Howe"),
        fc.integer({ min: 0, max: 20 * DAY }),
        (zone, span) => {
          const delay = delayTo(tuesday, tuesday + span, zone);
          const tolerance = delay.unit === "days" ? 30 * MINUTE : delay.unit === "minutes" ? 8 * MINUTE : 31 * MINUTE;
          expect(Math.abs(addDelay(tuesday, delay, zone) - (tuesday + span))).toBeLessThanOrEqual(tolerance);
        },
      ),
    );
  });

  test("shows each message once where it would leave, and the second part after a happy answer", () => {
    const feeling = STARTERS.find(({ key }) => key === "feeling")?.rules([]) as PlanRules;
    const marks = exampleOf(feeling, tuesday, london, 240);
    expect(marks.map(({ step }) => step)).toEqual([0, 1, 2, 3]);
    for (const mark of marks)
      for (const channel of mark.channels) expect(nextPermitted(mark.at, channel, london)?.at).toBe(mark.at);
    const both = exampleOf(rulesWith([{ ...modelStep, channel: "both" }]), tuesday, london, 240);
    expect(both).toMatchObject([{ step: 0, channels: ["text", "email"] }]);
  });
});
