import fc from "fast-check";
import { reasonWords, scheduleSentence } from "@/locales/asking";
import { runs } from "../../../tests/support/size";
import { legsOf, MOST_LEGS } from "../plans/legs";
import { PLAIN_RULES, type PlanRules, type PlanStep, planRulesSchema } from "../plans/planRules";
import { type SendCalendar, weekOf } from "../time/sendHours";
import { DAY, dayNumber, HOUR, MINUTE, timeOfDay, toLocal, weekday } from "../time/zone";
import { checkEligibility, type EligibilityCase, examineByHand } from "./eligibility";
import { REASONS } from "./findings";
import { type AskSoFar, backoff, nextStep, projectAsk, STOPS } from "./nextStep";
import { type Addresses, chooseChannel, obstacle } from "./reach";
import { whyThen } from "./whyThen";

const sentenceOf = (...it: Parameters<typeof whyThen>) => scheduleSentence(whyThen(...it));

const words = { text: "Hi {first name|there}: {link} STOP", subject: "Hello", email: "Hello\n\n{link}" };
const stepOf = (key: string, change: Partial<PlanStep> & Pick<PlanStep, "channel" | "delay">): PlanStep => ({
  key,
  name: key,
  part: "first",
  from: "business",
  onlyIf: "always",
  others: [],
  ...words,
  ...change,
});
const plan: PlanRules = {
  ...PLAIN_RULES,
  steps: [
    stepOf("first", { channel: "text", delay: { amount: 2, unit: "hours" } }),
    stepOf("second", { channel: "email", delay: { amount: 2, unit: "days", at: 600 } }),
  ],
  excludeTags: ["landlord"],
};
const reachable: Addresses = {
  email: "a@post.example",
  emailBounced: false,
  emailOptedOut: false,
  phone: "+447700900123",
  phoneTakesTexts: true,
  textBounced: false,
  textOptedOut: false,
};
const weekdays = weekOf([0, 1, 2, 3, 4], 9 * 60, 19 * 60);
const london: SendCalendar = {
  zone: "Europe/London",
  hours: { text: weekdays, email: weekdays },
  closedDays: new Set(),
};
const fresh = (anchorAt: number): AskSoFar => ({
  anchorAt,
  done: 0,
  lastSentAt: null,
  byHand: false,
  chosenChannel: null,
  stop: null,
  retryAt: null,
  hold: null,
  lastToPersonAt: null,
  gapMinutes: 240,
});
const tuesday = Date.UTC(2026, 10, 24, 14, 5);

// Random plans, calendars, people and moments, around clock changes and holidays as well.
const zone = fc.constantFrom(
  "Europe/London",
  "America/New_York",
  "Australia/Lord_Howe",
  "America/St_Johns",
  "Asia/Kolkata",
  "America/Santiago",
);
const moment = fc.oneof(
  fc.integer({ min: Date.UTC(2026, 0, 1), max: Date.UTC(2027, 11, 31) }),
  fc.integer({ min: -40, max: 40 }).map((h) => Date.UTC(2026, 9, 25, 1) + h * HOUR),
  fc.integer({ min: -40, max: 40 }).map((h) => Date.UTC(2026, 2, 8, 7) + h * HOUR),
);
const ranges = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 1400 }), fc.integer({ min: 1, max: 1440 })), { maxLength: 2 })
  .map((list) =>
    list.map(([a, b]) => ({ open: Math.min(a, b), close: Math.max(a, b) })).filter(({ open, close }) => open < close),
  );
const week = fc.array(ranges, { minLength: 7, maxLength: 7 });
const delay = fc.record({
  amount: fc.integer({ min: 0, max: 20 }),
  unit: fc.constantFrom("minutes" as const, "hours" as const, "days" as const, "weeks" as const),
  at: fc.option(fc.integer({ min: 0, max: 1439 })),
});
const anyPlan = fc
  .record({
    steps: fc.array(
      fc.record({
        channel: fc.constantFrom("text" as const, "email" as const, "both" as const, "preferred" as const),
        delay,
        onlyIf: fc.constantFrom("always" as const, "not opened" as const),
      }),
      { minLength: 1, maxLength: 6 },
    ),
    freshDays: fc.integer({ min: 1, max: 60 }),
  })
  .map(
    ({ steps, freshDays }): PlanRules => ({
      ...PLAIN_RULES,
      freshDays,
      steps: steps.map((step, index) => stepOf(`step-${index}`, step)),
    }),
  );
const calendar = fc.tuple(zone, week, week, fc.array(fc.integer({ min: 20400, max: 21200 }), { maxLength: 40 })).map(
  ([name, text, email, closed]): SendCalendar => ({
    zone: name,
    hours: { text, email },
    closedDays: new Set(closed),
  }),
);
const addresses = fc.record({
  email: fc.option(fc.constant("a@post.example")),
  emailBounced: fc.boolean(),
  emailOptedOut: fc.boolean(),
  phone: fc.option(fc.constant("+447700900123")),
  phoneTakesTexts: fc.boolean(),
  textBounced: fc.boolean(),
  textOptedOut: fc.boolean(),
});

const isInside = (at: number, channel: "text" | "email", it: SendCalendar) => {
  const local = toLocal(it.zone, at);
  return (
    !it.closedDays.has(dayNumber(local)) &&
    it.hours[channel][weekday(dayNumber(local))].some(
      ({ open, close }) => timeOfDay(local) >= open * MINUTE && timeOfDay(local) < close * MINUTE,
    )
  );
};

describe("what an ask does next", () => {
  test("no message is ever planned outside the hours, nor outside the recipient's own for texts", () => {
    fc.assert(
      fc.property(
        anyPlan,
        calendar,
        addresses,
        moment,
        fc.option(zone),
        fc.integer({ min: 0, max: 2000 }),
        (rules, hours, reach, at, theirs, gapMinutes) => {
          let before = Number.NEGATIVE_INFINITY;
          for (const message of projectAsk(
            rules,
            { ...fresh(at), gapMinutes },
            reach,
            hours,
            theirs ? [theirs] : [],
            at,
          ).messages) {
            expect(isInside(message.at, message.channel, hours)).toBe(true);
            if (message.channel === "text" && theirs) {
              const there = timeOfDay(toLocal(theirs, message.at));
              expect(there >= 8 * HOUR && there < 21 * HOUR).toBe(true);
            }
            const isCopy = legsOf(rules)[message.leg].isCopy;
            expect(message.at).toBeGreaterThanOrEqual(Math.max(at, before + (isCopy ? 0 : gapMinutes * MINUTE)));
            expect(obstacle(reach, message.channel)).toBeNull();
            before = message.at;
          }
        },
      ),
      { numRuns: runs(800) },
    );
  });

  test("the same inputs give the same plan, and looking later never makes a message earlier", () => {
    fc.assert(
      fc.property(anyPlan, calendar, moment, fc.integer({ min: 0, max: 20 * DAY }), (rules, hours, at, later) => {
        const ask = fresh(at);
        const one = nextStep(rules, ask, reachable, hours, [], at);
        expect(nextStep(rules, ask, reachable, hours, [], at)).toEqual(one);
        const two = nextStep(rules, ask, reachable, hours, [], at + later);
        if (one.kind === "send" && two.kind === "send") {
          expect(two.at).toBeGreaterThanOrEqual(one.at);
          if (two.at > one.at) expect(isInside(two.at, two.channel, hours) && two.at >= at + later).toBe(true);
        }
      }),
    );
  });

  test("nothing ever follows a stop, whichever it is", () => {
    fc.assert(
      fc.property(
        anyPlan,
        calendar,
        addresses,
        moment,
        fc.constantFrom(...STOPS),
        fc.integer({ min: 0, max: 6 }),
        (rules, hours, reach, at, stop, done) => {
          const next = nextStep(
            rules,
            { ...fresh(at), stop, done, lastSentAt: done ? at : null },
            reach,
            hours,
            [],
            at,
          );
          expect(next).toEqual({ kind: "end", outcome: "stopped", stop });
        },
      ),
    );
  });

  test("at most as many messages leave as the plan says, and whoever opted out gets none", () => {
    fc.assert(
      fc.property(anyPlan, calendar, addresses, moment, (rules, hours, reach, at) => {
        const { messages, end } = projectAsk(rules, fresh(at), reach, hours, [], at);
        expect(messages.length).toBeLessThanOrEqual(Math.min(MOST_LEGS, legsOf(rules).length));
        if (reach.emailOptedOut || reach.textOptedOut) expect(messages).toEqual([]);
        expect(end.kind).toBe("end");
      }),
    );
  });

  test("two hours after the visit, then two days later at ten", () => {
    const { messages, end } = projectAsk(plan, fresh(tuesday), reachable, london, [], tuesday);
    expect(messages.map(({ at, channel }) => [new Date(at).toISOString(), channel])).toEqual([
      ["2026-11-24T16:05:00.000Z", "text"],
      ["2026-11-26T10:00:00.000Z", "email"],
    ]);
    expect(end).toEqual({ kind: "end", outcome: "all sent" });
  });

  test("without a mobile the email goes in its place, and the sentence says so", () => {
    const next = nextStep(plan, fresh(tuesday), { ...reachable, phone: null }, london, [], tuesday);
    expect(next).toMatchObject({ kind: "send", channel: "email", why: ["delay", "other channel"] });
    if (next.kind === "send")
      expect(
        sentenceOf(next.why, next.at, {
          delay: plan.steps[0].delay,
          after: "visit",
          begins: "visit",
          channel: next.channel,
          calendar: london,
        }),
      ).toBe("2 hours after the visit ended; no mobile on file, so it goes by email.");
  });

  test("asked by hand in the evening, it waits for the hours and says when they open", () => {
    const evening = Date.UTC(2026, 10, 24, 20, 30);
    const next = nextStep(
      plan,
      { ...fresh(evening), byHand: true, chosenChannel: "email" },
      reachable,
      london,
      [],
      evening,
    );
    expect(next).toMatchObject({ channel: "email", at: Date.UTC(2026, 10, 25, 9) });
    if (next.kind === "send")
      expect(
        sentenceOf(next.why, next.at, {
          delay: plan.steps[0].delay,
          after: "visit",
          begins: "visit",
          channel: "email",
          calendar: london,
        }),
      ).toBe("As soon as the send hours allow; send hours start at 9:00.");
  });

  test("after an outage nothing leaves at night: it moves to the morning, or ends as too late", () => {
    const night = Date.UTC(2026, 10, 25, 2);
    expect(nextStep(plan, fresh(tuesday), reachable, london, [], night)).toMatchObject({
      kind: "send",
      at: Date.UTC(2026, 10, 25, 9),
    });
    expect(nextStep(plan, fresh(tuesday), reachable, london, [], tuesday + 9 * DAY)).toEqual({
      kind: "end",
      outcome: "too late",
    });
  });

  test("a held ask does nothing, and one that reaches nobody says so", () => {
    expect(nextStep(plan, { ...fresh(tuesday), hold: "by hand" }, reachable, london, [], tuesday)).toEqual({
      kind: "held",
      leg: 0,
      step: 0,
      hold: "by hand",
    });
    expect(nextStep(plan, fresh(tuesday), { ...reachable, phone: null, email: null }, london, [], tuesday)).toEqual({
      kind: "end",
      outcome: "unreachable",
    });
    const never = weekOf([], 0, 0);
    expect(
      nextStep(plan, fresh(tuesday), reachable, { ...london, hours: { text: never, email: never } }, [], tuesday),
    ).toEqual({ kind: "end", outcome: "never open" });
  });

  test("tries back off from about a minute to about an hour", () => {
    expect(backoff(1, 0.5)).toBe(MINUTE);
    expect(backoff(30, 0.5)).toBe(HOUR);
    expect(backoff(3, 0)).toBeLessThan(backoff(3, 0.99));
  });
});

describe("who is asked", () => {
  const good: EligibilityCase = {
    now: tuesday,
    visit: { outcome: "finished", endsAt: tuesday - HOUR, service: { name: "Check-up", neverAsk: false } },
    person: {
      doNotAsk: null,
      tags: [],
      addresses: reachable,
      lastAskedAt: null,
      lastReviewedAt: null,
      hasOpenAsk: false,
    },
    plan: { name: "After a visit", running: true, rules: plan },
  };
  const person = (change: Partial<EligibilityCase["person"]>): EligibilityCase => ({
    ...good,
    person: { ...good.person, ...change },
  });

  test("somebody against whom nothing stands", () => {
    const verdict = checkEligibility(good);
    expect(verdict.asked).toBe(true);
    expect(verdict.trace.every(({ objects }) => !objects)).toBe(true);
  });

  test.each([
    ["cancelled", { ...good, visit: { ...good.visit, outcome: "cancelled" } }],
    ["no-show", { ...good, visit: { ...good.visit, outcome: "no-show" } }],
    ["not finished", { ...good, visit: { ...good.visit, outcome: "booked" } }],
    ["not finished", { ...good, visit: { ...good.visit, endsAt: tuesday + 1 } }],
    [
      "service never asked about",
      { ...good, visit: { ...good.visit, service: { name: "End-of-life care", neverAsk: true } } },
    ],
    ["do not ask", person({ doNotAsk: "by phone" })],
    ["excluding tag", person({ tags: ["landlord"] })],
    ["opted out", person({ addresses: { ...reachable, textOptedOut: true } })],
    ["address bounced", person({ addresses: { ...reachable, phone: null, emailBounced: true } })],
    ["no reachable address", person({ addresses: { ...reachable, email: null, phoneTakesTexts: false } })],
    ["no plan", { ...good, plan: null }],
    ["plan paused", { ...good, plan: { name: "x", running: false, rules: plan } }],
    ["too late", { ...good, visit: { ...good.visit, endsAt: tuesday - 8 * DAY } }],
    ["another ask open", person({ hasOpenAsk: true })],
    ["resting", person({ lastAskedAt: tuesday - 179 * DAY })],
    ["resting", person({ lastReviewedAt: tuesday - DAY })],
  ] as [string, EligibilityCase][])("left out: %s", (reason, it) => {
    const verdict = checkEligibility(it);
    expect(verdict).toMatchObject({ asked: false, reason });
    expect(verdict.trace.filter(({ objects }) => objects)).toHaveLength(1);
    expect(verdict.trace.at(-1)?.objects).toBe(true);
  });

  test("rest ends on its day", () => {
    expect(checkEligibility(person({ lastAskedAt: tuesday - 180 * DAY })).asked).toBe(true);
  });

  test("by hand, rest and the like only advise; what protects the person still refuses", () => {
    expect(examineByHand(person({ lastAskedAt: tuesday - DAY }))).toMatchObject({
      asked: true,
      advice: [{ rule: "resting" }],
    });
    // Whoever asks someone whose complaint waits is told so, and the trace keeps it.
    const unhappy = examineByHand(person({ hasOpenConcern: true }));
    expect(unhappy).toMatchObject({ asked: true, advice: [{ rule: "concern waits" }] });
    expect(unhappy.trace.at(-1)).toEqual({
      rule: "concern waits",
      objects: false,
      finding: { code: "concern waits" },
      overruled: true,
    });
    expect(examineByHand(person({ hasOpenConcern: false })).advice).toEqual([]);
    // Plans stop at such an answer by themselves: their traces know nothing of it.
    expect(checkEligibility(person({ hasOpenConcern: true })).trace.some(({ rule }) => rule === "concern waits")).toBe(
      false,
    );
    expect(examineByHand(person({ addresses: { ...reachable, textOptedOut: true } }))).toMatchObject({
      asked: false,
      reason: "opted out",
    });
    expect(examineByHand(person({ hasOpenAsk: true }))).toMatchObject({ asked: false, reason: "another ask open" });
  });

  test("every reason has its sentence", () => {
    for (const reason of REASONS) expect(reasonWords(reason)).toMatch(/\w{4}/);
    expect(new Set(REASONS.map(reasonWords)).size).toBe(REASONS.length);
  });

  test("opting out of one channel is never got round by the other", () => {
    fc.assert(
      fc.property(addresses, fc.constantFrom("text" as const, "email" as const), (reach, wanted) => {
        const channel = chooseChannel(reach, wanted);
        if (reach.emailOptedOut || reach.textOptedOut) expect(channel).toBeNull();
        if (channel) expect(obstacle(reach, channel)).toBeNull();
      }),
    );
  });
});

test("a plan's rules refuse what cannot work, naming the place", () => {
  const problems = (change: Partial<PlanRules>) => {
    const result = planRulesSchema.safeParse({ ...plan, ...change });
    return result.success ? [] : result.error.issues.map(({ path, message }) => `${path.join(".")}: ${message}`);
  };
  expect(problems({})).toEqual([]);
  expect(problems({ steps: [] })[0]).toMatch(/^steps: A plan needs/);
  expect(problems({ steps: [{ ...plan.steps[0], text: "no way to answer" }] })[0]).toMatch(
    /steps\.0\.text: .*\{link\}/,
  );
  expect(problems({ steps: [{ ...plan.steps[0], text: "{link} {frist name}" }] })[0]).toMatch(
    /\{frist name\} isn’t a placeholder/,
  );
  expect(problems({ repeat: { kind: "rest", days: -1 } })[0]).toMatch(/^repeat\.days/);
  expect(problems({ doors: { mode: "private only", threshold: 3, acknowledgedBy: null } })[0]).toMatch(
    /acknowledgedBy: “Private only” needs/,
  );
});
