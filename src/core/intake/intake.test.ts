import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { DAY, formatDay } from "../time/zone";
import { parseArrival } from "./arrival";
import { readDate, readTime, settleOrder } from "./dates";
import { eventTypeOf, OWN_MAPPING, pathsOf, readEvent, valueAt } from "./events";
import { fieldOfHeader, readOutcome, readYesNo } from "./fields";
import { sniffDelimiter, tableOf } from "./table";

const NOW = Date.UTC(2026, 10, 24, 14, 5);
const setting = {
  country: "GB",
  zone: "Europe/London",
  now: NOW,
  order: "day first" as const,
  undated: "today" as const,
};

describe("dates", () => {
  test("any day written in a known way reads as that day, in the order it was written", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 25_000 }), fc.constantFrom("-", "/", "."), (day, mark) => {
        const [year, month, date] = formatDay(day).split("-");
        const wanted = { ok: true, local: day * DAY, hasTime: false, isUtc: false };
        expect(readDate(`${year}${mark}${month}${mark}${date}`, "month first")).toEqual(wanted);
        expect(readDate(`${date}${mark}${month}${mark}${year}`, "day first")).toEqual(wanted);
        expect(readDate(`${month}${mark}${date}${mark}${year}`, "month first")).toEqual(wanted);
        expect(readDate(String(day + 25_569), "day first")).toEqual(wanted);
        if (day >= 0)
          expect(readDate(String(day + 25_569 - 1462), "day first", true).ok === true || day < 1462).toBe(true);
      }),
    );
  });

  test.each([
    ["24 November 2026", "2026-11-24 00:00"],
    ["Tuesday, November 24, 2026 2:05 PM", "2026-11-24 14:05"],
    ["24 de noviembre de 2026", "2026-11-24 00:00"],
    ["24. März 2026", "2026-03-24 00:00"],
    ["1er août 2026", "2026-08-01 00:00"],
    ["24 dez 2026", "2026-12-24 00:00"],
    ["20261124T140500Z", "2026-11-24 14:05 utc"],
    ["2026-11-24T14:05:00+01:00", "2026-11-24 13:05 utc"],
    ["31/02/2026", "no"],
    ["00/11/2026", "no"],
    ["24/11", "no"],
    ["tomorrow", "no"],
    ["1e9", "no"],
  ])("%s reads as %s", (text, wanted) => {
    const read = readDate(text, "day first");
    expect(
      read.ok
        ? `${new Date(read.local).toISOString().slice(0, 16).replace("T", " ")}${read.isUtc ? " utc" : ""}`
        : "no",
    ).toBe(wanted);
  });

  test.each([
    ["14:05", 845],
    ["2.05 pm", 845],
    ["14h05", 845],
    ["12 am", 0],
    ["0.5", 720],
    ["1405", 845],
    ["25:00", null],
    ["noon", null],
  ])("%s is minute %s of the day", (text, minutes) =>
    expect(readTime(text)).toBe(minutes === null ? null : minutes * 60_000),
  );

  test("the order of a column is settled by any date that can be read one way only", () => {
    expect(settleOrder(["05/11/2026", "24/11/2026"])).toBe("day first");
    expect(settleOrder(["05/11/2026", "11/24/2026"])).toBe("month first");
    expect(settleOrder(["05/11/2026", "06/12/2026"])).toBeNull();
    expect(settleOrder(["24/11/2026", "11/24/2026"])).toBe("mixed");
    expect(settleOrder(["11/11/2026", "2026-11-24", ""])).toBe("either");
  });
});

test("words over columns are known in five languages, with or without numbers and brackets", () => {
  const known = {
    "E-Mail-Adresse": "email",
    "Téléphone portable": "phone",
    Apellidos: "family name",
    Vorname: "given name",
    "Data da consulta": "visit date",
    "Phone (mobile)": "phone",
    "Email 2": "email",
    Tierarzt: "team member",
    "N° facture": null,
  };
  for (const [header, field] of Object.entries(known)) expect([header, fieldOfHeader(header)]).toEqual([header, field]);
  expect(["Completed", "No-Show", "annulé", "gebucht", "maybe"].map(readOutcome)).toEqual([
    "finished",
    "no-show",
    "cancelled",
    "booked",
    null,
  ]);
  expect(["Sí", "nein", "1", "perhaps"].map(readYesNo)).toEqual([true, false, true, null]);
});

test("the delimiter is the one that splits evenly, also when others stand inside cells", () => {
  expect(sniffDelimiter('Name;Email\n"Marsh, Odette";o@post.example\n"Pike, Jun, sen.";j@post.example')).toBe(";");
  expect(sniffDelimiter("a|b\n1|2")).toBe("|");
  expect(sniffDelimiter("just one column\nof words")).toBe(",");
});

describe("an arrival", () => {
  const read = (fields: Parameters<typeof parseArrival>[0], change = {}) =>
    parseArrival(fields, { ...setting, ...change });

  test("a visit without a day was today, or is none, as was chosen; a day without a time ends in the evening", () => {
    const it = { "full name": "Odette", email: "o@post.example", service: "Check-up" };
    expect(read(it)).toMatchObject({ visit: { endsAt: NOW, outcome: "finished" } });
    expect(read(it, { undated: "no visit" })).toMatchObject({ visit: null, remarks: [{ field: "visit date" }] });
    expect(read({ ...it, "visit date": "20/11/2026" })).toMatchObject({
      visit: { endsAt: Date.UTC(2026, 10, 20, 18) },
    });
    expect(read({ ...it, "visit date": "24/11/2026" })).toMatchObject({ visit: { endsAt: NOW } });
    expect(read({ ...it, "visit date": "30/11/2026", outcome: "done" })).toMatchObject({
      visit: { outcome: "booked" },
    });
  });

  test("nobody to reach is unusable, with every reason; a number in the books alone is enough to recognise", () => {
    expect(read({ "full name": "Odette", email: "wrong", phone: "12" })).toEqual({
      problems: [
        { code: "not an email", field: "email", text: "wrong" },
        { code: "not a phone", field: "phone", text: "12" },
      ],
    });
    expect(read({ "full name": "Odette", "customer number": "17.0" })).toMatchObject({ person: { externalId: "17" } });
  });

  test("a minor's guardian is read beside them; one without an address is left aside", () => {
    expect(
      read({
        "full name": "Arlo Marsh",
        "birth date": "01/02/2010",
        "guardian name": "MARSH, Jun",
        "guardian phone": "07700 900123",
      }),
    ).toMatchObject({
      person: {
        birthDate: "2010-02-01",
        guardian: { given: "Jun", family: "Marsh", phone: { number: "+447700900123" } },
      },
    });
    expect(read({ "full name": "Arlo", email: "a@post.example", "guardian name": "Jun" })).toMatchObject({
      person: { guardian: null },
      remarks: [{ field: "guardian name" }],
    });
  });

  test("whatever the cells hold, it is an arrival with somebody in it or a list of reasons", () => {
    const cell = fc.oneof(
      fc.string({ maxLength: 40 }),
      fc.constantFrom("o@post.example", "07700 900123", "24/11/2026", "yes", "9".repeat(60)),
    );
    fc.assert(
      fc.property(
        fc.record(
          {
            "full name": cell,
            email: cell,
            phone: cell,
            "visit date": cell,
            "visit time": cell,
            outcome: cell,
            consent: cell,
            tags: cell,
            "birth date": cell,
            "guardian phone": cell,
            note: cell,
          },
          { requiredKeys: [] },
        ),
        (fields) => {
          const result = read(fields);
          if ("problems" in result) expect(result.problems.length).toBeGreaterThan(0);
          else {
            expect(
              result.person.email ?? result.person.phone ?? result.person.externalId ?? result.person.guardian,
            ).toBeTruthy();
            if (result.visit) expect(Number.isFinite(result.visit.endsAt)).toBe(true);
          }
        },
      ),
      { numRuns: runs(500) },
    );
  });
});

describe("events", () => {
  const body = {
    type: "visit.finished",
    timestamp: "2026-11-24T12:00:00Z",
    data: {
      visit: { id: 7, ends_at: "2026-11-24T15:00:00Z" },
      person: { name: "Odette Marsh", email: "o@post.example", tags: ["a", "b"] },
      list: [{ x: 1 }],
    },
  };

  test("paths lead into objects and lists, and nowhere else", () => {
    expect(valueAt(body, "data.visit.id")).toBe("7");
    expect(valueAt(body, "data.list.0.x")).toBe("1");
    expect(valueAt(body, "data.person.tags")).toBe("a, b");
    for (const path of ["data.person", "constructor.name", "__proto__.x", "data.list.9.x", ""])
      expect(valueAt(body, path)).toBe("");
    for (const { path, value } of pathsOf(body)) expect(valueAt(body, path)).toBe(value);
  });

  test("whoever says that a visit is over means it, whatever end was planned", () => {
    expect(readEvent(body, OWN_MAPPING, { country: "GB", zone: "Europe/London", now: NOW })).toMatchObject({
      kind: "arrival",
      type: "visit finished",
      arrival: { visit: { outcome: "finished", endsAt: Date.UTC(2026, 10, 24, 12) } },
    });
  });

  test.each([
    ["visit.booked", "visit booked"],
    ["appointment.rescheduled", "visit booked"],
    ["job.completed", "visit finished"],
    ["AppointmentCancelled", "visit cancelled"],
    ["appointment.cancelled", "visit cancelled"],
    ["visit.no_show", "visit missed"],
    ["invoice.paid", "invoice paid"],
    ["order.placed", "order placed"],
    ["guest.checked_out", "stay ended"],
    ["customer.created", null],
    ["ping", null],
  ])("%s means %s", (name, wanted) => expect(eventTypeOf(name, OWN_MAPPING)).toBe(wanted));
});

test.each([
  "20161120",
  "20161120 1030",
  "Sun 20/11/2016",
  "20/11/2016 (Sun)",
  "So 20.11.2016",
  "niedziela 20.11.2016",
  "20.11.2016 r.",
  "20/11/2016 at 10:30",
  "20 nov. 2016 \u00e0 10h30",
  "20. November 2016 um 10:30",
  "20 listopada 2016",
  "20 lis 2016",
  "20Nov2016",
  "20NOV16",
  "2016 Nov 20",
  "2016-Nov-20",
  "Nov-20-2016",
  "20/XI/2016",
  "20 XI 2016",
  "2016\u5e7411\u670820\u65e5",
])("%s is the twentieth of November", (written) => {
  const read = readDate(written, "day first");
  expect(read.ok && new Date(read.local).toISOString().slice(0, 10)).toBe("2016-11-20");
  if (read.ok && /10.?30/.test(written)) expect(read.local % (24 * 3_600_000)).toBe(10.5 * 3_600_000);
});

test("a month that is a weekday elsewhere is a month", () => {
  for (const [written, day] of [
    ["Mar 20, 2016", "2016-03-20"],
    ["20 mar 2016", "2016-03-20"],
    ["mar 22 nov 2016", "2016-11-22"],
    ["mar. 22/11/2016", "2016-11-22"],
  ] as const) {
    const read = readDate(written, "day first");
    expect([written, read.ok && new Date(read.local).toISOString().slice(0, 10)]).toEqual([written, day]);
  }
});

describe("where a table begins", () => {
  const ROWS = [
    ["Odette Marsh", "o@post.example", "20/11/2016", "Check-up"],
    ["Jun Vale", "j@post.example", "21/11/2016", "Dental"],
  ];
  const HEADER = ["Name", "Email", "Date", "Service"];
  const above = (count: number) =>
    Array.from({ length: count }, (_, n) => (n % 3 === 1 ? ["Printed:", "24.11.2026"] : [`Note ${n + 1}`]));

  test.each([0, 1, 3, 11, 30, 48])("below %i lines of titles, notes and dates", (count) => {
    const table = tableOf([...above(count), HEADER, ...ROWS]);
    expect([table.headers, table.rows, table.hasHeader]).toEqual([HEADER, ROWS, true]);
  });

  test("with words nobody knows, below a title", () => {
    const table = tableOf([["Visits"], ["Wer", "Womit", "Wofür", "X"], ...ROWS]);
    expect([table.headers[0], table.rows]).toEqual(["Wer", ROWS]);
  });

  test("a list without a header keeps all of its rows", () => {
    expect(tableOf(ROWS)).toMatchObject({ hasHeader: false, rows: ROWS });
  });
});
