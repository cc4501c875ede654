import fc from "fast-check";
import { PLAIN_RULES, type PlanRules } from "../plans/planRules";
import { starterRules } from "../plans/starters";
import { addDelay } from "../time/delay";
import { type SendCalendar, weekOf } from "../time/sendHours";
import { timeOfDay, toLocal } from "../time/zone";
import { freshAsk, nextStep, projectAsk } from "./nextStep";
import type { Addresses } from "./reach";

const always = weekOf([0, 1, 2, 3, 4, 5, 6], 0, 24 * 60);
const london: SendCalendar = { zone: "Europe/London", hours: { text: always, email: always }, closedDays: new Set() };
const NOON = Date.UTC(2026, 10, 24, 12);
const reachable: Addresses = {
  email: "odette@post.example",
  emailBounced: false,
  emailOptedOut: false,
  phone: "+447700900123",
  phoneTakesTexts: true,
  textBounced: false,
  textOptedOut: false,
};
const [model] = starterRules().steps;
const both = (...hours: number[]): PlanRules => ({
  ...PLAIN_RULES,
  steps: hours.map((amount, n) => ({
    ...model,
    key: `k${n}`,
    channel: "both" as const,
    delay: { amount, unit: "hours" as const },
  })),
});

const unreachableByText = fc.constantFrom<Partial<Addresses>>(
  { phone: null },
  { phoneTakesTexts: false },
  { textBounced: true },
  { only: "email" },
);
const delays = fc.array(fc.integer({ min: 0, max: 30 }), { minLength: 1, maxLength: 4 });

test("where texts reach nobody, the email of a step by both channels keeps the step's delay", () => {
  fc.assert(
    fc.property(delays, unreachableByText, fc.integer({ min: 0, max: 600 }), (hours, change, gapMinutes) => {
      const { messages } = projectAsk(
        both(...hours),
        freshAsk(NOON, gapMinutes),
        { ...reachable, ...change },
        london,
        [],
        NOON,
      );
      expect(messages.map(({ channel }) => channel)).toEqual(hours.map(() => "email"));
      let base = NOON;
      for (const [index, { at }] of messages.entries()) {
        const wanted = addDelay(base, { amount: hours[index], unit: "hours" }, london.zone);
        expect(at).toBe(index === 0 ? wanted : Math.max(wanted, base + gapMinutes * 60_000));
        base = at;
      }
    }),
  );
});

test("whoever is asked by hand by email under a plan by both channels gets each step's email once", () => {
  fc.assert(
    fc.property(delays, fc.boolean(), (hours, hasMobile) => {
      const ask = { ...freshAsk(NOON, 0), byHand: true, chosenChannel: "email" as const };
      const { messages } = projectAsk(
        both(...hours),
        ask,
        { ...reachable, phoneTakesTexts: hasMobile },
        london,
        [],
        NOON,
      );
      const emails = messages.filter(({ channel }) => channel === "email").map(({ step }) => step);
      expect(emails).toEqual(hours.map((_, step) => step));
    }),
  );
});

const zones = fc.option(
  fc.constantFrom(
    "Pacific/Auckland",
    "America/New_York",
    "Asia/Kolkata",
    "Australia/Lord_Howe",
    "Pacific/Kiritimati",
    "Etc/GMT+12",
  ),
);
const ranges = fc
  .tuple(fc.integer({ min: 0, max: 1440 }), fc.integer({ min: 0, max: 1440 }))
  .map(([a, b]) => [{ open: Math.min(a, b), close: Math.max(a, b) }]);

test("no text leaves before 8:00 or from 21:00 on where the recipient is, or the branch where that is not known, whatever the hours are", () => {
  fc.assert(
    fc.property(
      zones,
      fc.array(ranges, { minLength: 7, maxLength: 7 }),
      fc.integer({ min: 0, max: 365 * 24 * 60 }),
      fc.boolean(),
      fc.boolean(),
      (zone, text, minute, byHand, overHours) => {
        const calendar = { ...london, hours: { text, email: always } };
        const at = NOON + minute * 60_000;
        const sendNow = overHours ? { leg: 0, at, overHours: true } : null;
        const plan = { ...both(0), steps: [{ ...model, channel: "text" as const }] };
        const next = nextStep(
          plan,
          { ...freshAsk(at, 0), byHand, sendNow },
          reachable,
          calendar,
          zone ? [zone] : [],
          at,
        );
        if (next.kind !== "send") throw new Error("somebody with an email is always reached");
        if (next.channel === "email") return;
        const minutes = timeOfDay(toLocal(zone ?? "Europe/London", next.at)) / 60_000;
        expect(minutes).toBeGreaterThanOrEqual(8 * 60);
        expect(minutes).toBeLessThan(21 * 60);
      },
    ),
  );
});
