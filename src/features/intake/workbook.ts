import { SaxesParser } from "saxes";
import { type Entry, fromBuffer, type ZipFile } from "yauzl";
import { TooMuch } from "@/core/intake/delimited";
import type { FileProblem } from "@/core/intake/fileProblems";
import { TABLE_BOUNDS } from "@/core/intake/table";

/**
 * Workbooks (ECMA-376, SpreadsheetML) to rows of cells. Parts are unpacked and read piece by piece, and what is really
 * unpacked is counted, whatever the archive's directory says. Namespaces may have any prefix. Dates come out as ISO
 * wall time.
 */

export type Workbook = { sheets: { name: string; cells: string[][] }[]; since1904: boolean };

/** What one workbook may unpack to, all parts together. */
const MOST_UNPACKED = 300 * 1024 * 1024;
const MOST_SHARED = 64 * 1024 * 1024;
/** A workbook has a few sheets; each sheet that a program writes has 1,048,576 rows at most. */
const MOST_SHEETS = 500;
const MOST_ROWS_READ = 1_100_000;
/** The longest text of a cell is 32,767 letters (ECMA-376). */
const MOST_CELL = 40_000;
const DAMAGED: FileProblem = { code: "damaged workbook" };
const TOO_LARGE: FileProblem = { code: "unpacks too large" };

/** A workbook that is not read. */
class Refusal extends Error {
  constructor(readonly problem: FileProblem) {
    super(problem.code);
  }
}

/** Reads the visible sheets, or says why it cannot. Throws `TooMuch`. */
export async function readWorkbook(bytes: Uint8Array): Promise<Workbook | { problem: FileProblem }> {
  try {
    return await new Reader(await openZip(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength))).read();
  } catch (error) {
    if (error instanceof TooMuch) throw error;
    return { problem: error instanceof Refusal ? error.problem : DAMAGED };
  }
}

type Archive = { zip: ZipFile; entries: Map<string, Entry> };

function openZip(buffer: Buffer): Promise<Archive> {
  return new Promise((done, fail) => {
    fromBuffer(buffer, { lazyEntries: true }, (error, zip) => {
      if (error) return fail(error);
      const entries = new Map<string, Entry>();
      zip.on("entry", (entry: Entry) => {
        entries.set(entry.fileName.replace(/^\//, "").toLowerCase(), entry);
        if (entries.size > 2000) fail(new Refusal(TOO_LARGE));
        else zip.readEntry();
      });
      zip.on("end", () => done({ zip, entries }));
      zip.on("error", fail);
      zip.readEntry();
    });
  });
}

type Handlers = {
  open?: (name: string, attributes: Record<string, string>) => void;
  close?: (name: string) => void;
  text?: (text: string) => void;
};

class Reader {
  private unpacked = 0;
  private count = 0;
  private rows = 0;

  constructor(private readonly archive: Archive) {}

  async read(): Promise<Workbook> {
    const targets = await this.relations("xl/_rels/workbook.xml.rels");
    const listed: { name: string; id: string; hidden: boolean }[] = [];
    let since1904 = false;
    await this.parse("xl/workbook.xml", {
      open: (name, attributes) => {
        if (name === "sheet" && listed.length >= MOST_SHEETS) throw new Refusal(TOO_LARGE);
        if (name === "sheet")
          listed.push({
            name: attributes.name ?? "",
            id: attributes.id ?? "",
            hidden: (attributes.state ?? "visible") !== "visible",
          });
        if (name === "workbookPr") since1904 = attributes.date1904 === "1" || attributes.date1904 === "true";
      },
    });
    const shown = listed.length === 1 ? listed : listed.filter(({ hidden }) => !hidden);
    if (shown.length === 0) throw new Refusal({ code: "no filled sheet" });
    const shared = await this.sharedTexts();
    const isDate = await this.dateStyles();
    const sheets: Workbook["sheets"] = [];
    for (const { name, id } of shown) {
      const part = targets.get(id);
      if (part && this.archive.entries.has(part))
        sheets.push({ name, cells: await this.sheet(part, shared, isDate, since1904) });
    }
    return { sheets, since1904 };
  }

  /** Where each relation of the workbook leads, as names of parts. */
  private async relations(part: string): Promise<Map<string, string>> {
    const targets = new Map<string, string>();
    await this.parse(part, {
      open: (name, { id, target }) => {
        if (name !== "relationship" || !id || !target) return;
        targets.set(id, (target.startsWith("/") ? target.slice(1) : `xl/${target}`).toLowerCase());
      },
    });
    return targets;
  }

  private async sharedTexts(): Promise<string[]> {
    const texts: string[] = [];
    let size = 0;
    let current: string[] | null = null;
    let isText = false;
    let inPhonetic = 0;
    if (!this.archive.entries.has("xl/sharedstrings.xml")) return texts;
    await this.parse("xl/sharedstrings.xml", {
      open: (name) => {
        if (name === "si") current = [];
        if (name === "rph") inPhonetic += 1;
        isText = name === "t" && inPhonetic === 0;
      },
      text: (text) => {
        if (!isText || !current) return;
        size += text.length;
        if (size > MOST_SHARED) throw new Refusal(TOO_LARGE);
        current.push(text);
      },
      close: (name) => {
        if (name === "rph") inPhonetic -= 1;
        if (name === "t") isText = false;
        if (name === "si" && current) texts.push(current.join(""));
      },
    });
    return texts;
  }

  /** Which cell styles show dates or times. */
  private async dateStyles(): Promise<boolean[]> {
    const formats = new Map<number, string>();
    const styles: boolean[] = [];
    let inCells = false;
    if (!this.archive.entries.has("xl/styles.xml")) return styles;
    await this.parse("xl/styles.xml", {
      open: (name, attributes) => {
        if (name === "numFmt") formats.set(Number(attributes.numfmtid), attributes.formatcode ?? "");
        if (name === "cellXfs") inCells = true;
        if (name === "xf" && inCells) styles.push(isDateFormat(Number(attributes.numfmtid ?? 0), formats));
      },
      close: (name) => {
        if (name === "cellXfs") inCells = false;
      },
    });
    return styles;
  }

  private async sheet(
    part: string,
    shared: readonly string[],
    isDate: readonly boolean[],
    since1904: boolean,
  ): Promise<string[][]> {
    const rows: string[][] = [];
    /** Where each kept row stands in the sheet. */
    const places = new Map<number, string[]>();
    const merged: string[] = [];
    let row: string[] = [];
    let place = 0;
    let column = 0;
    let type = "";
    let style = 0;
    let value: string[] | null = null;
    let length = 0;
    let valueIn = "";
    const end = () => {
      while (row.length > 0 && row[row.length - 1] === "") row.pop();
      if (row.length > 0) {
        rows.push(row);
        places.set(place, row);
      }
      this.count += row.length;
      if (rows.length > TABLE_BOUNDS.rows + 10) throw new TooMuch("rows");
      if (this.count > TABLE_BOUNDS.cells) throw new TooMuch("cells");
    };
    await this.parse(part, {
      open: (name, attributes) => {
        if (name === "row") {
          // Empty ones cost time too.
          this.rows += 1;
          if (this.rows > MOST_ROWS_READ) throw new TooMuch("rows");
          row = [];
          column = 0;
          place = Number(attributes.r) || place + 1;
        } else if (name === "mergeCell" && attributes.ref && merged.length < 50_000) merged.push(attributes.ref);
        else if (name === "c") {
          column = columnOf(attributes.r) ?? column + 1;
          if (column > 16_384) throw new TooMuch("columns");
          type = attributes.t ?? "n";
          style = Number(attributes.s ?? 0);
          value = [];
          length = 0;
        } else if (name === "v" || name === "t") valueIn = name;
        else if (name === "rph") valueIn = "";
      },
      text: (text) => {
        if (!value || !valueIn) return;
        length += text.length;
        if (length > MOST_CELL) throw new Refusal(TOO_LARGE);
        value.push(text);
      },
      close: (name) => {
        if (name === "v" || name === "t") valueIn = "";
        else if (name === "row") end();
        else if (name === "c" && value) {
          const text = cellText(value.join(""), type, isDate[style] ?? false, shared, since1904);
          value = null;
          if (text === "") return;
          while (row.length < column - 1) row.push("");
          row[column - 1] = text;
          if (row.length > TABLE_BOUNDS.columns) throw new TooMuch("columns");
        }
      },
    });
    for (const range of merged) this.fill(range, places);
    return rows;
  }

  /** What a merged cell says holds for every cell that it covers, in rows that are there. */
  private fill(range: string, places: ReadonlyMap<number, string[]>): void {
    const [, left, top, right, bottom] = /^([A-Z]{1,3})(\d{1,7}):([A-Z]{1,3})(\d{1,7})$/.exec(range) ?? [];
    const [from, to] = [columnOf(left) ?? 0, Math.min(columnOf(right) ?? 0, TABLE_BOUNDS.columns)];
    const text = places.get(Number(top))?.[from - 1];
    if (!text) return;
    for (let line = Number(top); line <= Math.min(Number(bottom), Number(top) + 10_000); line++) {
      const row = places.get(line);
      if (!row) continue;
      this.count += to - from + 1;
      if (this.count > TABLE_BOUNDS.cells) throw new TooMuch("cells");
      while (row.length < to) row.push("");
      for (let column = from; column <= to; column++) row[column - 1] ||= text;
    }
  }

  /**
   * Reads one part, counting what it really unpacks to. Names come without prefix; attributes' names without prefix
   * and in small letters.
   */
  private parse(part: string, handlers: Handlers): Promise<void> {
    const entry = this.archive.entries.get(part);
    if (!entry) throw new Error(`no ${part}`);
    const parser = new SaxesParser();
    const plain = (name: string) => name.slice(name.indexOf(":") + 1);
    let depth = 0;
    parser.on("opentag", ({ name, attributes }) => {
      depth += 1;
      if (depth > 200) throw new Error("nested too deeply");
      const known: Record<string, string> = {};
      for (const [key, text] of Object.entries(attributes))
        if (!key.startsWith("xmlns")) known[plain(key).toLowerCase()] = text;
      handlers.open?.(part.endsWith(".rels") ? plain(name).toLowerCase() : plain(name), known);
    });
    parser.on("closetag", ({ name }) => {
      depth -= 1;
      handlers.close?.(plain(name));
    });
    parser.on("text", (text) => handlers.text?.(text));
    parser.on("cdata", (text) => handlers.text?.(text));
    parser.on("error", (error) => {
      throw error;
    });
    const decoder = new TextDecoder();
    return new Promise((done, fail) => {
      this.archive.zip.openReadStream(entry, (error, stream) => {
        if (error) return fail(error);
        const stop = (reason: unknown) => {
          stream.destroy();
          fail(reason as Error);
        };
        stream.on("error", stop);
        stream.on("data", (chunk: Buffer) => {
          this.unpacked += chunk.length;
          if (this.unpacked > MOST_UNPACKED) return stop(new Refusal(TOO_LARGE));
          try {
            parser.write(decoder.decode(chunk, { stream: true }));
          } catch (reason) {
            stop(reason);
          }
        });
        stream.on("end", () => {
          try {
            parser.write(decoder.decode()).close();
            done();
          } catch (reason) {
            stop(reason);
          }
        });
      });
    });
  }
}

/** "BC12" to 55; null where the cell does not say where it stands. */
function columnOf(reference: string | undefined): number | null {
  const letters = /^[A-Z]{1,3}/.exec(reference ?? "")?.[0];
  if (!letters) return null;
  let column = 0;
  for (const letter of letters) column = column * 26 + letter.charCodeAt(0) - 64;
  return column;
}

function cellText(value: string, type: string, isDate: boolean, shared: readonly string[], since1904: boolean): string {
  if (type === "s") return shared[Number(value)] ?? "";
  if (type === "b") return value === "1" ? "yes" : value === "0" ? "no" : "";
  if (type === "e") return "";
  if (type === "d") return value.replace("T", " ").replace(/(?:\.\d+)?Z?$/, "");
  if (type !== "n" || value === "") return value;
  const number = Number(value);
  if (!Number.isFinite(number)) return value;
  if (isDate) return dateText(number, since1904);
  return Number.isInteger(number) && Math.abs(number) < 1e21 ? number.toFixed(0) : String(number);
}

/**
 * Built-in formats that show a date or a time (ECMA-376, 18.8.30), or one of the workbook's own with letters of dates
 * outside of quotes.
 */
function isDateFormat(id: number, formats: ReadonlyMap<number, string>): boolean {
  const code = formats.get(id);
  if (code === undefined)
    return (id >= 14 && id <= 22) || (id >= 27 && id <= 36) || (id >= 45 && id <= 47) || (id >= 50 && id <= 58);
  const bare = code.slice(0, 300).replace(/"[^"]*"|\\.|_.|\*.|\[[^\]]*\]/g, "");
  return /[dmyhs]/i.test(bare) && !/general/i.test(bare);
}

const MINUTES_A_DAY = 24 * 60;

/**
 * A day number of a spreadsheet as wall time. Days count from 30 December 1899, or in some workbooks from 1 January
 * 1904.
 */
function dateText(serial: number, since1904: boolean): string {
  // A time of day alone.
  if (serial >= 0 && serial < 1) {
    const minutes = Math.round(serial * MINUTES_A_DAY);
    return `${String(Math.floor(minutes / 60) % 24).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
  }
  const days = serial - 25_569 + (since1904 ? 1462 : 0);
  if (Math.abs(days) > 1_000_000) return "";
  const text = new Date(Math.round(days * 86_400) * 1000).toISOString();
  const [day, time] = [text.slice(0, 10), text.slice(11, 19)];
  return time === "00:00:00" ? day : `${day} ${time}`;
}
