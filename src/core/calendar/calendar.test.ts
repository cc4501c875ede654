import fc from "fast-check";
import ICAL from "ical.js";
import { DAY, HOUR, toLocal } from "../time/zone";
import { readCalendarEvent } from "./arrivals";
import { expandCalendar, NoCalendar } from "./expand";
import { type EventRule, judgeEvent, sayRule } from "./rules";

const NOW = Date.UTC(2026, 10, 24, 14, 5);
const LONDON = `BEGIN:VTIMEZONE
TZID:Europe/London
BEGIN:STANDARD
DTSTART:19961027T020000
RRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=10
TZOFFSETFROM:+0100
TZOFFSETTO:+0000
END:STANDARD
BEGIN:DAYLIGHT
DTSTART:19810329T010000
RRULE:FREQ=YEARLY;BYDAY=-1SU;BYMONTH=3
TZOFFSETFROM:+0000
TZOFFSETTO:+0100
END:DAYLIGHT
END:VTIMEZONE`;
const calendar = (...events: string[]) => ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//test", LONDON, ...events, "END:VCALENDAR"].join("\n").replaceAll("\n", "\r\n");
const event = (lines: string) => `BEGIN:VEVENT\n${lines.trim()}\nEND:VEVENT`;
const window = { zone: "Europe/London", from: Date.UTC(2026, 0, 1), to: Date.UTC(2026, 11, 31) };
const ends = (text: string, options = window) => expandCalendar(text, options).events.map(({ endsAt }) => new Date(endsAt).toISOString().slice(0, 16));

test("a series keeps its wall time over a clock change; exceptions, moved and cancelled occurrences are in their place", () => {
  const text = calendar(
    event(
      "UID:a\nDTSTART;TZID=Europe/London:20261021T100000\nDTEND;TZID=Europe/London:20261021T110000\nRRULE:FREQ=WEEKLY;COUNT=5\nEXDATE;TZID=Europe/London:20261111T100000\nSUMMARY:Check-up",
    ),
    event("UID:a\nRECURRENCE-ID;TZID=Europe/London:20261104T100000\nDTSTART;TZID=Europe/London:20261105T140000\nDTEND;TZID=Europe/London:20261105T150000\nSUMMARY:Moved"),
    event(
      "UID:a\nRECURRENCE-ID;TZID=Europe/London:20261118T100000\nDTSTART;TZID=Europe/London:20261118T100000\nDTEND;TZID=Europe/London:20261118T110000\nSTATUS:CANCELLED\nSUMMARY:Check-up",
    ),
  );
  const { events } = expandCalendar(text, window);
  expect(events.map(({ key, title, cancelled, endsAt }) => [key, title, cancelled, new Date(endsAt).toISOString().slice(0, 16)])).toEqual([
    ["a 20261021T100000", "Check-up", false, "2026-10-21T10:00"],
    ["a 20261028T100000", "Check-up", false, "2026-10-28T11:00"],
    ["a 20261104T100000", "Moved", false, "2026-11-05T15:00"],
    ["a 20261118T100000", "Check-up", true, "2026-11-18T11:00"],
  ]);
});

test("all-day, floating, UTC and own zones are read as they are meant", () => {
  expect(ends(calendar(event("UID:a\nDTSTART;VALUE=DATE:20260701\nDTEND;VALUE=DATE:20260702")))).toEqual(["2026-07-01T17:00"]);
  expect(ends(calendar(event("UID:a\nDTSTART;VALUE=DATE:20260701\nDTEND;VALUE=DATE:20260704")))).toEqual(["2026-07-03T17:00"]);
  expect(ends(calendar(event("UID:a\nDTSTART:20260701T100000\nDTEND:20260701T110000")))).toEqual(["2026-07-01T10:00"]);
  expect(ends(calendar(event("UID:a\nDTSTART:20260701T100000Z\nDURATION:PT30M")))).toEqual(["2026-07-01T10:30"]);
  expect(ends(calendar(event("UID:a\nDTSTART;TZID=America/New_York:20260701T100000\nDTEND;TZID=America/New_York:20260701T110000")))).toEqual(["2026-07-01T15:00"]);
  const own = calendar(
    "BEGIN:VTIMEZONE\nTZID:Office\nBEGIN:STANDARD\nDTSTART:19700101T000000\nTZOFFSETFROM:+0300\nTZOFFSETTO:+0300\nEND:STANDARD\nEND:VTIMEZONE",
    event("UID:a\nDTSTART;TZID=Office:20260701T100000\nDTEND;TZID=Office:20260701T110000"),
  );
  expect(ends(own)).toEqual(["2026-07-01T08:00"]);
});

test("what is no calendar says so; a broken event is counted and the rest is read", () => {
  for (const text of ["", "hello", "<html></html>", "BEGIN:VCALENDAR\nBEGIN:VEVENT"]) expect(() => expandCalendar(text, window)).toThrow(NoCalendar);
  const { events, unreadable } = expandCalendar(calendar(event("SUMMARY:no uid, no start"), event("UID:b\nDTSTART:20260701T100000Z")), window);
  expect([events.length, unreadable]).toEqual([1, 1]);
});

test("series of any rule expand as the calendar library itself does, over both clock changes", () => {
  const pad = (n: number) => String(n).padStart(2, "0");
  fc.assert(
    fc.property(
      fc.record({
        freq: fc.constantFrom("DAILY", "WEEKLY", "MONTHLY"),
        interval: fc.integer({ min: 1, max: 3 }),
        count: fc.integer({ min: 1, max: 60 }),
        month: fc.integer({ min: 1, max: 12 }),
        day: fc.integer({ min: 1, max: 28 }),
        hour: fc.integer({ min: 3, max: 22 }),
        left: fc.uniqueArray(fc.integer({ min: 0, max: 59 }), { maxLength: 4 }),
      }),
      ({ freq, interval, count, month, day, hour, left }) => {
        const rule = `RRULE:FREQ=${freq};INTERVAL=${interval};COUNT=${count}`;
        const start = `2026${pad(month)}${pad(day)}T${pad(hour)}0000`;
        const component = (lines: string[]) => new ICAL.Component(ICAL.parse(calendar(event(lines.join("\n")))) as never);
        const base = ["UID:a", `DTSTART;TZID=Europe/London:${start}`, "DURATION:PT1H", rule];
        // The library walks the series with the zone's own rules registered, which is its way of telling instants.
        const plain = component(base);
        const zone = new ICAL.Timezone(plain.getFirstSubcomponent("vtimezone") as ICAL.Component);
        const all = (lines: string[]) => {
          const found = new ICAL.Event(component(lines).getFirstSubcomponent("vevent") as ICAL.Component);
          const series = found.iterator();
          const times: ICAL.Time[] = [];
          for (let next = series.next(); next; next = series.next()) times.push(next.clone());
          return times;
        };
        const skipped = all(base).filter((_, index) => left.includes(index));
        const lines = [...base, ...skipped.map((time) => `EXDATE;TZID=Europe/London:${time.toICALString()}`)];
        const wanted = all(lines).map((time) => {
          time.zone = zone;
          return time.toUnixTime() * 1000 + HOUR;
        });
        const { events } = expandCalendar(calendar(event(lines.join("\n"))), { zone: "UTC", from: 0, to: Date.UTC(2060, 0, 1) });
        expect(events.map(({ endsAt }) => endsAt)).toEqual(wanted);
        for (const { startsAt } of events) expect((toLocal("Europe/London", startsAt) % DAY) / HOUR).toBe(hour);
      },
    ),
    { numRuns: 150, seed: 28 },
  );
});

test("a series without end is walked no further than the window, and one of seconds gives up", () => {
  const endless = calendar(event("UID:a\nDTSTART:19900101T100000Z\nDURATION:PT1H\nRRULE:FREQ=DAILY"));
  expect(expandCalendar(endless, { zone: "UTC", from: NOW, to: NOW + 10 * DAY }).events).toHaveLength(10);
  const mad = calendar(event("UID:a\nDTSTART:20200101T100000Z\nDURATION:PT1S\nRRULE:FREQ=SECONDLY"));
  expect(expandCalendar(mad, { zone: "UTC", from: NOW, to: NOW + DAY })).toEqual({ events: [], unreadable: 1 });
});

test("events count as sentences say, the first that fits deciding", () => {
  const rules: EventRule[] = [
    { where: "title", word: "lunch", counts: false, serviceId: null },
    { where: "category", word: "vaccination", counts: true, serviceId: "s1" },
    { where: "anything", word: "", counts: true, serviceId: null },
  ];
  const text = (title: string, categories: string[] = []) => ({ title, categories, place: "", description: "" });
  expect(judgeEvent(text("Lunch with Jun"), rules)).toEqual({ counts: false, serviceId: null, rule: 0 });
  expect(judgeEvent(text("Odette", ["VACCINATION"]), rules)).toEqual({ counts: true, serviceId: "s1", rule: 1 });
  expect(judgeEvent(text("Odette"), rules).rule).toBe(2);
  expect(judgeEvent(text("Odette"), []).counts).toBe(false);
  expect(rules.map((rule) => sayRule(rule, rule.serviceId ? "Vaccination" : null))).toEqual([
    "Events with “lunch” in the title are no visits.",
    "Events with “vaccination” in the category are visits: Vaccination.",
    "All other events are visits: the service is in the title.",
  ]);
});

test("an event becomes a visit of whoever can be reached by what it says", () => {
  const rules: EventRule[] = [{ where: "anything", word: "", counts: true, serviceId: null }];
  const read = (lines: string) => {
    const [first] = expandCalendar(calendar(event(`UID:a\nDTSTART:20261124T100000Z\nDTEND:20261124T110000Z\n${lines}`)), window).events;
    return readCalendarEvent(first, rules, "feed", { country: "GB", zone: "Europe/London", now: NOW });
  };
  expect(read("SUMMARY:Check-up: Odette Marsh\nDESCRIPTION:Phone: 07700 900123\\nPet: Biscuit")).toMatchObject({
    kind: "visit",
    arrival: {
      person: { given: "Odette", family: "Marsh", phone: { number: "+447700900123" } },
      visit: { externalId: "feed a", service: "Check-up", about: "Biscuit", outcome: "finished" },
    },
  });
  expect(read('SUMMARY:Lesson\nORGANIZER:mailto:us@blueheron.example\nATTENDEE:mailto:us@blueheron.example\nATTENDEE;CN="Jun Albrecht":mailto:jun@post.example')).toMatchObject({
    kind: "visit",
    arrival: { person: { given: "Jun", family: "Albrecht", email: "jun@post.example" } },
  });
  expect(read("SUMMARY:Team meeting")).toMatchObject({ kind: "nobody" });
});
