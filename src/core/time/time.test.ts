import fc from "fast-check";
import { DateTime } from "luxon";
import { runs } from "../../../tests/support/size";
import { weekHoursSchema } from "../plans/planRules";
import { addDelay, clockTime, describeDelay, parseClockTime } from "./delay";
import { sayAgo, sayCount, sayFigure, sayMoment, sayRange, sayWhen } from "./say";
import { readHours, sayHours, sayWeek } from "./sayHours";
import { nextPermitted, openStretches, type SendCalendar, weekOf } from "./sendHours";
import {
  DAY,
  dayNumber,
  formatDay,
  fromLocal,
  HOUR,
  isZone,
  MINUTE,
  offsetAt,
  parseDay,
  timeOfDay,
  toLocal,
  weekday,
} from "./zone";

const ZONES = [
  "Europe/London",
  "America/New_York",
  "Australia/Lord_Howe",
  "Asia/Kathmandu",
  "America/St_Johns",
  "Pacific/Apia",
  "UTC",
  "America/Santiago",
  "Africa/Casablanca",
];
const zone = fc.constantFrom(...ZONES);
const instant = fc.integer({ min: Date.UTC(2023, 0, 1), max: Date.UTC(2029, 11, 31) });
/** Instants near a clock change, where mistakes live. */
const nearChange = fc
  .tuple(
    fc.constantFrom(
      Date.UTC(2026, 2, 29, 1),
      Date.UTC(2026, 9, 25, 1),
      Date.UTC(2026, 2, 8, 7),
      Date.UTC(2026, 10, 1, 6),
      Date.UTC(2026, 3, 4, 15),
      Date.UTC(2026, 9, 3, 15, 30),
    ),
    fc.integer({ min: -3 * HOUR, max: 3 * HOUR }),
  )
  .map(([at, off]) => at + off);
const anyInstant = fc.oneof(instant, nearChange);

describe("wall time in a zone", () => {
  test("agrees with an independent library at any instant", () => {
    fc.assert(
      fc.property(zone, anyInstant, (name, at) => {
        expect(offsetAt(name, at)).toBe(DateTime.fromMillis(at, { zone: name }).offset * MINUTE);
      }),
      { numRuns: runs(600) },
    );
  });

  test("there and back leads to the same instant, or to the first of two with the same reading", () => {
    fc.assert(
      fc.property(zone, anyInstant, (name, at) => {
        const back = fromLocal(name, toLocal(name, at));
        expect(toLocal(name, back)).toBe(toLocal(name, at));
        expect(back).toBeLessThanOrEqual(at);
      }),
    );
  });

  test("a reading that a clock change skips moves forward by the gap", () => {
    // London springs from 1:00 to 2:00 on 29 March 2026.
    expect(toLocal("Europe/London", fromLocal("Europe/London", Date.UTC(2026, 2, 29, 1, 30)))).toBe(
      Date.UTC(2026, 2, 29, 2, 30),
    );
    // Lord Howe moves by half an hour.
    expect(toLocal("Australia/Lord_Howe", fromLocal("Australia/Lord_Howe", Date.UTC(2026, 9, 4, 2, 10)))).toBe(
      Date.UTC(2026, 9, 4, 2, 40),
    );
  });

  test("a reading that occurs twice is taken the first time", () => {
    expect(fromLocal("Europe/London", Date.UTC(2026, 9, 25, 1, 30))).toBe(Date.UTC(2026, 9, 25, 0, 30));
  });

  test("days have ISO weekdays, and only calendar dates are read", () => {
    expect(weekday(parseDay("2026-11-24"))).toBe(1);
    expect(formatDay(parseDay("2028-02-29"))).toBe("2028-02-29");
    for (const wrong of ["2026-02-30", "24.11.2026", "", "2026-13-01"])
      expect(() => parseDay(wrong)).toThrow(RangeError);
    expect(isZone("Europe/London")).toBe(true);
    expect(isZone("Mars/Olympus")).toBe(false);
  });
});

describe("delays", () => {
  test("hours are elapsed time, whatever the clocks do", () => {
    fc.assert(
      fc.property(zone, anyInstant, fc.integer({ min: 0, max: 500 }), (name, at, amount) =>
        expect(addDelay(at, { amount, unit: "hours" }, name)).toBe(at + amount * HOUR),
      ),
    );
  });

  test("days are calendar days at the same wall time", () => {
    fc.assert(
      fc.property(zone, anyInstant, fc.integer({ min: 1, max: 60 }), (name, at, amount) => {
        const before = toLocal(name, at);
        const after = toLocal(name, addDelay(at, { amount, unit: "days" }, name));
        const wanted = (dayNumber(before) + amount) * DAY + timeOfDay(before);
        // Only a skipped reading may differ, by the gap (Apia once skipped a whole day; not in these years).
        expect(after - wanted).toBeGreaterThanOrEqual(0);
        expect(after - wanted).toBeLessThanOrEqual(HOUR);
      }),
    );
  });

  test("a set time of day holds, but nothing comes before its anchor", () => {
    const at = Date.UTC(2026, 10, 24, 14, 5);
    expect(sayMoment("Europe/London", addDelay(at, { amount: 2, unit: "days", at: 600 }, "Europe/London"))).toBe(
      "Thu 26 Nov, 10:00",
    );
    expect(addDelay(at, { amount: 0, unit: "days", at: 600 }, "Europe/London")).toBe(at);
  });

  test("are said and read the way people write them", () => {
    expect(describeDelay({ amount: 1, unit: "hours" })).toBe("1 hour");
    expect(describeDelay({ amount: 2, unit: "days", at: 570 })).toBe("2 days at 9:30");
    for (const [typed, minutes] of [
      ["9", 540],
      ["09:05", 545],
      ["24:00", 1440],
      ["24:01", null],
      ["9:75", null],
      ["noon", null],
      ["", null],
    ] as const)
      expect(parseClockTime(typed)).toBe(minutes);
    expect(clockTime(545)).toBe("9:05");
  });
});

const ranges = fc
  .array(fc.tuple(fc.integer({ min: 0, max: 1439 }), fc.integer({ min: 1, max: 1440 })), { maxLength: 2 })
  .map((pairs) =>
    pairs.map(([a, b]) => ({ open: Math.min(a, b), close: Math.max(a, b) })).filter(({ open, close }) => open < close),
  );
const week = fc.array(ranges, { minLength: 7, maxLength: 7 });

describe("send hours", () => {
  test("whatever is permitted lies inside the hours, off closed days, and inside the recipient's own", () => {
    fc.assert(
      fc.property(
        zone,
        anyInstant,
        week,
        fc.constantFrom("text" as const, "email" as const),
        fc.array(zone, { maxLength: 3 }),
        fc.array(fc.integer({ min: 0, max: 6 }), { maxLength: 3 }),
        (name, at, hours, channel, theirs, closedAhead) => {
          const closedDays = new Set(closedAhead.map((ahead) => dayNumber(toLocal(name, at)) + ahead));
          const found = nextPermitted(
            at,
            channel,
            { zone: name, hours: { text: hours, email: hours }, closedDays },
            theirs,
          );
          if (!found) return;
          expect(found.at).toBeGreaterThanOrEqual(at);
          const local = toLocal(name, found.at);
          expect(closedDays.has(dayNumber(local))).toBe(false);
          expect(
            hours[weekday(dayNumber(local))].some(
              ({ open, close }) => timeOfDay(local) >= open * MINUTE && timeOfDay(local) < close * MINUTE,
            ),
          ).toBe(true);
          for (const their of channel === "text" ? theirs : []) {
            const there = timeOfDay(toLocal(their, found.at));
            expect(there >= 8 * HOUR && there < 21 * HOUR).toBe(true);
          }
          expect(found.shifts.length > 0).toBe(found.at > at);
        },
      ),
      { numRuns: runs(1500) },
    );
  });

  test("nothing permitted is passed over: a scan by the quarter hour finds nothing earlier", () => {
    fc.assert(
      fc.property(zone, anyInstant, week, (name, start, hours) => {
        const at = Math.floor(start / (15 * MINUTE)) * 15 * MINUTE;
        const calendar: SendCalendar = { zone: name, hours: { text: hours, email: hours }, closedDays: new Set() };
        const found = nextPermitted(at, "email", calendar);
        const end = Math.min(found?.at ?? Number.POSITIVE_INFINITY, at + 9 * DAY);
        for (let probe = at; probe < end; probe += 15 * MINUTE) {
          const local = toLocal(name, probe);
          const open = hours[weekday(dayNumber(local))].some(
            (range) => timeOfDay(local) >= range.open * MINUTE && timeOfDay(local) < range.close * MINUTE,
          );
          expect(open).toBe(false);
        }
      }),
      { numRuns: runs(120) },
    );
  });

  test("hours that open or close while clocks jump forward count by the offset before (RFC 5545)", () => {
    const jump = Date.UTC(2026, 2, 29, 1);
    const on = (open: number, close: number): SendCalendar => {
      const hours = weekOf([6], open, close);
      return { zone: "Europe/London", hours: { text: hours, email: hours }, closedDays: new Set() };
    };
    const day = dayNumber(toLocal("Europe/London", jump));
    expect(nextPermitted(jump - HOUR, "email", on(61, 240))?.at).toBe(jump + MINUTE);
    expect(openStretches(day, "email", on(30, 90))).toEqual([{ from: jump - 30 * MINUTE, to: jump + 30 * MINUTE }]);
    expect(openStretches(day, "email", on(61, 121))).toEqual([]);
    // Where an hour comes twice, its first time opens and closes.
    const back = Date.UTC(2026, 9, 25, 0);
    expect(nextPermitted(back, "email", on(90, 240))?.at).toBe(back + 30 * MINUTE);
    expect(nextPermitted(back + 75 * MINUTE, "email", on(90, 240))?.at).toBe(back + 75 * MINUTE);
  });

  test("hours that never open say so instead of searching for ever", () => {
    const never = weekOf([], 0, 0);
    expect(
      nextPermitted(0, "text", { zone: "UTC", hours: { text: never, email: never }, closedDays: new Set() }),
    ).toBeNull();
  });

  test("the open stretches of a day are what is permitted on it", () => {
    const hours = weekOf([0, 1, 2, 3, 4, 5, 6], 9 * 60, 17 * 60);
    const calendar = {
      zone: "Europe/London",
      hours: { text: hours, email: hours },
      closedDays: new Set([parseDay("2026-12-25")]),
    };
    const [stretch] = openStretches(parseDay("2026-11-24"), "text", calendar);
    expect(nextPermitted(stretch.from, "text", calendar)?.at).toBe(stretch.from);
    expect(nextPermitted(stretch.to - 1, "text", calendar)?.at).toBe(stretch.to - 1);
    expect(openStretches(parseDay("2026-12-25"), "text", calendar)).toEqual([]);
    expect(
      nextPermitted(fromLocal("Europe/London", parseDay("2026-12-24") * DAY + 18 * HOUR), "text", calendar)?.shifts,
    ).toEqual(["hours", "closed day"]);
  });
});

test("dates are said the way people say them", () => {
  const now = Date.UTC(2026, 10, 24, 14, 5);
  expect(sayWhen("Europe/London", now + 2 * HOUR, now)).toBe("today at 16:05");
  expect(sayWhen("Europe/London", now + 19 * HOUR, now)).toBe("tomorrow at 9:05");
  expect(sayWhen("Europe/London", now + 3 * DAY, now)).toBe("Fri 27 Nov at 14:05");
  expect([
    sayAgo(now - 38 * MINUTE, now),
    sayAgo(now - 2 * HOUR, now),
    sayAgo(now - DAY, now),
    sayAgo(now + 3 * DAY, now),
  ]).toEqual(["38 min ago", "2 h ago", "yesterday", "in 3 days"]);
  expect([sayCount(0, "thing"), sayCount(1, "thing"), sayCount(3, "thing"), sayCount(1400, "thing")]).toEqual([
    "no things",
    "one thing",
    "three things",
    "1,400 things",
  ]);
  expect([sayCount(12, "thing"), sayCount(13, "thing")]).toEqual(["twelve things", "13 things"]);
  expect([sayFigure(1, "person", "people"), sayFigure(0, "text"), sayFigure(1400, "text")]).toEqual([
    "1 person",
    "0 texts",
    "1,400 texts",
  ]);
  // Never words and figures in one range.
  expect([sayRange(1, 12), sayRange(1, 13), sayRange(900, 1400), sayRange(0, 2), sayRange(4, 4)]).toEqual([
    "one to twelve",
    "1 to 13",
    "900 to 1,400",
    "zero to two",
    "four",
  ]);
});

describe("hours as people write them", () => {
  const stretches = fc
    .uniqueArray(fc.integer({ min: 0, max: 1440 }), { minLength: 0, maxLength: 6 })
    .map((times) => times.sort((a, b) => a - b))
    .map((times) =>
      Array.from({ length: Math.floor(times.length / 2) }, (_, index) => ({
        open: times[2 * index],
        close: times[2 * index + 1],
      })),
    );

  test("what is said is read back as the same hours", () => {
    fc.assert(
      fc.property(stretches, (hours) =>
        expect(readHours(hours.length === 0 ? "" : sayHours(hours))).toEqual({ hours }),
      ),
    );
  });

  test("dashes, commas and whole hours will do, in any order", () => {
    const split = [
      { open: 540, close: 750 },
      { open: 840, close: 1140 },
    ];
    for (const text of [
      "9:00 to 12:30 and 14:00 to 19:00",
      "9-12:30, 14-19",
      "14:00 – 19:00; 9:00—12:30",
      "9 TO 12:30 & 14 to 19",
      " 09:00-12:30 ,, 14:00-19:00 ",
    ])
      expect(readHours(text)).toEqual({ hours: split });
    expect(readHours("   ")).toEqual({ hours: [] });
    expect(readHours("0 to 24")).toEqual({ hours: [{ open: 0, close: 1440 }] });
  });

  test.each([
    ["nine to five", "“nine to five” isn’t a time range"],
    ["9:00", "“9:00” isn’t a time range"],
    ["9 to 12 to 14", "isn’t a time range"],
    ["19:00 to 9:00", "19:00 to 9:00 ends before it starts"],
    ["9 to 9", "ends before it starts"],
    ["9 to 25", "isn’t a time range"],
    ["9:61 to 12", "isn’t a time range"],
    ["9 to 13 and 12 to 14", "9:00 to 13:00 and 12:00 to 14:00 overlap"],
    ["9 to 12, 12 to 14", "overlap"],
    ["8-9,10-11,12-13,14-15", "use no more than 3 time ranges"],
  ])("%s is refused in words", (text, words) => {
    expect(readHours(text)).toEqual({ wrong: expect.stringContaining(words) });
  });

  test("nothing that is typed breaks it, and what is read can be kept", () => {
    fc.assert(
      fc.property(fc.oneof(fc.string(), fc.stringMatching(/^[0-9: to,-]{0,30}$/)), (text) => {
        const read = readHours(text);
        if ("wrong" in read) expect(read.wrong.length).toBeGreaterThan(0);
        else expect(weekHoursSchema.safeParse([read.hours, [], [], [], [], [], []]).success).toBe(true);
      }),
    );
  });

  test("a week says neighbours with the same hours once", () => {
    const day = [{ open: 540, close: 1140 }];
    const split = [
      { open: 540, close: 720 },
      { open: 780, close: 1020 },
    ];
    expect(sayWeek([day, day, day, day, day, split, []])).toBe(
      "Mon to Fri 9:00 to 19:00, Sat 9:00 to 12:00 and 13:00 to 17:00",
    );
    expect(sayWeek([[], [], [], [], [], [], []])).toBe("never");
    expect(sayWeek([day, [], day, [], [], [], []])).toBe("Mon 9:00 to 19:00, Wed 9:00 to 19:00");
  });
});
