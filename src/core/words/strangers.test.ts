import fc from "fast-check";
import { headerLine, strangersName, strangersWords } from "./strangers";

test.each([
  ["Odette Marsh", "Odette Marsh"],
  ["J.Smith", "J.Smith"],
  ["St. John O’Neill-Vane", "St. John O’Neill-Vane"],
  ["Dr. med. Jun Pike", "Dr. med. Jun Pike"],
  ["Ana María Núñez", "Ana María Núñez"],
  ["Łucja Żółw", "Łucja Żółw"],
  ["明 K.", "明 K."],
  ["Odette \u202Eevil\u202C", "Odette evil"],
  ["Odette\u200B\u2066 Marsh\u2069", "Odette Marsh"],
  ["https://evil.example/pay", ""],
  ["Maud www.evil.example/x", "Maud"],
  ["win at prize.com now", "win at now"],
  ["security@paybank.example", ""],
  ["Eve <eve@x.example>", "Eve <>"],
  ["javascript:alert(1)", ""],
  ["192.168.0.1/login", ""],
  ["Odette\r\nBcc: eve@x.example", "Odette Bcc:"],
])("the name %j becomes %j", (typed, kept) => expect(strangersName(typed)).toBe(kept));

test("words keep their lines, and lose what would be a link", () => {
  expect(strangersWords("Late again.\nSee evil.com/x or write to me@x.example\u202E!")).toBe(
    "Late again.\nSee […] or write to […]",
  );
  expect(strangersWords("It cost 12.50 at 9.30. Mr.Hale was kind.")).toBe("It cost 12.50 at 9.30. Mr.Hale was kind.");
});

test("whatever is typed: no direction, no second line, no address is left", () => {
  const piece = fc.oneof(
    fc.string({ unit: "grapheme", maxLength: 8 }),
    fc.constantFrom(
      "\u202E",
      "\u2067",
      "\u200F",
      "\r\n",
      "\u0000",
      "https://a.example/b",
      "eve@x.example",
      "www.b.com",
      " ",
    ),
  );
  fc.assert(
    fc.property(fc.array(piece, { maxLength: 8 }), (pieces) => {
      const typed = pieces.join("");
      for (const line of [strangersName(typed), headerLine(typed)]) {
        expect(line).not.toMatch(/[\r\n\u200E\u200F\u202A-\u202E\u2066-\u2069]/);
        expect(line).toBe(line.trim());
      }
      expect(strangersName(typed)).not.toMatch(/:\/\/[^\s]|www\.[^\s]/);
    }),
  );
});
