import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { fromLocal } from "../time/zone";
import { expandCalendar } from "./expand";

/** Zones that a calendar brings along: what they say counts, and what they are made to cost does not. */

const calendar = (...parts: string[]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:x", ...parts, "END:VCALENDAR"].join("\r\n").replaceAll("\n", "\r\n");

const RULES: Record<string, { iana: string; standard: string; daylight: string }> = {
  "Europe like": {
    iana: "Europe/Paris",
    standard: "DTSTART:19701025T030000\nTZOFFSETFROM:+0200\nTZOFFSETTO:+0100\nRRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=-1SU",
    daylight: "DTSTART:19700329T020000\nTZOFFSETFROM:+0100\nTZOFFSETTO:+0200\nRRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=-1SU",
  },
  "America like": {
    iana: "America/New_York",
    standard: "DTSTART:20071104T020000\nTZOFFSETFROM:-0400\nTZOFFSETTO:-0500\nRRULE:FREQ=YEARLY;BYMONTH=11;BYDAY=1SU",
    daylight: "DTSTART:20070311T020000\nTZOFFSETFROM:-0500\nTZOFFSETTO:-0400\nRRULE:FREQ=YEARLY;BYMONTH=3;BYDAY=2SU",
  },
  "Australia like": {
    iana: "Australia/Sydney",
    standard: "DTSTART:20080406T030000\nTZOFFSETFROM:+1100\nTZOFFSETTO:+1000\nRRULE:FREQ=YEARLY;BYMONTH=4;BYDAY=1SU",
    daylight: "DTSTART:20081005T020000\nTZOFFSETFROM:+1000\nTZOFFSETTO:+1100\nRRULE:FREQ=YEARLY;BYMONTH=10;BYDAY=1SU",
  },
};

const zone = (name: string, standard: string, daylight = "") =>
  `BEGIN:VTIMEZONE\nTZID:${name}\nBEGIN:STANDARD\n${standard}\nEND:STANDARD${daylight && `\nBEGIN:DAYLIGHT\n${daylight}\nEND:DAYLIGHT`}\nEND:VTIMEZONE`;

const event = (start: string, rule = "") =>
  `BEGIN:VEVENT\nUID:a\nDTSTART;TZID=Office:${start}\nDURATION:PT1H${rule && `\n${rule}`}\nEND:VEVENT`;

const stampOf = (local: number) => new Date(local).toISOString().replace(/[-:]/g, "").slice(0, 15);

test.each(Object.entries(RULES))(
  "%s: as the platform's own zone has it, but for the hours that change",
  (_name, it) => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 365 * 24 * 20 }), (hours) => {
        const local = Date.UTC(2015, 0, 1, 12) + hours * 3_600_000;
        const text = calendar(zone("Office", it.standard, it.daylight), event(stampOf(local)));
        const { events } = expandCalendar(text, { zone: "UTC", from: 0, to: Date.UTC(2040, 0, 1) });
        const wanted = fromLocal(it.iana, local);
        // A reading that does not exist or occurs twice is read by rules of its own.
        const isPlain = [-2, -1, 1, 2].every(
          (n) => fromLocal(it.iana, local + n * 3_600_000) - wanted === n * 3_600_000,
        );
        if (isPlain) expect(events.map(({ startsAt }) => startsAt)).toEqual([wanted]);
      }),
      { numRuns: runs(300) },
    );
  },
);

const until2012 = (rule: string) => rule.replace(/RRULE:(.*)/, "RRULE:$1;UNTIL=20121231T000000Z");

test("rules that ended hold on; a zone without a rule keeps its offset; nonsense is no zone", () => {
  const startsAt = (...parts: string[]) =>
    expandCalendar(calendar(...parts), { zone: "Asia/Tokyo", from: 0, to: Date.UTC(2040, 0, 1) }).events[0]?.startsAt;
  const { standard, daylight } = RULES["Europe like"];
  expect(startsAt(zone("Office", until2012(standard), until2012(daylight)), event("20260701T100000"))).toBe(
    Date.UTC(2026, 6, 1, 9),
  );
  expect(
    startsAt(zone("Office", "DTSTART:19700101T000000\nTZOFFSETFROM:+0300\nTZOFFSETTO:+0330"), event("20260701T100000")),
  ).toBe(Date.UTC(2026, 6, 1, 6, 30));
  // Nobody can tell what it means, so that nobody is asked at the wrong time.
  expect(startsAt(zone("Office", "DTSTART:19700101T000000\nTZOFFSETTO:x"), event("20260701T100000"))).toBeUndefined();
});

test.each([
  [
    "hourly since 1900",
    zone("Office", "DTSTART:19000101T000000\nTZOFFSETFROM:+0000\nTZOFFSETTO:+0100\nRRULE:FREQ=HOURLY"),
  ],
  [
    "two hundred rules each second",
    zone(
      "Office",
      Array.from(
        { length: 200 },
        () => "DTSTART:19000101T000000\nTZOFFSETFROM:+0000\nTZOFFSETTO:+0100\nRRULE:FREQ=SECONDLY",
      ).join("\nEND:STANDARD\nBEGIN:STANDARD\n"),
    ),
  ],
  [
    "yearly, with every part there is",
    zone(
      "Office",
      `DTSTART:00010101T000000\nTZOFFSETFROM:+0000\nTZOFFSETTO:+0100\nRRULE:FREQ=YEARLY;COUNT=9999999;BYHOUR=${Array.from({ length: 24 }, (_, n) => n)};BYMINUTE=${Array.from({ length: 60 }, (_, n) => n)};BYSECOND=${Array.from({ length: 60 }, (_, n) => n)};BYYEARDAY=${Array.from({ length: 366 }, (_, n) => n + 1)}`,
    ),
  ],
  [
    "ten thousand single dates",
    zone(
      "Office",
      `DTSTART:19000101T000000\nTZOFFSETFROM:+0000\nTZOFFSETTO:+0100\nRDATE:${Array.from({ length: 10_000 }, (_, n) => stampOf(Date.UTC(1950, 0, 1) + n * 86_400_000)).join(",")}`,
    ),
  ],
  [
    "five hundred endless series each hour",
    Array.from(
      { length: 500 },
      (_, n) => `BEGIN:VEVENT\nUID:${n}\nDTSTART:20200101T100000Z\nDURATION:PT1H\nRRULE:FREQ=HOURLY\nEND:VEVENT`,
    ).join("\n"),
  ],
])("a calendar made to be slow is read within bounds: %s", (_name, bomb) => {
  const text = calendar(bomb, event("20260701T100000", "RRULE:FREQ=DAILY"));
  const { events } = expandCalendar(text, {
    zone: "Europe/London",
    from: Date.UTC(2026, 5, 1),
    to: Date.UTC(2026, 7, 1),
  });
  expect(events.length).toBeLessThanOrEqual(50_000);
});
