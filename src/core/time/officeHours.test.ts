import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { afterOfficeTime, isOpen, lastClosed, nextOpen, type OfficeCalendar, officeTimeBetween } from "./officeHours";
import { DAY, fromLocal, HOUR, MINUTE, parseDay } from "./zone";

const ZONE = "Europe/London";
const at = (day: string, hour: number, minute = 0) =>
  fromLocal(ZONE, parseDay(day) * DAY + hour * HOUR + minute * MINUTE);
const weekdays: OfficeCalendar = {
  zone: ZONE,
  hours: [...Array.from({ length: 5 }, () => [{ open: 540, close: 1020 }]), [], []],
  closedDays: new Set([parseDay("2026-12-25")]),
};

test("four office hours from Friday afternoon end on Monday", () => {
  // 2026-11-27 is a Friday; the office closes at 17:00.
  expect(afterOfficeTime(at("2026-11-27", 15), 4 * HOUR, weekdays)).toBe(at("2026-11-30", 11));
  expect(afterOfficeTime(at("2026-11-27", 20), HOUR, weekdays)).toBe(at("2026-11-30", 10));
  expect(afterOfficeTime(at("2026-12-24", 16), 2 * HOUR, weekdays)).toBe(at("2026-12-28", 10));
});

test("open, closed, and when next and last", () => {
  expect(isOpen(at("2026-11-27", 9), weekdays)).toBe(true);
  expect(isOpen(at("2026-11-27", 17), weekdays)).toBe(false);
  expect(nextOpen(at("2026-11-27", 17), weekdays)).toBe(at("2026-11-30", 9));
  expect(nextOpen(at("2026-11-27", 12), weekdays)).toBe(at("2026-11-27", 12));
  expect(lastClosed(at("2026-11-29", 12), weekdays)).toBe(at("2026-11-27", 17));
});

test("where nobody ever is the clock counts", () => {
  const never: OfficeCalendar = { zone: ZONE, hours: [[], [], [], [], [], [], []], closedDays: new Set() };
  expect(afterOfficeTime(at("2026-11-27", 15), 4 * HOUR, never)).toBe(at("2026-11-27", 19));
  expect(nextOpen(at("2026-11-27", 15), never)).toBeNull();
});

const week = fc.array(
  fc.array(
    fc
      .tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 1440 }))
      .map(([open, length]) => ({ open, close: Math.min(1440, open + length) })),
    { maxLength: 3 },
  ),
  { minLength: 7, maxLength: 7 },
);

test("exactly that much office time passes, over clock changes and closed days, and its end is inside the hours", () => {
  fc.assert(
    fc.property(
      week,
      fc.constantFrom("Europe/London", "America/New_York", "Asia/Kathmandu", "UTC"),
      fc.integer({ min: at("2026-03-20", 0), max: at("2026-11-10", 0) }),
      fc.integer({ min: MINUTE, max: 60 * HOUR }),
      (hours, zone, from, duration) => {
        const calendar = { zone, hours, closedDays: new Set([parseDay("2026-04-03")]) };
        if (nextOpen(from, calendar) === null) return;
        const end = afterOfficeTime(from, duration, calendar);
        // Too few hours for so much time within a year: the clock counts.
        if (officeTimeBetween(from, from + 390 * DAY, calendar) < duration) return;
        expect(officeTimeBetween(from, end, calendar)).toBe(duration);
        expect(isOpen(end - 1, calendar)).toBe(true);
      },
    ),
    { numRuns: runs(300) },
  );
});
