import fc from "fast-check";
import { stableHash } from "../stableHash";
import { openSlot, take, underCeiling } from "./ceiling";
import { nextPermitted, type SendCalendar, weekOf } from "./sendHours";
import { spreadSlot } from "./spread";
import { dayNumber, HOUR, toLocal } from "./zone";

const week = weekOf([0, 1, 2, 3, 4], 540, 1140);
const london: SendCalendar = { zone: "Europe/London", hours: { text: week, email: week }, closedDays: new Set() };

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
