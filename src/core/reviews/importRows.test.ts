import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { guessReviewColumns, readRating, readReviewRows, scaleOf, withHeader } from "./importRows";

/** Reviews out of files that other programs write. */

const NOW = Date.UTC(2026, 10, 24, 14, 5);
const IT = { zone: "Europe/London", now: NOW };
const table = (headers: string[], ...rows: string[][]) => ({ headers, rows, hasHeader: true });

test.each([
  ["4", 4, null],
  ["4/5", 4, 5],
  ["8,3/10", 8.3, 10],
  ["9 out of 10", 9, 10],
  ["★★★☆☆", 3, 5],
  ["5 stars", 5, null],
  ["Recommended", 1, "recommend"],
  ["does not recommend", 0, "recommend"],
  ["Sí", 1, "recommend"],
] as const)("the rating %s", (text, value, of) => {
  expect(readRating(text)).toEqual({ value, of });
});
test.each(["", "11", "6/5", "good", "-3", "4 of 7", "24/11/2026", "4.5.6"])("%s is no rating", (text) => {
  expect(readRating(text)).toBeNull();
});

test.each([
  [["1", "5", "4"], "five"],
  [["1", "9"], "ten"],
  [["4/10"], "ten"],
  [["yes", "no"], "recommend"],
  [[], "five"],
] as const)("%j counts as %s", (ratings, scale) => {
  expect(scaleOf(ratings)).toBe(scale);
});

test.each([
  [
    ["Reviewer", "Stars", "Comment", "Date"],
    ["author", "rating", "words", "date"],
  ],
  [
    ["created_at", "customer-name", "score", "review text", "Owner response"],
    ["date", "author", "rating", "words", "reply"],
  ],
  [
    ["Fecha", "Nombre", "Puntuación", "Comentario"],
    ["date", "author", "rating", "words"],
  ],
  [
    ["Name", "Name", "Bewertung", "Text", "Datum"],
    ["author", null, "rating", "words", "date"],
  ],
])("columns by their heads: %j", (headers, expected) => {
  const row = headers.map(() => "");
  expect(guessReviewColumns(table(headers, row))).toEqual(expected);
});

test("columns by what stands in them, and a header that was taken for a row", () => {
  const rows = [
    ["12/11/2026", "Odette Marsh", "4", "Lovely, and seen on time by the whole team."],
    ["13/11/2026", "Jun A.", "2", "We waited an hour and nobody said why."],
  ];
  const bare = { headers: ["Column 1", "Column 2", "Column 3", "Column 4"], rows, hasHeader: false };
  expect(guessReviewColumns(bare)).toEqual(["date", "author", "rating", "words"]);
  const hidden = withHeader({ ...bare, rows: [["When", "Who", "Stars", "Text"], ...rows] });
  expect([hidden.headers, hidden.rows.length]).toEqual([["When", "Who", "Stars", "Text"], 2]);
  expect(withHeader(bare)).toBe(bare);
});

test("rows become reviews in the branch's own time; what cannot be read is told with its line", () => {
  const found = readReviewRows(
    table(
      ["Name", "Stars", "Text", "Date", "Reply"],
      ["Odette M.", "5", "Lovely.", "13/07/2026 09:30", "Thank you."],
      ["", "2", "", "24/11/2026", ""],
      ["Jun", "many", "?", "24/11/2026", ""],
      ["Jun", "3", "?", "sometime", ""],
      ["Jun", "3", "?", "24/12/2026", ""],
      ["", "", "", "", ""],
    ),
    ["author", "rating", "words", "date", "reply"],
    IT,
  );
  expect(found.scale).toBe("five");
  expect(found.reviews).toEqual([
    {
      ok: true,
      author: "Odette M.",
      value: 5,
      rating: 5,
      words: "Lovely.",
      writtenAt: Date.UTC(2026, 6, 13, 8, 30),
      reply: "Thank you.",
    },
    {
      ok: true,
      author: "Someone",
      value: 2,
      rating: 2,
      words: "",
      writtenAt: Date.UTC(2026, 10, 24, 12),
      reply: null,
    },
  ]);
  expect(found.wrong.map(({ line, problem }) => `${line} ${problem}`)).toEqual([
    "3 no rating",
    "4 no date",
    "5 in the future",
    "6 empty",
  ]);
});

test("ten points with some of five are brought to one scale", () => {
  const { scale, reviews } = readReviewRows(table(["Score"], ["8.5"], ["4/5"]), ["rating"], IT);
  expect([scale, reviews.map(({ value }) => value)]).toEqual(["ten", [8.5, 8]]);
});

test("whatever stands in a file, every row is one thing or the other, and nothing throws", () => {
  const cell = fc.oneof(fc.string(), fc.constantFrom("4", "★★", "yes", "24/11/2026", "2026-11-24T10:00Z", "99999"));
  fc.assert(
    fc.property(fc.array(fc.array(cell, { maxLength: 6 }), { maxLength: 20 }), (rows) => {
      const bare = withHeader({ headers: ["a", "b", "c", "d"], rows, hasHeader: false });
      const found = readReviewRows(bare, guessReviewColumns(bare), IT);
      expect(found.reviews.length + found.wrong.length).toBe(bare.rows.length);
      for (const { rating, writtenAt } of found.reviews) {
        expect([1, 2, 3, 4, 5]).toContain(rating);
        expect(writtenAt).toBeLessThanOrEqual(NOW);
      }
    }),
    { numRuns: runs(1000) },
  );
});
