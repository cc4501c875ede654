import { readdirSync, readFileSync } from "node:fs";
import { setTimeout as sleep } from "node:timers/promises";
import { gunzipSync } from "node:zlib";
import { closeApart, workApart } from "@/platform/apart";
import { archive, sheetRows, workbookOf } from "../../../tests/support/archive";
import { size } from "../../../tests/support/size";
import { MOST_BYTES, type ReadyList, readListBytes, toCsv, Unreadable } from "./files";
import { readListApart } from "./reader";

/**
 * Workbooks as programs write them, and files that are made to be slow or huge: the latter cost nobody but whoever
 * brought them.
 */

const HEADER = ["Name", "Email", "Mobile"];
const person = (name: string) => [name, `${name.toLowerCase()}@post.example`, "07700 900123"];
const read = async (bytes: Uint8Array) =>
  JSON.parse(gunzipSync(await readListApart("tests", bytes)).toString()) as ReadyList;

afterAll(closeApart);

describe("workbooks", () => {
  test("sheets of one shape are one list; those of another are offered; hidden ones are left alone", async () => {
    const list = await readListBytes(
      workbookOf([
        { name: "January", rows: sheetRows([HEADER, person("Odette"), person("Jun")]) },
        {
          name: "Prices",
          rows: sheetRows([
            ["Service", "Price"],
            ["Check-up", "40"],
          ]),
        },
        { name: "February", rows: sheetRows([HEADER, person("Ines")]) },
        { name: "Old", state: "hidden", rows: sheetRows([HEADER, person("Gone")]) },
        { name: "Empty", rows: "" },
      ]),
    );
    expect(list.table.rows.map(([name]) => name)).toEqual(["Odette", "Jun", "Ines"]);
    expect(list.sheets).toEqual(["January", "February"]);
    expect(list.others?.map(({ sheet, table }) => [sheet, table.rows])).toEqual([["Prices", [["Check-up", "40"]]]]);
  });

  test("a cover in front, however long, is none of the list; the list is found below its own title", async () => {
    const cover = Array.from({ length: 40 }, (_, n) => [`Line ${n} of what this is about`]);
    const list = await readListBytes(
      workbookOf([
        { name: "Cover", rows: sheetRows(cover) },
        {
          name: "Visits",
          rows: sheetRows([["Visits of the week"], ["Printed:", "24.11.2026"], [], HEADER, person("Odette")]),
        },
      ]),
    );
    expect([list.sheets, list.table.rows]).toEqual([["Visits"], [person("Odette")]]);
  });

  test.each(["", "x", "spreadsheet"])("elements may have any prefix (%p)", async (prefix) => {
    const list = await readListBytes(
      workbookOf([{ name: "A", rows: sheetRows([HEADER, person("Odette")], prefix) }], { prefix }),
    );
    expect(list.table.rows).toEqual([person("Odette")]);
  });

  test("a directory that lies about sizes changes nothing of what is read, and hides nothing", async () => {
    const rows = sheetRows([HEADER, person("Odette")]);
    for (const claims of [0, 1, 4_000_000_000]) {
      const result = await readListBytes(workbookOf([{ name: "A", rows, claims }])).catch((error) => error);
      if (result instanceof Error) expect(result).toBeInstanceOf(Unreadable);
      else expect(result.table.rows).toEqual([person("Odette")]);
    }
  });

  test("a cell that covers several holds for each of them, and cells that say where they stand are put there", async () => {
    const rows = `<row r="1"><c r="A1" t="inlineStr"><is><t>Name</t></is></c><c r="C1" t="inlineStr"><is><t>Email</t></is></c></row>
      <row r="2"><c r="A2" t="inlineStr"><is><t>Odette</t></is></c><c r="C2" t="inlineStr"><is><t>o@post.example</t></is></c></row>
      <row r="3"><c r="C3" t="inlineStr"><is><t>p@post.example</t></is></c></row>`;
    const list = await readListBytes(
      workbookOf([{ name: "A", rows, after: '<mergeCells><mergeCell ref="A2:A3"/></mergeCells>' }]),
    );
    expect(list.table.rows.map((row) => row.filter(Boolean))).toEqual([
      ["Odette", "o@post.example"],
      ["Odette", "p@post.example"],
    ]);
  });
});

const MB = 1024 * 1024;
const filler = (length: number, text: string) => Buffer.alloc(length, text);
/** As large as a list may be; in `npm test` a fifth of that, which is still far more than a list has. */
const csv = (text: string) => new Uint8Array(filler(size(5 * MB, MOST_BYTES), text));

/** Each is small enough to be taken in, and made to cost as much as it can. */
const EVIL: [string, () => Uint8Array][] = [
  [
    "a sheet that unpacks to 500 MB while the directory says one kilobyte",
    () => archiveOf(filler(500 * MB, " "), 1024),
  ],
  ["a sheet that unpacks to 500 MB", () => archiveOf(filler(500 * MB, "<row><c><v>1</v></c></row>"))],
  [
    "texts for cells of 200 MB",
    () =>
      workbookOf([{ name: "A", rows: sheetRows([HEADER]) }], {
        shared: `<sst>${`<si><t>${"x".repeat(1000)}</t></si>`.repeat(200_000)}</sst>`,
      }),
  ],
  [
    "entities that grow",
    () =>
      workbookOf([{ name: "A", rows: sheetRows([["Name"], ["&a9;"]]) }], {
        shared: `<!DOCTYPE x [<!ENTITY a0 "ha">${Array.from({ length: 9 }, (_, n) => `<!ENTITY a${n + 1} "${`&a${n};`.repeat(10)}">`).join("")}]><sst><si><t>&a9;</t></si></sst>`,
      }),
  ],
  [
    "rows whose only cell stands in the last column",
    () =>
      workbookOf([
        {
          name: "A",
          rows: Array.from(
            { length: 50_000 },
            (_, n) => `<row r="${n + 1}"><c r="XFD${n + 1}"><v>1</v></c></row>`,
          ).join(""),
        },
      ]),
  ],
  [
    "a cell that covers the whole sheet",
    () =>
      workbookOf([
        {
          name: "A",
          rows: sheetRows(Array.from({ length: 20_000 }, () => person("Odette"))),
          after: `<mergeCells>${'<mergeCell ref="A1:XFD1048576"/>'.repeat(40_000)}</mergeCells>`,
        },
      ]),
  ],
  ["millions of empty rows", () => workbookOf([{ name: "A", rows: "<row/>".repeat(size(1_500_000, 20_000_000)) }])],
  ["fifty thousand sheets", () => workbookOf(Array.from({ length: 50_000 }, (_, n) => ({ name: `S${n}`, rows: "" })))],
  [
    "one cell of many megabytes",
    () => workbookOf([{ name: "A", rows: `<row><c t="str"><v>${"x".repeat(size(60, 250) * MB)}</v></c></row>` }]),
  ],
  ["elements inside each other", () => workbookOf([{ name: "A", rows: `${"<row>".repeat(500_000)}` }])],
  [
    "formats made for slow patterns",
    () =>
      workbookOf([{ name: "A", rows: sheetRows([HEADER, person("Odette")]) }], {
        styles: `<styleSheet><numFmts>${Array.from({ length: 20_000 }, (_, n) => `<numFmt numFmtId="${200 + n}" formatCode="${"[".repeat(250)}"/>`).join("")}</numFmts></styleSheet>`,
      }),
  ],
  [
    "an archive of three thousand parts",
    () => archive(Array.from({ length: 3000 }, (_, n) => ({ name: `xl/${n}.xml`, text: "x" }))),
  ],
  ["nothing but quotes", () => csv('"')],
  ["nothing but quotes that open and do not close", () => csv('a,"b\n')],
  ["nothing but commas", () => csv(",")],
  ["nothing but empty lines", () => csv("\n")],
  ["nothing but one letter", () => csv("x")],
  ["nothing but spaces before quotes", () => csv(' "')],
  ["nothing but what might be phone numbers", () => csv("0 7-7(0)")],
  ["nothing but short rows", () => csv("a,b,c,d\n")],
];

function archiveOf(rows: Buffer, claims?: number): Uint8Array {
  const book = (name: string, text: string | Buffer, said?: number) => ({ name, text, claims: said });
  return archive([
    book("xl/workbook.xml", '<workbook xmlns:r="r"><sheets><sheet name="A" r:id="rId1"/></sheets></workbook>'),
    book(
      "xl/_rels/workbook.xml.rels",
      '<Relationships><Relationship Id="rId1" Target="worksheets/sheet1.xml"/></Relationships>',
    ),
    book(
      "xl/worksheets/sheet1.xml",
      Buffer.concat([Buffer.from("<worksheet><sheetData>"), rows, Buffer.from("</sheetData></worksheet>")]),
      claims,
    ),
  ]);
}

/** The longest time for which this process did nothing else, in milliseconds, while `work` went on. */
async function longestPause(work: () => Promise<unknown>): Promise<number> {
  let longest = 0;
  let last = performance.now();
  const beat = setInterval(() => {
    longest = Math.max(longest, performance.now() - last);
    last = performance.now();
  }, 5);
  await work();
  longest = Math.max(longest, performance.now() - last);
  clearInterval(beat);
  return longest;
}

test("files made to be slow or huge are answered in words or read, keep this process from nothing, and the next list is read as ever", async () => {
  const good = new TextEncoder().encode(toCsv([HEADER, person("Odette")]));
  // What handing 25 MB over costs is the measure: the rest is done elsewhere.
  const harmless = new Uint8Array(Buffer.concat([Buffer.from("%PDF-"), Buffer.alloc(MOST_BYTES - 5, "x")]));
  const idle = await longestPause(() => readListApart("tests", harmless).catch(() => {}));
  const slow: string[] = [];
  for (const [name, make] of EVIL) {
    const bytes = make();
    expect(bytes.length).toBeLessThanOrEqual(MOST_BYTES);
    let result: unknown;
    const began = performance.now();
    const pause = await longestPause(async () => {
      result = await readListApart("tests", bytes).catch((error) => error);
    });
    if (result instanceof Error) expect({ name, result }).toEqual({ name, result: expect.any(Unreadable) });
    const took = performance.now() - began;
    if (took > 40_000 || pause > 10 * Math.max(idle, 20))
      slow.push(`${name}: ${Math.round(took)} ms, paused ${Math.round(pause)} ms, idle ${Math.round(idle)} ms`);
    expect((await read(good)).table.rows).toEqual([person("Odette")]);
  }
  expect(slow).toEqual([]);
}, 600_000);

/** Milliseconds that a list of a hundred people takes, read for an owner. */
async function timeOf(owner: string): Promise<number> {
  const list = new TextEncoder().encode(
    toCsv([HEADER, ...Array.from({ length: 100 }, (_, n) => person(`Odette${n}`))]),
  );
  const began = performance.now();
  const read = JSON.parse(gunzipSync(await readListApart(owner, list)).toString()) as ReadyList;
  expect(read.table.rows).toHaveLength(100);
  return performance.now() - began;
}

test("one owner's bombs keep no other's list waiting: it takes at most twice its time alone", async () => {
  const bomb = EVIL.find(([name]) => name === "millions of empty rows")?.[1]() ?? new Uint8Array();
  // Both owners' processes are there, so that starting them is not what is measured.
  await Promise.all([timeOf("rival"), timeOf("ours")]);
  const alone = Math.min(await timeOf("ours"), await timeOf("ours"), await timeOf("ours"));
  const bombs = Array.from({ length: 4 }, () => readListApart("rival", bomb).catch((error: unknown) => error));
  const beside: number[] = [];
  for (let time = 0; time < 5; time++) beside.push(await timeOf("ours"));
  // A few milliseconds are the machine's own.
  expect(Math.min(...beside)).toBeLessThan(2 * alone + 30);
  await Promise.all(bombs);
}, 120_000);

test("work that takes too long, or too much memory, ends with its process, and the next is done as ever", async () => {
  const bomb = EVIL.find(([name]) => name === "millions of empty rows")?.[1]() ?? new Uint8Array();
  await expect(workApart("slow", "list", bomb, 0.05)).rejects.toMatchObject({ why: "too slow" });
  expect(await timeOf("slow")).toBeGreaterThan(0);
  // Of one owner only so many wait.
  const many = Array.from({ length: 60 }, () =>
    workApart("many", "list", new Uint8Array(10)).catch((error) => error.why),
  );
  expect((await Promise.all(many)).filter((why) => why === "not now").length).toBeGreaterThanOrEqual(8);
  // What no process knows how to do ends it, and is told.
  await expect(workApart("odd", "no such work", null)).rejects.toMatchObject({ why: "too much memory" });
  expect(await timeOf("odd")).toBeGreaterThan(0);
}, 60_000);

/** The processes that this one has started. */
const children = () =>
  readdirSync("/proc/self/task").flatMap((task) =>
    readFileSync(`/proc/self/task/${task}/children`, "utf8").split(" ").filter(Boolean).map(Number),
  );

test("a machine that has no time for a file is not held against the file", async () => {
  closeApart();
  const before = new Set(children());
  const list = new TextEncoder().encode(toCsv([HEADER, person("Odette")]));
  const read = workApart("patient", "list", list, 5);
  const stopped = children().filter((pid) => !before.has(pid));
  expect(stopped).toHaveLength(1);
  for (const pid of stopped) process.kill(pid, "SIGSTOP");
  await sleep(6000);
  for (const pid of stopped) process.kill(pid, "SIGCONT");
  await expect(read).resolves.toHaveProperty("list");
}, 60_000);
