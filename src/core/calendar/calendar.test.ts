import fc from "fast-check";
import ICAL from "ical.js";
import { runs } from "../../../tests/support/size";
import { DAY, HOUR, toLocal } from "../time/zone";
import { readCalendarEvent } from "./arrivals";
import { expandCalendar, NoCalendar } from "./expand";
import { occurrencesIn, type Rule, readRule } from "./recurrence";
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
const calendar = (...events: string[]) =>
  ["BEGIN:VCALENDAR", "VERSION:2.0", "PRODID:-//test", LONDON, ...events, "END:VCALENDAR"]
    .join("\n")
    .replaceAll("\n", "\r\n");
const event = (lines: string) => `BEGIN:VEVENT\n${lines.trim()}\nEND:VEVENT`;
const window = { zone: "Europe/London", from: Date.UTC(2026, 0, 1), to: Date.UTC(2026, 11, 31) };
const ends = (text: string, options = window) =>
  expandCalendar(text, options).events.map(({ endsAt }) => new Date(endsAt).toISOString().slice(0, 16));

test("a series keeps its wall time over a clock change; exceptions, moved and cancelled occurrences are in their place", () => {
  const text = calendar(
    event(
      "UID:a\nDTSTART;TZID=Europe/London:20261021T100000\nDTEND;TZID=Europe/London:20261021T110000\nRRULE:FREQ=WEEKLY;COUNT=5\nEXDATE;TZID=Europe/London:20261111T100000\nSUMMARY:Check-up",
    ),
    event(
      "UID:a\nRECURRENCE-ID;TZID=Europe/London:20261104T100000\nDTSTART;TZID=Europe/London:20261105T140000\nDTEND;TZID=Europe/London:20261105T150000\nSUMMARY:Moved",
    ),
    event(
      "UID:a\nRECURRENCE-ID;TZID=Europe/London:20261118T100000\nDTSTART;TZID=Europe/London:20261118T100000\nDTEND;TZID=Europe/London:20261118T110000\nSTATUS:CANCELLED\nSUMMARY:Check-up",
    ),
  );
  const { events } = expandCalendar(text, window);
  expect(
    events.map(({ key, title, cancelled, endsAt }) => [
      key,
      title,
      cancelled,
      new Date(endsAt).toISOString().slice(0, 16),
    ]),
  ).toEqual([
    ["a 20261021T100000", "Check-up", false, "2026-10-21T10:00"],
    ["a 20261028T100000", "Check-up", false, "2026-10-28T11:00"],
    ["a 20261104T100000", "Moved", false, "2026-11-05T15:00"],
    ["a 20261118T100000", "Check-up", true, "2026-11-18T11:00"],
  ]);
});

test("all-day, floating, UTC and own zones are read as they are meant", () => {
  expect(ends(calendar(event("UID:a\nDTSTART;VALUE=DATE:20260701\nDTEND;VALUE=DATE:20260702")))).toEqual([
    "2026-07-01T17:00",
  ]);
  expect(ends(calendar(event("UID:a\nDTSTART;VALUE=DATE:20260701\nDTEND;VALUE=DATE:20260704")))).toEqual([
    "2026-07-03T17:00",
  ]);
  expect(ends(calendar(event("UID:a\nDTSTART:20260701T100000\nDTEND:20260701T110000")))).toEqual(["2026-07-01T10:00"]);
  expect(ends(calendar(event("UID:a\nDTSTART:20260701T100000Z\nDURATION:PT30M")))).toEqual(["2026-07-01T10:30"]);
  expect(
    ends(
      calendar(
        event("UID:a\nDTSTART;TZID=America/New_York:20260701T100000\nDTEND;TZID=America/New_York:20260701T110000"),
      ),
    ),
  ).toEqual(["2026-07-01T15:00"]);
  const own = calendar(
    "BEGIN:VTIMEZONE\nTZID:Office\nBEGIN:STANDARD\nDTSTART:19700101T000000\nTZOFFSETFROM:+0300\nTZOFFSETTO:+0300\nEND:STANDARD\nEND:VTIMEZONE",
    event("UID:a\nDTSTART;TZID=Office:20260701T100000\nDTEND;TZID=Office:20260701T110000"),
  );
  expect(ends(own)).toEqual(["2026-07-01T08:00"]);
});

test("what is no calendar says so; a broken event is counted and the rest is read", () => {
  for (const text of ["", "hello", "<html></html>", "BEGIN:VCALENDAR\nBEGIN:VEVENT"])
    expect(() => expandCalendar(text, window)).toThrow(NoCalendar);
  const { events, unreadable } = expandCalendar(
    calendar(event("SUMMARY:no uid, no start"), event("UID:b\nDTSTART:20260701T100000Z")),
    window,
  );
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
        const component = (lines: string[]) =>
          new ICAL.Component(ICAL.parse(calendar(event(lines.join("\n")))) as never);
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
        const { events } = expandCalendar(calendar(event(lines.join("\n"))), {
          zone: "UTC",
          from: 0,
          to: Date.UTC(2060, 0, 1),
        });
        expect(events.map(({ endsAt }) => endsAt)).toEqual(wanted);
        for (const { startsAt } of events) expect((toLocal("Europe/London", startsAt) % DAY) / HOUR).toBe(hour);
      },
    ),
    { numRuns: runs(150), seed: 28 },
  );
});

test("a series without end is walked no further than the window, and one of seconds gives up", () => {
  const endless = calendar(event("UID:a\nDTSTART:19900101T100000Z\nDURATION:PT1H\nRRULE:FREQ=DAILY"));
  expect(expandCalendar(endless, { zone: "UTC", from: NOW, to: NOW + 10 * DAY }).events).toHaveLength(10);
  const mad = calendar(event("UID:a\nDTSTART:20200101T100000Z\nDURATION:PT1S\nRRULE:FREQ=SECONDLY"));
  expect(expandCalendar(mad, { zone: "UTC", from: NOW, to: NOW + DAY })).toMatchObject({
    events: [],
    unreadable: 1,
    unreadableKeys: ["a"],
  });
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
    "Events with “lunch” in the title aren’t visits.",
    "Events with “vaccination” in the category are visits: Vaccination.",
    "All other events are visits: are visits, with the service in the title.",
  ]);
});

test("an event becomes a visit of whoever can be reached by what it says", () => {
  const rules: EventRule[] = [{ where: "anything", word: "", counts: true, serviceId: null }];
  const read = (lines: string) => {
    const [first] = expandCalendar(
      calendar(event(`UID:a\nDTSTART:20261124T100000Z\nDTEND:20261124T110000Z\n${lines}`)),
      window,
    ).events;
    return readCalendarEvent(first, rules, "feed", { country: "GB", zone: "Europe/London", now: NOW });
  };
  expect(read("SUMMARY:Check-up: Odette Marsh\nDESCRIPTION:Phone: 07700 900123\\nPet: Biscuit")).toMatchObject({
    kind: "visit",
    arrival: {
      person: { given: "Odette", family: "Marsh", phone: { number: "+447700900123" } },
      visit: { externalId: "feed a", service: "Check-up", about: "Biscuit", outcome: "finished" },
    },
  });
  expect(
    read(
      'SUMMARY:Lesson\nORGANIZER:mailto:us@blueheron.example\nATTENDEE:mailto:us@blueheron.example\nATTENDEE;CN="Jun Albrecht":mailto:jun@post.example',
    ),
  ).toMatchObject({
    kind: "visit",
    arrival: { person: { given: "Jun", family: "Albrecht", email: "jun@post.example" } },
  });
  expect(read("SUMMARY:Team meeting")).toMatchObject({ kind: "nobody" });
});

describe("what calendars hold", () => {
  test("an occurrence moved into the window from far outside of it is there, at its own time", () => {
    const text = calendar(
      event("UID:a\nDTSTART;TZID=Europe/London:20200106T100000\nDURATION:PT1H\nRRULE:FREQ=MONTHLY\nSUMMARY:Lesson"),
      event(
        "UID:a\nRECURRENCE-ID;TZID=Europe/London:20200106T100000\nDTSTART;TZID=Europe/London:20261112T150000\nDURATION:PT1H\nSUMMARY:Moved",
      ),
    );
    const { events } = expandCalendar(text, {
      zone: "Europe/London",
      from: Date.UTC(2026, 10, 10),
      to: Date.UTC(2026, 10, 20),
    });
    expect(events.map(({ key, title }) => [key, title])).toEqual([["a 20200106T100000", "Moved"]]);
  });

  test("a series of dates alone has its beginning too", () => {
    expect(
      ends(calendar(event("UID:a\nDTSTART:20260701T100000Z\nDURATION:PT1H\nRDATE:20260703T100000Z,20260705T100000Z"))),
    ).toEqual(["2026-07-01T11:00", "2026-07-03T11:00", "2026-07-05T11:00"]);
  });

  test("a zone's name counts without its definition: in a series, in its exceptions and for its end", () => {
    const text = `BEGIN:VCALENDAR\nVERSION:2.0\n${event(
      "UID:a\nDTSTART;TZID=America/New_York:20261029T100000\nDURATION:PT1H\nRRULE:FREQ=DAILY;UNTIL=20261103T150000Z\nEXDATE;TZID=America/New_York:20261031T100000",
    )}\nEND:VCALENDAR`;
    // The clocks change there on 1 November; the last one begins exactly at the end that is named in UTC.
    expect(ends(text)).toEqual([
      "2026-10-29T15:00",
      "2026-10-30T15:00",
      "2026-11-01T16:00",
      "2026-11-02T16:00",
      "2026-11-03T16:00",
    ]);
  });

  test("one bad line costs its event alone, and is told with what it is about", () => {
    const bad = event("UID:b\nDTSTART:20261301T990000\nSUMMARY:no such day");
    const odd = event("UID:c\nthis is no line at all\nDTSTART:20260702T100000Z");
    const { events, unreadable, unreadableKeys, isWhole } = expandCalendar(
      calendar(event("UID:a\nDTSTART:20260701T100000Z"), bad, odd),
      window,
    );
    expect(events.map(({ key }) => key)).toEqual(["a", "c"]);
    expect([unreadable, unreadableKeys, isWhole]).toEqual([1, ["b"], true]);
  });

  test("two calendars in one stream, and a byte order mark before them, are read", () => {
    const one = calendar(event("UID:a\nDTSTART:20260701T100000Z"));
    expect(ends(`\ufeff${one}\r\n${calendar(event("UID:b\nDTSTART:20260702T100000Z"))}`)).toHaveLength(2);
  });

  test("a stream that was cut off is not whole: nothing may be taken to be gone", () => {
    const text = calendar(event("UID:a\nDTSTART:20260701T100000Z"), event("UID:b\nDTSTART:20260702T100000Z"));
    for (const share of [0.3, 0.5, 0.7, 0.9, 0.99]) {
      const cut = text.slice(0, Math.floor(text.length * share));
      try {
        expect(expandCalendar(cut, window).isWhole).toBe(false);
      } catch (error) {
        expect(error).toBeInstanceOf(NoCalendar);
      }
    }
  });

  test("rooms and things are nobody's name", () => {
    const [first] = expandCalendar(
      calendar(
        event(
          'UID:a\nDTSTART:20260701T100000Z\nATTENDEE;CUTYPE=ROOM;CN="Room 2":mailto:room2@post.example\nATTENDEE;CUTYPE=RESOURCE:mailto:van@post.example\nATTENDEE;CN=Jun:mailto:jun@post.example',
        ),
      ),
      window,
    ).events;
    expect(first.people).toEqual([{ name: "Jun", email: "jun@post.example" }]);
  });

  test("what holds from one occurrence on holds for all that follow", () => {
    const text = calendar(
      event("UID:a\nDTSTART:20260701T100000Z\nDURATION:PT1H\nRRULE:FREQ=DAILY;COUNT=4\nSUMMARY:Early"),
      event(
        "UID:a\nRECURRENCE-ID;RANGE=THISANDFUTURE:20260703T100000Z\nDTSTART:20260703T140000Z\nDURATION:PT2H\nSUMMARY:Late",
      ),
    );
    expect(
      expandCalendar(text, window).events.map(({ key, title, endsAt }) => [
        key,
        title,
        new Date(endsAt).toISOString().slice(5, 16),
      ]),
    ).toEqual([
      ["a 20260701T100000Z", "Early", "07-01T11:00"],
      ["a 20260702T100000Z", "Early", "07-02T11:00"],
      ["a 20260703T100000Z", "Late", "07-03T16:00"],
      ["a 20260704T100000Z", "Late", "07-04T16:00"],
    ]);
  });

  test("thousands of events, rules that never come true, and series from the year 1 are read straight to the window", () => {
    const many = Array.from({ length: 10_000 }, (_, n) =>
      event(`UID:plain ${n}\nDTSTART:20260701T100000Z\nSUMMARY:${"x".repeat(50)}`),
    );
    const impossible = [
      "FREQ=YEARLY;BYMONTH=2;BYMONTHDAY=30",
      "FREQ=YEARLY;INTERVAL=9999",
      "FREQ=MONTHLY;BYMONTHDAY=31;BYMONTH=4",
      "FREQ=HOURLY;BYMONTH=2;BYMONTHDAY=31",
    ];
    const ancient = Array.from({ length: 500 }, (_, n) =>
      event(
        `UID:old ${n}\nDTSTART:00010101T100000Z\nRRULE:${["FREQ=DAILY", "FREQ=WEEKLY;BYDAY=MO,TH", "FREQ=HOURLY;INTERVAL=12", "FREQ=YEARLY"][n % 4]}`,
      ),
    );
    const rules = impossible.map((rule, n) => event(`UID:never ${n}\nDTSTART:20200229T100000Z\nRRULE:${rule}`));
    const { events, isWhole } = expandCalendar(calendar(...many, ...ancient, ...rules), {
      zone: "UTC",
      from: Date.UTC(2026, 5, 1),
      to: Date.UTC(2026, 6, 31),
    });
    expect(events.filter(({ key }) => key.startsWith("plain")).length).toBe(10_000);
    expect(events.filter(({ key }) => key.startsWith("old 0 ")).length).toBe(60);
    expect(events.filter(({ key }) => key.startsWith("never"))).toEqual([]);
    expect(isWhole).toBe(true);
  });

  test("a rule that counts beyond all bounds is told, and costs no other event", () => {
    const mad = Array.from({ length: 40 }, (_, n) =>
      event(`UID:mad ${n}\nDTSTART:00010101T100000Z\nRRULE:FREQ=HOURLY;BYMONTH=1,2,3;COUNT=99999999`),
    );
    const { events, unreadableKeys } = expandCalendar(
      calendar(...mad, event("UID:z\nDTSTART:20260701T100000Z\nRRULE:FREQ=DAILY;COUNT=3")),
      window,
    );
    expect(events.filter(({ key }) => key.startsWith("z")).length).toBe(3);
    expect(unreadableKeys.length).toBe(40);
  });

  test("rules that count are the first so many of those that do not", () => {
    const start = Date.UTC(2024, 0, 31, 10);
    fc.assert(
      fc.property(
        fc.constantFrom(
          "FREQ=DAILY",
          "FREQ=DAILY;BYHOUR=8,17",
          "FREQ=WEEKLY;BYDAY=MO,FR",
          "FREQ=WEEKLY;BYDAY=TU;WKST=SU",
          "FREQ=MONTHLY",
          "FREQ=MONTHLY;BYDAY=-1FR",
          "FREQ=HOURLY;INTERVAL=7",
        ),
        fc.integer({ min: 1, max: 400 }),
        fc.integer({ min: 1, max: 4 }),
        (text, count, interval) => {
          const rule = `${text};INTERVAL=${interval}`.replace(/INTERVAL=7;/, "");
          const all = occurrencesIn(
            readRule(rule) as Rule,
            start,
            { from: start, to: start + 4000 * DAY },
            { periods: 1_000_000 },
          );
          const from = all[Math.floor(count / 2)] ?? start;
          const counted = occurrencesIn(
            readRule(`${rule};COUNT=${count}`) as Rule,
            start,
            { from, to: start + 4000 * DAY },
            { periods: 1_000_000 },
          );
          expect(counted).toEqual(all.slice(0, count).filter((at) => at >= from));
        },
      ),
      { numRuns: runs(300) },
    );
  });
});

describe("zones that a calendar names and does not define", () => {
  const at = (zone: string, before = "") =>
    expandCalendar(
      `BEGIN:VCALENDAR\n${before}${event(`UID:z\nDTSTART${zone}:20260701T100000\nDURATION:PT1H\nSUMMARY:x`)}\nEND:VCALENDAR`,
      window,
    );
  const endOf = (...given: Parameters<typeof at>) =>
    at(...given).events.map(({ endsAt }) => new Date(endsAt).toISOString().slice(0, 16));

  test.each([
    ["Pacific Standard Time", "2026-07-01T18:00"],
    ["W. Europe Standard Time", "2026-07-01T09:00"],
    ["India Standard Time", "2026-07-01T05:30"],
    ["/example.org/20050126_1/Europe/Warsaw", "2026-07-01T09:00"],
    ["/calendars.example/America/Argentina/Buenos_Aires", "2026-07-01T14:00"],
    ["America/New_York", "2026-07-01T15:00"],
  ])("%s is read as it is meant", (zone, end) => {
    expect(endOf(`;TZID="${zone}"`)).toEqual([end]);
  });

  test("one that means nothing is told by its name instead of being read in another", () => {
    const { events, unreadableKeys, unknownZones } = at(";TZID=Office Time");
    expect([events, unreadableKeys, unknownZones]).toEqual([[], ["z"], ["Office Time"]]);
  });

  test("times without a zone are those of the calendar, where it names one, else the business's", () => {
    expect(endOf("", "X-WR-TIMEZONE:America/New_York\n")).toEqual(["2026-07-01T15:00"]);
    expect(endOf("", "X-WR-TIMEZONE:Pacific Standard Time\n")).toEqual(["2026-07-01T18:00"]);
    expect(endOf("", "X-WR-TIMEZONE:Nowhere\n")).toEqual(["2026-07-01T10:00"]);
    expect(endOf("")).toEqual(["2026-07-01T10:00"]);
  });
});

test("a count of nothing is no series, and rules in small letters are rules", () => {
  const series = (rule: string) =>
    expandCalendar(calendar(event(`UID:r\nDTSTART:20260701T100000Z\nDURATION:PT1H\nRRULE:${rule}`)), window);
  expect([series("FREQ=DAILY;COUNT=0").events, series("FREQ=DAILY;COUNT=0").unreadableKeys]).toEqual([[], ["r"]]);
  expect(series("freq=weekly;byday=we,fr;count=4").events).toHaveLength(4);
});

test("each period of a list of dates lasts as long as it says", () => {
  const { events } = expandCalendar(
    calendar(
      event(
        "UID:p\nDTSTART:20260701T100000Z\nDURATION:PT1H\nRDATE;VALUE=PERIOD:20260702T100000Z/PT2H,20260703T100000Z/20260703T133000Z",
      ),
    ),
    window,
  );
  expect(events.map(({ startsAt, endsAt }) => (endsAt - startsAt) / HOUR)).toEqual([1, 2, 3.5]);
});

test("an event that is not closed costs itself alone; an alarm that is not closed costs nothing", () => {
  const whole = (uid: string) => event(`UID:${uid}\nDTSTART:20260701T100000Z\nDURATION:PT1H`);
  const open = "BEGIN:VEVENT\nUID:open\nDTSTART:20260701T100000Z";
  const alarm = event("UID:alarm\nDTSTART:20260701T100000Z\nDURATION:PT1H\nBEGIN:VALARM\nTRIGGER:-PT5M");
  const { events, unreadableKeys } = expandCalendar(calendar(whole("a"), open, whole("b"), alarm, whole("c")), window);
  expect([events.map(({ key }) => key), unreadableKeys]).toEqual([["a", "alarm", "b", "c"], ["open"]]);
  const last = expandCalendar(calendar(whole("a"), open), window);
  expect([last.events.map(({ key }) => key), last.unreadableKeys]).toEqual([["a"], ["open"]]);
});

test("hundreds of series without an end are read within a moment", () => {
  const many = Array.from({ length: 500 }, (_, index) =>
    event(`UID:h${index}\nDTSTART:20260101T000000Z\nDURATION:PT30M\nRRULE:FREQ=HOURLY\nSUMMARY:Hourly`),
  );
  const began = performance.now();
  const { isWhole, events, unreadableKeys } = expandCalendar(calendar(...many), window);
  expect(isWhole && unreadableKeys.length === 0).toBe(false);
  expect(events.length).toBeGreaterThan(10_000);
  // Beside other tests; alone it takes a tenth of this.
  expect(performance.now() - began).toBeLessThan(8000);
});
