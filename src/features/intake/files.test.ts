import ExcelJS from "exceljs";
import fc from "fast-check";
import { type Arrival, parseArrival, type Unusable } from "@/core/intake/arrival";
import { fieldsOfRow, guessColumns } from "@/core/intake/columns";
import { settleOrder } from "@/core/intake/dates";
import { tableOf } from "@/core/intake/table";
import { remarkSentences } from "@/locales/intake";
import { runs } from "../../../tests/support/size";
import { harmless, type ReadyList, readListBytes, toCsv, Unreadable } from "./files";

/** Lists as they really come: each case is a file somebody would call normal. */

const NOW = Date.UTC(2026, 10, 24, 14, 5);
const bytes = (text: string) => new TextEncoder().encode(text);
const utf16 = (text: string, mark: boolean, big = false) => {
  const buffer = Buffer.from((mark ? "\ufeff" : "") + text, "utf16le");
  return new Uint8Array(big ? buffer.swap16() : buffer);
};

function arrivals(list: ReadyList): (Arrival | Unusable)[] {
  const matching = guessColumns(list.table);
  const dates = matching.flatMap((field, index) => (field === "visit date" ? [index] : []));
  const order = settleOrder(list.table.rows.flatMap((row) => dates.map((index) => row[index])));
  return list.table.rows.map((row) =>
    parseArrival(fieldsOfRow(row, matching), {
      country: "GB",
      zone: "Europe/London",
      now: NOW,
      order: order === "month first" ? "month first" : "day first",
      since1904: list.since1904,
      undated: "no visit",
    }),
  );
}

/** "Odette Marsh odette@post.example +447700900123 2026-11-20T10:00Z", or what is wrong. */
function say(read: Arrival | Unusable): string {
  if ("problems" in read) return `refused: ${remarkSentences(read.problems)}`;
  const { person, visit } = read;
  return [
    `${person.given} ${person.family}`.trim(),
    person.email,
    person.phone?.number,
    visit && new Date(visit.endsAt).toISOString().slice(0, 16),
  ]
    .filter(Boolean)
    .join(" ");
}

const ODETTE = "Odette Marsh odette@post.example +447700900123 2026-11-20T10:00";
const header = "Name,Email,Mobile,Date,Time";
const row = "Odette Marsh,odette@post.example,07700 900123,20/11/2026,10:00";

async function workbook(fill: (sheet: ExcelJS.Worksheet, book: ExcelJS.Workbook) => void): Promise<Uint8Array> {
  const book = new ExcelJS.Workbook();
  fill(book.addWorksheet("List"), book);
  return new Uint8Array(await book.xlsx.writeBuffer());
}

const files: [string, () => Uint8Array | Promise<Uint8Array>, string[]][] = [
  ["plain UTF-8 with commas", () => bytes(`${header}\n${row}\n`), [ODETTE]],
  ["UTF-8 with a byte order mark", () => bytes(`\ufeff${header}\n${row}`), [ODETTE]],
  ["UTF-16 with a mark, little end first", () => utf16(`${header}\n${row}`, true), [ODETTE]],
  ["UTF-16 with a mark, big end first", () => utf16(`${header}\n${row}`, true, true), [ODETTE]],
  ["UTF-16 without a mark", () => utf16(`${header}\n${row}`, false), [ODETTE]],
  [
    "Windows-1252 with accents",
    () => new Uint8Array(Buffer.from("Nom;Prénom;Courriel\nLefèvre;Zoé;zoe@post.example\n", "latin1")),
    ["Zoé Lefèvre zoe@post.example"],
  ],
  [
    "UTF-8 with accents and a Spanish header",
    () => bytes("Nombre;Apellidos;Correo electrónico;Móvil\nÍñigo;Núñez;inigo@post.example;+34 612 345 678\n"),
    ["Íñigo Núñez inigo@post.example +34612345678"],
  ],
  [
    "a German header and dates with dots",
    () =>
      bytes(
        "Vorname;Nachname;E-Mail-Adresse;Handynummer;Termin\nJürgen;Groß;juergen@post.example;+49 1512 3456789;20.11.2026 11:00\n",
      ),
    ["Jürgen Groß juergen@post.example +4915123456789 2026-11-20T11:00"],
  ],
  [
    "a Portuguese header",
    () => bytes("Nome completo\tTelemóvel\tData da visita\nInês Sá\t+351 912 345 678\t20/11/2026\n"),
    ["Inês Sá +351912345678 2026-11-20T18:00"],
  ],
  ["tabs", () => bytes(`${header}\n${row}`.replaceAll(",", "\t")), [ODETTE]],
  ["bars", () => bytes(`${header}\n${row}`.replaceAll(",", "|")), [ODETTE]],
  [
    "semicolons, with commas inside cells",
    () => bytes("Client;Email;Phone\nMarsh, Odette;odette@post.example;07700 900123\n"),
    ["Odette Marsh odette@post.example +447700900123"],
  ],
  [
    "quotes and line breaks in cells",
    () => bytes('Name,Notes,Email\n"Marsh, Odette","likes ""tea""\nand quiet",odette@post.example\n'),
    ["Odette Marsh odette@post.example"],
  ],
  [
    "mixed line ends and empty lines",
    () => bytes(`${header}\r\n\r\n${row}\r${row.replace("Odette", "Jun").replace("odette@", "jun@")}\n\n`),
    [ODETTE, ODETTE.replace("Odette", "Jun").replace("odette@", "jun@")],
  ],
  [
    "no header at all",
    () => bytes("Odette,Marsh,odette@post.example,07700 900123\nJun,Albrecht,jun@post.example,07700 900124\n"),
    ["Odette Marsh odette@post.example +447700900123", "Jun Albrecht jun@post.example +447700900124"],
  ],
  [
    "a title and an empty line above the header",
    () =>
      bytes(
        "Visits of this week,,,,\n,,,,\nName,Email,Mobile,Date,Time\nOdette Marsh,odette@post.example,07700 900123,20/11/2026,10:00\n",
      ),
    [ODETTE],
  ],
  [
    "empty and repeated headers",
    () => bytes("Name,,Email,Email\nOdette Marsh,x,odette@post.example,\nJun Albrecht,y,,jun@post.example\n"),
    ["Odette Marsh odette@post.example", "Jun Albrecht jun@post.example"],
  ],
  [
    "names in capitals, and last name first",
    () =>
      bytes(
        'Customer,E-mail\nMARSH ODETTE-ANNE,o@post.example\n"O\'NEILL, JUN",j@post.example\nmcleod,m@post.example\n',
      ),
    ["Marsh Odette-Anne o@post.example", "Jun O'Neill j@post.example", "McLeod m@post.example"],
  ],
  [
    "two emails in one cell",
    () => bytes("Name,Email\nOdette Marsh,odette@post.example; o.marsh@harbourmail.example\n"),
    ["Odette Marsh odette@post.example"],
  ],
  [
    "two numbers in one cell: the mobile is used",
    () => bytes("Name,Phone\nOdette Marsh,0113 496 0123 / 07700 900123\n"),
    ["Odette Marsh +447700900123"],
  ],
  [
    "phones as floats and with apostrophes",
    () => bytes("Name,Phone\nOdette Marsh,447700900123.0\nJun Albrecht,'07700900124\nInes Pike,4.47700900125E+11\n"),
    ["Odette Marsh +447700900123", "Jun Albrecht +447700900124", "Ines Pike +447700900125"],
  ],
  [
    "month first, settled by one date",
    () => bytes("Name,Email,Date\nOdette,o@post.example,11/05/2026 10:00\nJun,j@post.example,11/20/2026 2:30 pm\n"),
    ["Odette o@post.example 2026-11-05T10:00", "Jun j@post.example 2026-11-20T14:30"],
  ],
  [
    "two-digit years and named months",
    () => bytes("Name,Email,Date\nOdette,o@post.example,20-Nov-26\nJun,j@post.example,20 November 2026 14:30\n"),
    ["Odette o@post.example 2026-11-20T18:00", "Jun j@post.example 2026-11-20T14:30"],
  ],
  [
    "a date that names its offset",
    () => bytes("Name,Email,Date\nOdette,o@post.example,2026-11-20T10:00:00+02:00\n"),
    ["Odette o@post.example 2026-11-20T08:00"],
  ],
  [
    "day numbers of a spreadsheet",
    () => bytes("Name,Email,Date\nOdette,o@post.example,46346.4166667\n"),
    ["Odette o@post.example 2026-11-20T10:00"],
  ],
  [
    "rows shorter and longer than the header",
    () => bytes("Name,Email\nOdette Marsh\nJun Albrecht,jun@post.example,more,cells\n"),
    ["refused: No email address or phone number.", "Jun Albrecht jun@post.example"],
  ],
  [
    "zero bytes and unseen marks in cells",
    () => bytes("Name,Email\nOdette\u0000 Marsh,\u200bodette@post.example\u00a0\n"),
    ["Odette Marsh odette@post.example"],
  ],
  [
    "a workbook with dates, formulas and rich text",
    () =>
      workbook((sheet) => {
        sheet.addRow(["Name", "Email", "Mobile", "Date", "Time"]);
        sheet.addRow([
          { richText: [{ text: "Odette " }, { text: "Marsh", font: { bold: true } }] },
          { text: "odette@post.example", hyperlink: "mailto:odette@post.example" },
          447700900123,
          new Date(Date.UTC(2026, 10, 20)),
          { formula: "1/2", result: 10 / 24 },
        ]);
      }),
    [ODETTE],
  ],
  [
    "a workbook that counts days from 1904",
    () =>
      workbook((sheet, book) => {
        book.properties.date1904 = true;
        sheet.addRow(["Name", "Email", "Mobile", "Date"]);
        sheet.addRow(["Odette Marsh", "odette@post.example", "07700 900123", new Date(Date.UTC(2026, 10, 20, 10))]);
      }),
    [ODETTE],
  ],
  [
    "a workbook with merged cells and a merged title",
    () =>
      workbook((sheet) => {
        sheet.addRow(["Visits", "", "", ""]);
        sheet.mergeCells("A1:D1");
        sheet.addRow(["Name", "Email", "Mobile", "Date"]);
        sheet.addRow(["Odette Marsh", "odette@post.example", "07700 900123", new Date(Date.UTC(2026, 10, 20, 10))]);
        sheet.addRow(["Jun Marsh", "jun@post.example", "", ""]);
        sheet.mergeCells("D3:D4");
      }),
    [ODETTE, "Jun Marsh jun@post.example 2026-11-20T10:00"],
  ],
  [
    "a workbook whose list is on the second sheet",
    () =>
      workbook((sheet, book) => {
        sheet.addRow(["Read me"]);
        const second = book.addWorksheet("November");
        second.addRow(["Name", "Email"]);
        second.addRow(["Odette Marsh", "odette@post.example"]);
        second.addRow(["Jun Albrecht", "jun@post.example"]);
      }),
    ["Odette Marsh odette@post.example", "Jun Albrecht jun@post.example"],
  ],
];

test.each(files)("%s", async (_name, make, wanted) => {
  expect(arrivals(await readListBytes(await make())).map(say)).toEqual(wanted);
});

test.each([
  ["nothing", bytes(""), "empty"],
  ["a header alone", bytes("Name,Email\n"), "no rows"],
  ["a workbook of the old kind", new Uint8Array([0xd0, 0xcf, 0x11, 0xe0, 1, 2, 3, 4]), "old workbook"],
  ["a PDF", bytes("%PDF-1.7 and so on"), "PDF"],
  ["a damaged workbook", new Uint8Array([0x50, 0x4b, 3, 4, 1, 2, 3, 4, 5]), "damaged"],
  ["a picture", new Uint8Array(Array.from({ length: 4000 }, (_, index) => (index * 7) % 32)), "not text"],
])("%s is refused with what to do", async (_name, file, words) => {
  await expect(readListBytes(file)).rejects.toThrow(Unreadable);
  await expect(readListBytes(file)).rejects.toThrow(words);
});

test("ten megabytes are read whole", async () => {
  const line =
    "Odette Marsh,odette@post.example,07700 900123,20/11/2026,10:00,a note that is long enough to fill a line of a hundred letters\n";
  const count = Math.ceil((10 * 1024 * 1024) / line.length);
  const list = await readListBytes(bytes(`${header},Notes\n${line.repeat(count)}`));
  expect(list.table.rows.length).toBe(count);
});

test("whatever the bytes, reading never fails in any other way than by saying why, and loses no row", async () => {
  const cell = fc.oneof(
    fc.string({ maxLength: 12 }),
    fc.constantFrom(
      "odette@post.example",
      "07700 900123",
      "20/11/2026",
      "MARSH, Odette",
      '"',
      ";",
      "\n",
      "=1+1",
      "",
      "  ",
    ),
  );
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.array(cell, { maxLength: 6 }), { maxLength: 12 }),
      fc.constantFrom(",", ";", "\t", "|"),
      fc.boolean(),
      async (rows, delimiter, quoted) => {
        const text = rows
          .map((line) => line.map((each) => (quoted ? `"${each.replaceAll('"', '""')}"` : each)).join(delimiter))
          .join("\n");
        try {
          const list = await readListBytes(bytes(text));
          const read = arrivals(list);
          expect(read.length).toBe(list.table.rows.length);
          for (const each of read) if ("problems" in each) expect(each.problems.length).toBeGreaterThan(0);
          for (const line of list.table.rows) expect(line.length).toBeLessThanOrEqual(list.table.headers.length);
        } catch (error) {
          expect(error).toBeInstanceOf(Unreadable);
        }
      },
    ),
    { numRuns: runs(400), seed: 24 },
  );
  await fc.assert(
    fc.asyncProperty(fc.uint8Array({ maxLength: 400 }), async (raw) => {
      await readListBytes(raw).catch((error: unknown) => expect(error).toBeInstanceOf(Unreadable));
    }),
    { numRuns: runs(300), seed: 25 },
  );
});

test("every filled cell of a quoted list comes back as it was, and every filled row counts", () => {
  fc.assert(
    fc.property(
      fc.array(fc.array(fc.string({ maxLength: 8 }), { minLength: 2, maxLength: 5 }), { minLength: 1, maxLength: 10 }),
      (rows) => {
        const table = tableOf([["Name", "Email", "A", "B", "C"], ...rows]);
        const filled = rows.filter((line) => line.some((each) => each.replaceAll("\u0000", "").trim() !== ""));
        expect(table.rows.length).toBe(filled.length);
      },
    ),
    { numRuns: runs(200), seed: 26 },
  );
});

test("exported cells never run as formulas, and phones stay phones", () => {
  expect(["=1+1", "@sum", "+447700900123", "-5", "+cmd", "plain", "\tx"].map(harmless)).toEqual([
    "'=1+1",
    "'@sum",
    "+447700900123",
    "-5",
    "'+cmd",
    "plain",
    "'\tx",
  ]);
  expect(toCsv([["a,b", 'say "x"', "two\nlines"]])).toBe('\ufeff"a,b","say ""x""","two\nlines"\r\n');
});
