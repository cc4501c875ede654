import fc from "fast-check";
import { mailboxSites, orderSites, type SiteRules, shareTurn } from "../answers/siteMix";
import { stableHash } from "../stableHash";
import { openSlot, take, underCeiling } from "../time/ceiling";
import { addDelay } from "../time/delay";
import { nextPermitted, type SendCalendar, weekOf } from "../time/sendHours";
import { spreadSlot } from "../time/spread";
import { DAY, dayNumber, HOUR, MINUTE, toLocal } from "../time/zone";
import { composeAsk } from "../words/compose";
import { type CheckFacts, checkPlan } from "./check";
import { differences } from "./differences";
import { delayTo, exampleOf } from "./example";
import { carryOver, legsOf, MOST_LEGS } from "./legs";
import { PLAIN_RULES, type PlanRules, type PlanStep, planRulesSchema, STEP_CHANNELS } from "./planRules";
import { STARTERS, starterRules } from "./starters";
import { planByHand, planFor, type TakingPlan } from "./takes";
import { chancesOfBest, confidence, judgeTrial, type Tally, wordingFor } from "./trial";

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

describe("which site comes first", () => {
  const rules = (change: Partial<SiteRules>): SiteRules => ({
    order: [],
    most: 3,
    mix: "order",
    shares: {},
    ...change,
  });
  const facts = {
    sites: ["Waypost", "Commons", "Tenfold", "Pawprint Guide"],
    turns: {},
    mailboxSites: [] as string[],
    reviewed: [] as string[],
  };

  test("realised shares lie within two points of the wanted ones after two hundred asks, whatever the shares", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 100 }), { minLength: 2, maxLength: 6 }), (wanted) => {
        const sites = wanted.map((_, index) => `site ${index}`);
        const shares = Object.fromEntries(sites.map((site, index) => [site, wanted[index]]));
        const total = wanted.reduce((sum, share) => sum + share, 0);
        const turns: Record<string, number> = {};
        for (let n = 0; n < 200; n++) {
          const site = shareTurn(sites, shares, turns) as string;
          turns[site] = (turns[site] ?? 0) + 1;
        }
        sites.forEach((site, index) => {
          expect(Math.abs((turns[site] ?? 0) / 200 - wanted[index] / total)).toBeLessThanOrEqual(0.02);
        });
      }),
    );
  });

  test("where a branch has no page on a site, the others share what it would have had", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 20 }), { minLength: 3, maxLength: 5 }), (weights) => {
        const names = weights.map((_, index) => `site${index}`);
        const rules: SiteRules = {
          order: names,
          most: 6,
          mix: "shares",
          shares: Object.fromEntries(names.map((name, index) => [name, weights[index]])),
        };
        const here = names.slice(1);
        const turns: Record<string, number> = { site0: 7 };
        for (let n = 0; n < 400; n++) {
          const [first] = orderSites(rules, { sites: here, turns, mailboxSites: [], reviewed: [] }).sites;
          turns[first] = (turns[first] ?? 0) + 1;
        }
        const total = weights.slice(1).reduce((sum, weight) => sum + weight, 0);
        for (const [index, name] of here.entries())
          expect(Math.abs((turns[name] ?? 0) / 400 - weights[index + 1] / total)).toBeLessThan(0.02);
      }),
    );
  });

  test("a site already reviewed is passed over, at most as many are offered as the plan says, none twice", () => {
    fc.assert(
      fc.property(
        fc.subarray(facts.sites),
        fc.integer({ min: 1, max: 6 }),
        fc.constantFrom("order" as const, "shares" as const, "mailbox" as const),
        (reviewed, most, mix) => {
          const { sites } = orderSites(rules({ most, mix, shares: { Commons: 2, Tenfold: 1 } }), {
            ...facts,
            reviewed,
            mailboxSites: ["Tenfold"],
          });
          expect(sites.length).toBe(Math.min(most, facts.sites.length - reviewed.length));
          expect(new Set(sites).size).toBe(sites.length);
          expect(sites.filter((site) => reviewed.includes(site))).toEqual([]);
        },
      ),
    );
  });

  test("the mailbox decides by its own domain or by who hosts it", () => {
    const accounts = { Waypost: ["waypost-mail.example"], Commons: ["commons.example"] };
    expect(mailboxSites("a@commons.example", null, accounts)).toEqual(["Commons"]);
    expect(mailboxSites("a@harbour.example", "mx1.waypost-mail.example", accounts)).toEqual(["Waypost"]);
    expect(mailboxSites("a@notcommons.example", null, accounts)).toEqual([]);
    expect(mailboxSites(null, null, accounts)).toEqual([]);
    expect(orderSites(rules({ mix: "mailbox" }), { ...facts, mailboxSites: ["Commons"] })).toMatchObject({
      sites: ["Commons", "Waypost", "Tenfold"],
      why: { code: "mailbox account", site: "Commons" },
    });
  });
});

describe("pace", () => {
  test("however they come, no window of an hour holds more than the ceiling, and nobody waits longer than the queue", () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 0, max: 5 * HOUR }), { maxLength: 60 }),
        fc.integer({ min: 1, max: 12 }),
        (wanted, perHour) => {
          const taken: number[] = [];
          for (const at of wanted) {
            const slot = underCeiling(taken, perHour, at);
            expect(slot).toBeGreaterThanOrEqual(at);
            take(taken, slot);
          }
          expect([...taken].sort((a, b) => a - b)).toEqual(taken);
          for (let first = 0; first + perHour < taken.length; first++)
            expect(taken[first + perHour] - taken[first]).toBeGreaterThanOrEqual(HOUR);
        },
      ),
    );
  });

  test("a slot that the hours move keeps both the hours and the ceiling", () => {
    const taken: number[] = [];
    const evening = Date.UTC(2026, 10, 24, 18, 30);
    const permit = (at: number) => nextPermitted(at, "text", london)?.at ?? null;
    const slots = Array.from({ length: 7 }, () => {
      const slot = openSlot(taken, 2, evening, permit).at;
      take(taken, slot);
      return new Date(slot).toISOString().slice(8, 16);
    });
    expect(slots).toEqual(["24T18:30", "24T18:30", "25T09:00", "25T09:00", "25T10:00", "25T10:00", "25T11:00"]);
  });

  test("a spread list fills the open hours of a day evenly, and nothing of it leaves outside them", () => {
    const from = Date.UTC(2026, 10, 24, 10);
    const slots = Array.from(
      { length: 1000 },
      (_, index) => spreadSlot(from, stableHash("list", String(index)), "email", london) as number,
    );
    for (const slot of slots) expect(nextPermitted(slot, "email", london)?.at).toBe(slot);
    expect(new Set(slots.map((slot) => dayNumber(toLocal(london.zone, slot)))).size).toBe(1);
    const half = slots.filter((slot) => slot < Date.UTC(2026, 10, 24, 14, 30)).length;
    expect(half).toBeGreaterThan(430);
    expect(half).toBeLessThan(570);
    expect(Math.min(...slots)).toBeGreaterThanOrEqual(from);
  });
});

describe("wordings on trial", () => {
  const step: PlanStep = { ...modelStep, others: [{ key: "b", text: "B {link}", subject: "B", email: "B {link}" }] };

  test("each person always gets the same wording, and each wording about as many people", () => {
    const counts: Record<string, number> = {};
    for (let n = 0; n < 4000; n++) {
      const { key } = wordingFor(step, "plan", `person ${n}`);
      expect(wordingFor(step, "plan", `person ${n}`).key).toBe(key);
      counts[key] = (counts[key] ?? 0) + 1;
    }
    expect(Math.abs(counts.a - 2000)).toBeLessThan(130);
  });

  test("the chances of being best sum to one and follow the evidence", () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat({ max: 300 }), fc.nat({ max: 300 })), { minLength: 1, maxLength: 4 }),
        (list) => {
          const tallies = list.map(([a, b], index): Tally => ({ key: String(index), sent: a + b, answered: a }));
          const sum = chancesOfBest(tallies).reduce((total, chance) => total + chance, 0);
          expect(sum).toBeCloseTo(1, 6);
        },
      ),
    );
    // Beta(11, 91) against Beta(21, 81): the second is better with a chance of about 0.974.
    expect(
      chancesOfBest([
        { key: "a", sent: 100, answered: 10 },
        { key: "b", sent: 100, answered: 20 },
      ])[1],
    ).toBeCloseTo(0.974, 2);
  });

  test("two equal wordings, looked at again and again, are called different in at most one trial of twenty", () => {
    let wrong = 0;
    const trials = 200;
    for (let trial = 0; trial < trials; trial++) {
      const tallies = [
        { key: "a", sent: 0, answered: 0 },
        { key: "b", sent: 0, answered: 0 },
      ];
      for (let n = 0; n < 400; n++) {
        const tally = tallies[n % 2];
        tally.sent += 1;
        if (stableHash("trial", String(trial), String(n)) < 0.3) tally.answered += 1;
        if (n % 10 === 9 && judgeTrial(tallies).done) {
          wrong += 1;
          break;
        }
      }
    }
    expect(wrong / trials).toBeLessThanOrEqual(0.05);
  });

  test("a real difference is found in the end", () => {
    expect(
      judgeTrial([
        { key: "a", sent: 600, answered: 120 },
        { key: "b", sent: 600, answered: 240 },
      ]),
    ).toEqual({ done: true, best: "b" });
    const { low, high } = confidence(120, 600, 0.025);
    expect(low).toBeLessThan(0.2);
    expect(high).toBeGreaterThan(0.2);
  });
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
    ["a review link that leads nowhere", change({}), "error", "branches", "leads nowhere"],
    ["a branch without a page", change({}), "warning", "branches", "Old Mill"],
    [
      "a placeholder without fallback",
      change(step({ text: "Hi {first name}, {link} STOP" })),
      "warning",
      "words",
      "{first name}",
    ],
    ["a text without a way out", change(step({ text: "Hi {link}" })), "warning", "words", "how to stop"],
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
      "never asked about",
    ],
    [
      "a first message that depends on one before it",
      change(step({ onlyIf: "not opened" })),
      "error",
      "step",
      "before it",
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
      ["message “Second ask”", "2 days at 10:00, by email", "taken out"],
      ["how often", "at most every 180 days", "once only"],
      ["while it is fresh", "7 days", "9 days"],
    ]);
  });
});

test("the chance of being best agrees with drawing from the posteriors, for ten messages and for a hundred thousand", () => {
  // Marsaglia and Tsang's way to draw from a gamma distribution; two of them make a beta.
  let seed = 12345;
  const random = () => {
    seed = (Math.imul(seed, 1664525) + 1013904223) >>> 0;
    return (seed + 0.5) / 4294967296;
  };
  const normal = () => Math.sqrt(-2 * Math.log(random())) * Math.cos(2 * Math.PI * random());
  const gamma = (shape: number): number => {
    const [d, c] = [shape - 1 / 3, 1 / Math.sqrt(9 * (shape - 1 / 3))];
    for (;;) {
      const x = normal();
      const v = (1 + c * x) ** 3;
      if (v > 0 && Math.log(random()) < 0.5 * x * x + d - d * v + d * Math.log(v)) return d * v;
    }
  };
  const beta = (a: number, b: number) => {
    const x = gamma(a);
    return x / (x + gamma(b));
  };
  const cases: [number, number][][] = [
    [
      [10, 3],
      [12, 4],
    ],
    [
      [100_000, 30_100],
      [100_000, 30_000],
    ],
    [
      [100_000, 2_000],
      [100_000, 2_060],
    ],
    [
      [100_000, 50],
      [90_000, 55],
    ],
    [
      [200, 60],
      [100_000, 30_050],
    ],
    [
      [1_000, 0],
      [1_000, 1],
    ],
    [
      [5_000, 1_500],
      [5_000, 1_490],
      [5_000, 1_530],
      [20, 8],
    ],
    [
      [3, 3],
      [40, 38],
    ],
  ];
  for (const list of cases) {
    const draws = 40_000;
    const wins = list.map(() => 0);
    for (let n = 0; n < draws; n++) {
      let best = 0;
      let most = -1;
      list.forEach(([sent, answered], index) => {
        const share = beta(answered + 1, sent - answered + 1);
        if (share > most) [most, best] = [share, index];
      });
      wins[best] += 1;
    }
    const chances = chancesOfBest(list.map(([sent, answered], index) => ({ key: String(index), sent, answered })));
    for (const [index, chance] of chances.entries()) expect(Math.abs(chance - wins[index] / draws)).toBeLessThan(0.01);
  }
});

test("turns of sites without a share, and names that stand twice, distort nobody's share and offer nothing twice", () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 4 }),
      fc.array(fc.nat(500), { minLength: 2, maxLength: 4 }),
      fc.boolean(),
      (weights, odd, twice) => {
        const sites = weights.map((_, n) => `s${n}`);
        fc.pre(weights.some((weight) => weight > 0));
        const shares = Object.fromEntries(sites.map((site, n) => [site, weights[n]]));
        // Turns that sites got before they lost their share.
        const turns: Record<string, number> = Object.fromEntries(
          odd.map((count, n) => [n < sites.length && weights[n] === 0 ? `s${n}` : `gone${n}`, count]),
        );
        const rules = { order: twice ? [...sites, ...sites] : sites, most: 6, mix: "shares" as const, shares };
        const rounds = 600;
        for (let n = 0; n < rounds; n++) {
          const { sites: offered } = orderSites(rules, {
            sites: twice ? [...sites, ...sites] : sites,
            turns,
            mailboxSites: [],
            reviewed: [],
          });
          expect(new Set(offered).size).toBe(offered.length);
          turns[offered[0]] = (turns[offered[0]] ?? 0) + 1;
        }
        const total = weights.reduce((sum, weight) => sum + weight, 0);
        sites.forEach((site, n) => {
          if (weights[n] > 0) expect(Math.abs(turns[site] / rounds - weights[n] / total)).toBeLessThan(0.01);
        });
      },
    ),
    { numRuns: 100 },
  );
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
    { numRuns: 300 },
  );
});
