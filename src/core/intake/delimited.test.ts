import fc from "fast-check";
import { runs } from "../../../tests/support/size";
import { decodeText } from "./decode";
import { readDelimited, TooMuch } from "./delimited";
import { parseDelimited, TABLE_BOUNDS, tableOf } from "./table";

const read = (text: string, delimiter = ",") => readDelimited(text, delimiter, TABLE_BOUNDS).cells;

/** A second, simpler reader: a line is a row, whatever stands in it. */
const linesOf = (text: string) => text.split("\n").filter((line) => line.replace(/[,;|\t\s]/g, "") !== "").length;

describe("no row vanishes", () => {
  test.each([
    ['12" pipe', ['12" pipe']],
    ['"big" dog', ['"big" dog']],
    ['"Buddy" Marsh', ['"Buddy" Marsh']],
    ['"never closed', ['"never closed']],
    ['"a" "b"', ['"a" "b"']],
    ["5'11\"", ["5'11\""]],
    ['"said ""hello"" twice"', ['said "hello" twice']],
    ['"Marsh, Odette"', ["Marsh, Odette"]],
    ['="A One"', ["A One"]],
    [' "spaced" ', ["spaced"]],
    ['""', [""]],
    ['"', ['"']],
    ['"""', ['"""']],
  ])("%s", (cell, wanted) => {
    for (const delimiter of [",", ";", "\t", "|"]) {
      if (cell.includes(delimiter)) continue;
      const text = `${["Name", "Pet", "Email"].join(delimiter)}\n${["Odette", cell, "o@post.example"].join(delimiter)}\n${["Jun", "Pip", "j@post.example"].join(delimiter)}`;
      const rows = read(text, delimiter);
      expect(rows).toHaveLength(3);
      expect(rows[1][1].replace(/^ | $/g, "")).toBe(wanted[0]);
      expect(rows[2]).toEqual(["Jun", "Pip", "j@post.example"]);
    }
  });

  const wild = fc.stringMatching(/^[a-z"' =]{0,8}$/);

  test("whatever quotes stand in one-line cells, each line is one row, in every kind of delimited text", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(",", ";", "\t", "|"),
        fc.array(fc.tuple(wild, wild), { minLength: 1, maxLength: 12 }),
        (delimiter, cells) => {
          const text = [
            `Name${delimiter}Pet${delimiter}Email`,
            ...cells.map(([a, b], n) => `n${n}${a}${delimiter}${b}${delimiter}p${n}@post.example`),
          ].join("\n");
          const table = tableOf(parseDelimited(text).cells);
          expect(table.rows.length).toBe(linesOf(text) - 1);
          expect(table.rows.map((row) => row.at(-1))).toEqual(cells.map((_, n) => `p${n}@post.example`));
        },
      ),
      { numRuns: runs(600) },
    );
  });

  test("what a program quotes by the book comes back as it was, line breaks and all", () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(fc.string({ maxLength: 8 }), { minLength: 3, maxLength: 3 }), { minLength: 1, maxLength: 8 }),
        (rows) => {
          const plain = rows.map((row) => row.map((cell) => cell.replace(/\r/g, "")));
          const text = plain.map((row) => row.map((cell) => `"${cell.replaceAll('"', '""')}"`).join(",")).join("\n");
          expect(read(text)).toEqual(plain);
        },
      ),
      { numRuns: runs(500) },
    );
  });

  test("a quote that opens in one row and closes in another by chance swallows neither", () => {
    const text =
      'Name,Pet,Email\nOdette,"12 inch pipe,o@post.example\nJun,5 inch",j@post.example\nPip,x,p@post.example';
    expect(read(text).length).toBe(4);
    const dates = 'Name,Pet,Date\nOdette,"12 inch,3/11/2026\nJun,5 inch",4/11/2026\nPip,x,5/11/2026';
    expect(read(dates).length).toBe(4);
  });

  test("a quoted cell over several lines is one cell, however many delimiters its lines hold", () => {
    fc.assert(
      fc.property(
        fc.constantFrom(",", ";", "\t", "|"),
        fc.nat(3),
        fc.array(fc.array(fc.stringMatching(/^[a-z0-9 ,;|.@"'-]{0,24}$/), { minLength: 1, maxLength: 4 }), {
          minLength: 1,
          maxLength: 10,
        }),
        fc.boolean(),
        (delimiter, place, notes, quotesAll) => {
          const quoted = (cell: string) =>
            quotesAll || /[\n",;|\t]/.test(cell) ? `"${cell.replaceAll('"', '""')}"` : cell;
          const rows = notes.map((lines, n) => {
            const row = [`Odette ${n}`, `p${n}@post.example`, `07700 90${1000 + n}`];
            row.splice(place, 0, lines.join("\n"));
            return row;
          });
          const header = ["Name", "Email", "Phone"];
          header.splice(place, 0, "Notes");
          const written = [header, ...rows].map((row) => row.map(quoted).join(delimiter)).join("\n");
          // By chance a note may hold what looks like a row's own address in a row's own place; that is for people.
          const looksLikeRows = notes.some((lines) =>
            lines.some((line) => /@[^@]*\./.test(line) || /\d{5}/.test(line)),
          );
          fc.pre(!looksLikeRows);
          expect(read(written, delimiter)).toEqual([header, ...rows]);
        },
      ),
      { numRuns: runs(1500) },
    );
  });
});

describe("work stays linear: two million signs of any kind are read at all, which they would not be if it were quadratic", () => {
  test.each([
    ["quotes only", (n: number) => '"'.repeat(n)],
    ["an opening quote on every line", (n: number) => '"a\n'.repeat(n / 3)],
    ["quoted cells without any delimiter", (n: number) => '"a"\n'.repeat(n / 4)],
    ["quotes that close and go on", (n: number) => '"a"b,'.repeat(n / 5)],
    ["doubled quotes on every line", (n: number) => 'x,""\n'.repeat(n / 5)],
    ["equal headers", (n: number) => `${"name,".repeat(Math.min(290, n / 5))}\n${"a,".repeat(n / 3)}`],
    ["columns without end", (n: number) => ",a".repeat(n / 2)],
    [
      "a wide header over short rows",
      (n: number) => `${Array.from({ length: 290 }, (_, i) => `c${i}`).join(",")}\n${"a\n".repeat(n / 2)}`,
    ],
    ["one long cell of signs", (n: number) => `Name,Email\nOdette,${"@".repeat(n)}`],
    ["tiny rows", (n: number) => "a\n".repeat(n / 2)],
    ["spaces", (n: number) => " ".repeat(n)],
  ])("%s", (_name, make) => {
    try {
      expect(tableOf(parseDelimited(make(2_000_000)).cells).headers.length).toBeLessThanOrEqual(TABLE_BOUNDS.columns);
    } catch (error) {
      expect(error).toBeInstanceOf(TooMuch);
    }
  });
});

describe("encodings", () => {
  test("Windows-1252 keeps its own letters", () => {
    const bytes = new Uint8Array([
      0x4f, 0x92, 0x4e, 0x65, 0x69, 0x6c, 0x6c, 0x20, 0x80, 0x35, 0x20, 0x8a, 0x9a, 0x9f, 0xe9,
    ]);
    expect(decodeText(bytes)).toMatchObject({ text: "O’Neill €5 ŠšŸé", encoding: "Windows-1252" });
  });

  test("one broken byte costs that letter alone", () => {
    fc.assert(
      fc.property(fc.nat(30), fc.integer({ min: 0x80, max: 0xff }), (place, byte) => {
        const before = "Zoé Lefèvre;Íñigo Núñez;Žofie;";
        const good = Buffer.from(before);
        const at = Math.min(place, good.length);
        // Between two letters, so that the rest is whole.
        const cut = Buffer.from(
          good
            .subarray(0, at)
            .toString("utf8")
            .replace(/\ufffd/g, ""),
        );
        const rest = Buffer.from(before.slice(cut.toString("utf8").length));
        const { text, encoding } = decodeText(
          new Uint8Array(Buffer.concat([cut, Buffer.from([byte]), Buffer.from(";"), rest])),
        );
        expect(encoding).toBe("UTF-8");
        expect(text.replace(/[^;]?;/, "")).toBeDefined();
        for (const name of ["Lefèvre", "Núñez"]) if (rest.toString("utf8").includes(name)) expect(text).toContain(name);
      }),
    );
  });
});
