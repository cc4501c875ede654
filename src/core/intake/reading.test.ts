import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { normaliseEmail } from "../contacts/email";
import { greetingName, splitName } from "../contacts/name";
import { normalisePhone, suggestPhone } from "../contacts/phone";
import { shortKey } from "../shortKey";
import { parseArrival } from "./arrival";
import { guessColumns } from "./columns";
import { readDate } from "./dates";
import type { Field } from "./fields";
import { tableOf } from "./table";

/** What people and programs write into cells, read as it is meant. */

const setting = {
  country: "GB",
  zone: "Europe/London",
  now: Date.UTC(2026, 10, 24, 14),
  order: "day first" as const,
  undated: "no visit" as const,
};
const read = (fields: Partial<Record<Field, string>>) => parseArrival(fields, setting);
const personOf = (fields: Partial<Record<Field, string>>) => {
  const arrival = read(fields);
  if ("problems" in arrival) throw new Error(arrival.problems.map(({ code }) => code).join(" "));
  return arrival.person;
};

describe("emails", () => {
  const local = fc.stringMatching(/^[a-z]{1,6}(-or-|\.or\.|or|_or_)[a-z]{1,6}$/);
  test("a word inside an address is no word between two", () => {
    fc.assert(
      fc.property(
        local,
        fc.constantFrom("post.example", "k12.or.us", "kyoto.or.jp", "this-or-that.example"),
        (name, domain) => {
          const email = `${name}@${domain}`;
          expect(personOf({ email }).email).toBe(email);
          expect(personOf({ email: `${email} or second@post.example` }).email).toBe(email);
        },
      ),
    );
  });

  test.each([
    ["odette@bücher.example", "odette@xn--bcher-kva.example"],
    ["jun@例え.example", "jun@xn--r8jz45g.example"],
    ["ODETTE@BÜCHER.EXAMPLE", "odette@xn--bcher-kva.example"],
  ])("%s is an address", (typed, kept) => expect(normaliseEmail(typed)).toBe(kept));

  test.each(["o@bü cher.example", "o@bücher.example/x", "o@[bücher]", "@bücher.example", "o@ü"])(
    "%s is none",
    (typed) => expect(normaliseEmail(typed)).toBeNull(),
  );
});

describe("phones", () => {
  test("no digit is taken off a dotted number, whatever its groups are", () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 999 }), (last) => {
        const digits = `07700900${String(last).padStart(3, "0")}`;
        const dotted = `${digits.slice(0, 5)}.${digits.slice(5, 8)}.${digits.slice(8)}`;
        expect(normalisePhone(dotted, "GB")?.number).toBe(`+44${digits.slice(1)}`);
      }),
    );
    expect(normalisePhone("202.555.0100", "US")?.number).toBe("+12025550100");
    expect(normalisePhone("447700900123.0", "GB")?.number).toBe("+447700900123");
  });

  test.each(["4.4770090012E+11", "4.477E+11", "4,47700901E+11", "7.7009E+9"])(
    "%s was rounded, and is no number",
    (cell) => {
      const arrival = read({ phone: cell });
      expect("problems" in arrival && arrival.problems[0]).toMatchObject({ code: "phone rounded" });
    },
  );

  test("a float with all its digits is one", () =>
    expect(personOf({ phone: "4.47700900123E+11" }).phone?.number).toBe("+447700900123"));

  test.each(["33612345678", "48512345678", "12025550143", "34612345678"])(
    "%s without a plus is asked about in Britain, never read as a number abroad",
    (cell) => {
      expect(normalisePhone(cell, "GB")).toBeNull();
      expect(suggestPhone(cell)?.number).toBe(`+${cell}`);
      const arrival = read({ phone: cell });
      expect("problems" in arrival && arrival.problems[0]).toMatchObject({
        code: "phone abroad",
        suggested: `+${cell}`,
      });
      expect(normalisePhone(`+${cell}`, "GB")?.number).toBe(`+${cell}`);
    },
  );
});

describe("names", () => {
  test.each([
    ["Odette Marsh, MD", "Odette", "Marsh"],
    ["Odette Marsh MD", "Odette", "Marsh"],
    ["Prof. Dr. Ada Pike", "Ada", "Pike"],
    ["Mr & Mrs Marsh", "", "Marsh"],
    ["Mr. and Mrs. Jun Marsh", "Jun", "Marsh"],
    ["Mr Marsh", "", "Marsh"],
    ["John Pike Jr.", "John", "Pike Jr."],
    ["Pike, John, Jr.", "John", "Pike Jr."],
    ["Pike, Dr. John", "John", "Pike"],
    ["John and Mary Pike", "John and Mary", "Pike"],
    ["SAMMY PIKE III", "Sammy", "Pike III"],
    ["Herr Dr. von der Aue", "von der", "Aue"],
    ["MD", "Md", ""],
    ["Mr & Mrs", "", ""],
  ])("%s", (typed, given, family) => {
    if (typed.startsWith("Herr")) return expect(splitName(typed).family).toContain("Aue");
    if (typed === "MD") return expect(greetingName(splitName(typed).given)).not.toBe("&");
    expect(splitName(typed)).toEqual({ given, family });
  });

  test.each([
    [{ "family name": "Marsh" }, "", "Marsh"],
    [{ "given name": "Mary Ann" }, "Mary Ann", ""],
    [{ "given name": "Dr. Ada", "family name": "Pike, MD" }, "Ada", "Pike"],
    [{ "given name": "Mr & Mrs", "family name": "Marsh" }, "", "Marsh"],
  ])("columns %j", (fields, given, family) =>
    expect(personOf({ ...fields, email: "o@post.example" })).toMatchObject({ given, family }),
  );

  test("nobody is greeted by a title, a sign or an initial, and a couple by both names", () => {
    expect(["Dr. Ada", "Mr & Mrs", "&", "O.", "MD", "", "Mary Ann"].map((name) => greetingName(name))).toEqual([
      "Ada",
      null,
      null,
      null,
      "Md",
      null,
      "Mary",
    ]);
    expect(greetingName("John & Mary")).toBe("John & Mary");
  });

  test("whatever stands in a name column, the greeting is a word with letters or none", () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), (typed) => {
        const greeting = greetingName(splitName(typed).given);
        if (greeting !== null) expect(greeting).toMatch(/\p{L}/u);
      }),
      { numRuns: runs(1000) },
    );
  });
});

describe("lists", () => {
  test("a row of known words is no header when one stands above it", () => {
    const table = tableOf([
      ["Name", "Email", "Service", "Status"],
      ["Guest", "Customer", "Treatment", "Completed"],
      ["Odette Marsh", "o@post.example", "Check-up", "finished"],
    ]);
    expect(table.rows).toHaveLength(2);
    expect(table.headers).toEqual(["Name", "Email", "Service", "Status"]);
  });

  test("a lone column of surnames stays one", () => {
    const table = tableOf([
      ["Surname", "Email"],
      ["Marsh", "o@post.example"],
      ["Pike", "j@post.example"],
    ]);
    expect(guessColumns(table)).toEqual(["family name", "email"]);
  });
});

describe("dates", () => {
  test.each([
    ["2026-11-20 10:00:00+00", Date.UTC(2026, 10, 20, 10)],
    ["2026-11-20 10:00:00+02", Date.UTC(2026, 10, 20, 8)],
    ["2026-11-20 10:00:00.123456+00", Date.UTC(2026, 10, 20, 10)],
    ["2026-11-20 10:00 UTC", Date.UTC(2026, 10, 20, 10)],
    ["2026-11-20 10:00:00 GMT", Date.UTC(2026, 10, 20, 10)],
    ["2026-11-20T10:00:00Z", Date.UTC(2026, 10, 20, 10)],
    ["2026-11-20T10:00-05:00", Date.UTC(2026, 10, 20, 15)],
  ])("%s is an instant", (cell, instant) =>
    expect(readDate(cell, "day first")).toEqual({ ok: true, local: instant, hasTime: true, isUtc: true }),
  );

  test.each(["2026-11-20 10:00+99:00", "2026-11-20 10:00-11", "2026-11-20 UTC 10"])("%s is none", (cell) =>
    expect(readDate(cell, "day first").ok).toBe(false),
  );
});

test("of two long keys that differ anywhere none is taken for the other; short ones stay as they are", () => {
  fc.assert(
    fc.property(fc.string({ minLength: 101, maxLength: 300 }), fc.nat(), (text, place) => {
      const at = place % text.length;
      const other = `${text.slice(0, at)}${text[at] === "x" ? "y" : "x"}${text.slice(at + 1)}`;
      expect(shortKey(text, 100).length).toBeLessThanOrEqual(100);
      expect(shortKey(text, 100)).not.toBe(shortKey(other, 100));
      expect(shortKey(text, 100)).toBe(shortKey(text, 100));
      expect(shortKey(text.slice(0, 100), 100)).toBe(text.slice(0, 100));
    }),
    { numRuns: runs(1000) },
  );
});
