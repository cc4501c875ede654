import fc from "fast-check";
import type { Reaction, RehearsedPerson, RehearsedPlan, RehearsedVisit } from "@/core/asks/rehearsal";
import { rehearse } from "@/core/asks/rehearse";
import { CONDITIONS, PLAIN_RULES, type PlanRules, type PlanStep, STEP_CHANNELS } from "@/core/plans/planRules";
import { starterRules } from "@/core/plans/starters";
import { stableHash } from "@/core/stableHash";
import { type SendCalendar, weekOf } from "@/core/time/sendHours";
import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { breaches, brief, type World } from "../../support/invariants";
import { size } from "../../support/size";

/** Random plans, people, calendars and orders of events: what must hold in the simulated year holds in all of them. */
describe("worlds", () => {
  const START = Date.UTC(2026, 2, 1);
  const [model] = starterRules().steps;

  const step = fc.record({
    channel: fc.constantFrom(...STEP_CHANNELS),
    delay: fc.record({
      amount: fc.integer({ min: 0, max: 5 }),
      unit: fc.constantFrom("minutes" as const, "hours" as const, "days" as const),
      at: fc.option(fc.integer({ min: 0, max: 1439 })),
    }),
    onlyIf: fc.constantFrom(...CONDITIONS),
  });
  const plan = fc
    .record({
      begins: fc.constantFrom<PlanRules["begins"]>(
        { kind: "visit", services: [], branches: [], kinds: [] },
        { kind: "visit", services: [], branches: ["mill"], kinds: [] },
        { kind: "visit", services: ["check"], branches: [], kinds: ["job", "appointment"] },
        { kind: "invoice", services: [], branches: [] },
        { kind: "list", services: [], branches: [] },
      ),
      steps: fc.array(step, { minLength: 1, maxLength: 4 }),
      review: fc.array(step, { maxLength: 2 }),
      feeling: fc.boolean(),
      repeat: fc.constantFrom<PlanRules["repeat"]>(
        { kind: "once" },
        { kind: "rest", days: 3 },
        { kind: "rest", days: 20 },
        { kind: "every visit" },
      ),
      freshDays: fc.integer({ min: 1, max: 9 }),
      households: fc.constantFrom("together" as const, "one only" as const, "each" as const),
      goesFirst: fc.boolean(),
      perDay: fc.option(fc.integer({ min: 1, max: 4 })),
      state: fc.constantFrom("running" as const, "running" as const, "paused" as const, "draft" as const),
    })
    .map(({ steps, review, feeling, perDay, state, ...rest }): Omit<RehearsedPlan, "id" | "name"> => {
      const all: PlanStep[] = [
        ...steps.map(
          (one, n): PlanStep => ({
            ...model,
            ...one,
            key: `a${n}`,
            part: "first",
            onlyIf: one.onlyIf === "rated 4 or more" || n === 0 ? "always" : one.onlyIf,
          }),
        ),
        ...(feeling ? review.map((one, n): PlanStep => ({ ...model, ...one, key: `b${n}`, part: "review" })) : []),
      ];
      const portions = rest.begins.kind === "list" && perDay ? { perDay, mostBounced: 5, mostOptedOut: 5 } : null;
      const rules: PlanRules = {
        ...PLAIN_RULES,
        ...rest,
        portions,
        excludeTags: ["landlord"],
        style: feeling ? "how it went first" : "straight away",
        steps: all,
      };
      return { state, rules };
    });

  const world = fc
    .record({
      seed: fc.string({ minLength: 4, maxLength: 8 }),
      zone: fc.constantFrom("Europe/London", "America/New_York", "Australia/Lord_Howe", "Asia/Kolkata"),
      open: fc.integer({ min: 0, max: 20 }),
      long: fc.integer({ min: 2, max: 12 }),
      days: fc.subarray([0, 1, 2, 3, 4, 5, 6], { minLength: 2 }),
      closed: fc.array(fc.integer({ min: 0, max: 40 }), { maxLength: 6 }),
      plans: fc.array(plan, { minLength: 1, maxLength: 4 }),
      gapMinutes: fc.constantFrom(0, 60, 600, 3000),
      restDays: fc.constantFrom(0, 0, 5),
      needsConsent: fc.boolean(),
      leavesOut: fc.boolean(),
      texts: fc.option(fc.integer({ min: 1, max: 5 })),
      emails: fc.option(fc.integer({ min: 1, max: 5 })),
      textsAMonth: fc.option(fc.integer({ min: 1, max: 15 })),
      emailsAMonth: fc.option(fc.integer({ min: 1, max: 15 })),
    })
    .map((it): { world: World; seed: string } => {
      const chance = (...words: (string | number)[]) => stableHash(it.seed, ...words.map(String));
      const week = weekOf(it.days, it.open * 60, Math.min(24, it.open + it.long) * 60);
      const calendar: SendCalendar = {
        zone: it.zone,
        hours: { text: week, email: weekOf(it.days, 0, 24 * 60) },
        closedDays: new Set(it.closed.map((day) => START / DAY + day)),
      };
      const people = new Map<string, RehearsedPerson>();
      for (let n = 0; n < 14; n++) {
        const is = (what: string, share: number) => chance(what, n) < share;
        const guardian = is("minor", 0.2) && n > 0 && is("guardian", 0.7) ? `p${n - 1}` : null;
        people.set(`p${n}`, {
          id: `p${n}`,
          name: `Person ${n}`,
          doNotAsk: is("never", 0.05) ? "no" : null,
          tags: is("landlord", 0.1) ? ["landlord"] : [],
          addresses: {
            email: is("email", 0.8) ? `p${n}@post.example` : null,
            emailBounced: is("bounced", 0.1),
            emailOptedOut: is("out", 0.05),
            phone: is("phone", 0.7) ? `+4477${n}` : null,
            phoneTakesTexts: is("mobile", 0.8),
            textBounced: false,
            textOptedOut: false,
            prefers: is("prefers", 0.4) ? "email" : null,
          },
          toId: guardian ?? `p${n}`,
          isMinor: is("minor", 0.2),
          hasGuardian: guardian !== null,
          home: guardian ?? (is("home", 0.4) ? `home ${n % 4}` : `p${n}`),
          zones: is("away", 0.2)
            ? ["Pacific/Auckland"]
            : is("anywhere", 0.1)
              ? ["Australia/Perth", "Australia/Sydney"]
              : [],
          consent: is("agreed", 0.6) ? true : is("refused", 0.1) ? false : null,
          restUntil: is("rests", 0.1) ? START + 10 * DAY : null,
          lastAskedAt: null,
          lastAskedByHandAt: null,
          lastAskedByPlan: {},
          lastReviewedAt: null,
          lastMessageAt: null,
          goesFirst: is("first", 0.1),
        });
      }
      const visits = new Map<string, RehearsedVisit>();
      for (let n = 0; n < 45; n++) {
        const fromList = chance("list", n) < 0.3;
        const endsAt = START + Math.floor(chance("when", n) * 40 * 24 * 60) * MINUTE;
        visits.set(`v${n}`, {
          id: `v${n}`,
          personId: `p${Math.floor(chance("who", n) * 14)}`,
          branchId: chance("branch", n) < 0.4 ? "mill" : "quay",
          serviceId: chance("service", n) < 0.1 ? "care" : "check",
          kind: (["appointment", "job", "invoice"] as const)[Math.floor(chance("kind", n) * 3)],
          fromList,
          isSpread: fromList,
          endsAt,
          examineAt: fromList ? endsAt + 2 * DAY : endsAt,
          outcome: chance("outcome", n) < 0.1 ? "cancelled" : "finished",
          tags: [],
        });
      }
      const client = {
        zone: it.zone,
        restDays: it.restDays,
        needsConsent: it.needsConsent,
        gapMinutes: it.gapMinutes,
        bookedCountsAsFinished: true,
        neverTags: [],
        services: { check: { name: "Check-up", neverAsk: false }, care: { name: "Care", neverAsk: true } },
        ceilings: { text: it.texts, email: it.emails },
        allowances: { text: it.textsAMonth, email: it.emailsAMonth },
        used: { text: 0, email: 0 },
        recentSends: { text: [], email: [] },
        leavesOutWhenUsedUp: it.leavesOut,
        calendars: { mill: calendar, quay: calendar },
      };
      return {
        seed: it.seed,
        world: {
          zone: it.zone,
          client,
          calendar,
          people,
          visits,
          plans: it.plans.map((one, n) => ({ ...one, id: `plan ${n}`, name: `Plan ${n}` })),
        },
      };
    });

  test("every rule holds in every world", () => {
    let left = 0;
    fc.assert(
      fc.property(world, ({ world: it, seed }) => {
        const kinds = ["opened", "opted out", "wrote back", "reviewed"] as const;
        const rehearsal = rehearse({
          plans: it.plans,
          visits: [...it.visits.values()],
          people: it.people,
          client: it.client,
          underWay: [],
          now: START,
          until: START + 200 * DAY,
          partsOf: ({ channel }) => (channel === "text" ? 1 : null),
          react: ({ personId, at, leg }): Reaction[] => {
            const roll = stableHash(seed, "reaction", personId, String(leg), String(at));
            const when = at + Math.floor(stableHash(seed, "when", personId, String(at)) * 50) * HOUR;
            if (roll < 0.3) return [{ kind: "answered", rating: 1 + Math.floor(roll * 16.6), at: when }];
            return roll < 0.5 ? [{ kind: kinds[Math.floor((roll - 0.3) * 19.9)], at: when }] : [];
          },
        });
        left += rehearsal.messages.length;
        const broken = Object.entries(breaches(it, rehearsal)).filter(([, found]) => found.length > 0);
        expect(broken.map(([name, found]) => `${name}: ${brief(found[0])}`)).toEqual([]);
      }),
      { numRuns: size(150, 5000), seed: 20261124 },
    );
    expect(left).toBeGreaterThan(size(800, 20_000));
  });
});
