import { Readable } from "node:stream";
import type ExcelJS from "exceljs";
import { decodeText } from "@/core/intake/decode";
import { parseDelimited, type Table, tableOf } from "@/core/intake/table";

/** The bytes of a list to its table. Delimited text of any kind, or a workbook (Office Open XML). */

export const MOST_BYTES = 25 * 1024 * 1024;
const MOST_UNPACKED = 300 * 1024 * 1024;
export const MOST_ROWS = 250_000;

/** A list that cannot be read at all, said in words for whoever brought it. */
export class Unreadable extends Error {}

export type ReadList = { table: Table; kind: "delimited" | "workbook"; encoding?: string; delimiter?: string; sheet?: string; since1904: boolean };

/** Reads a list. Throws `Unreadable` with what to do about it. */
export async function readListBytes(bytes: Uint8Array): Promise<ReadList> {
  if (bytes.length === 0) throw new Unreadable("The file is empty.");
  if (bytes[0] === 0x50 && bytes[1] === 0x4b && bytes[2] === 3 && bytes[3] === 4) return readWorkbook(bytes);
  if (bytes[0] === 0xd0 && bytes[1] === 0xcf && bytes[2] === 0x11) throw new Unreadable("This is a workbook of the old kind (.xls). Save it as .xlsx or CSV and bring it again.");
  if (Buffer.from(bytes.subarray(0, 5)).toString("latin1") === "%PDF-") throw new Unreadable("This is a PDF. Save the list as CSV or XLSX and bring that.");
  const { text, encoding } = decodeText(bytes);
  if (looksBinary(text)) throw new Unreadable("This is no list of text. Bring a CSV, TSV or XLSX file.");
  const { cells, delimiter } = parseDelimited(text);
  const table = tableOf(cells);
  return { table: bounded(table), kind: "delimited", encoding, delimiter, since1904: false };
}

function bounded(table: Table): Table {
  if (table.rows.length === 0) throw new Unreadable("There are no rows in it.");
  if (table.rows.length > MOST_ROWS) throw new Unreadable(`It has more than ${MOST_ROWS.toLocaleString("en-GB")} rows. Bring it in parts.`);
  if (table.headers.length > 300) throw new Unreadable("It has more than 300 columns.");
  return table;
}

function looksBinary(text: string): boolean {
  const sample = text.slice(0, 4000);
  let odd = 0;
  for (let index = 0; index < sample.length; index++) {
    const code = sample.charCodeAt(index);
    if (code < 9 || (code > 13 && code < 32 && code !== 27)) odd += 1;
  }
  return odd > sample.length * 0.02 + 2;
}

/** What the parts of a ZIP archive say they unpack to, from its central directory. */
function unpackedSize(bytes: Uint8Array): number {
  const buffer = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  let sum = 0;
  let at = buffer.lastIndexOf(Buffer.from([0x50, 0x4b, 5, 6]));
  if (at < 0 || at + 20 > buffer.length) throw new Unreadable("The workbook is damaged. Open it, save it again, and bring that.");
  const count = buffer.readUInt16LE(at + 10);
  at = buffer.readUInt32LE(at + 16);
  for (let index = 0; index < count && at + 46 <= buffer.length; index++) {
    if (buffer.readUInt32LE(at) !== 0x02014b50) break;
    sum += buffer.readUInt32LE(at + 24);
    at += 46 + buffer.readUInt16LE(at + 28) + buffer.readUInt16LE(at + 30) + buffer.readUInt16LE(at + 32);
  }
  return sum;
}

async function readWorkbook(bytes: Uint8Array): Promise<ReadList> {
  if (unpackedSize(bytes) > MOST_UNPACKED) throw new Unreadable("The workbook unpacks to more than 300 MB. Save the sheet as CSV and bring that.");
  const { default: Excel } = await import("exceljs");
  const workbook = new Excel.Workbook();
  try {
    await workbook.xlsx.read(Readable.from([Buffer.from(bytes)]), { ignoreNodes: ["dataValidations", "conditionalFormatting", "drawing", "picture", "hyperlinks", "pageSetup"] });
  } catch {
    throw new Unreadable("The workbook is damaged or protected by a password. Save it again without one, and bring that.");
  }
  const sheets = workbook.worksheets.filter((sheet) => sheet.state === "visible" || workbook.worksheets.length === 1);
  const sheet = sheets.reduce<ExcelJS.Worksheet | null>((most, each) => (most === null || each.actualRowCount > most.actualRowCount ? each : most), null);
  if (!sheet || sheet.actualRowCount === 0) throw new Unreadable("The workbook has no filled sheet.");
  const cells: string[][] = [];
  sheet.eachRow({ includeEmpty: false }, (row) => {
    const line: string[] = [];
    for (let column = 1; column <= Math.min(row.cellCount, 300); column++) line.push(cellText(row.getCell(column).value));
    cells.push(line);
  });
  return { table: bounded(tableOf(cells)), kind: "workbook", sheet: sheet.name, since1904: workbook.properties.date1904 === true };
}

/** A cell as text: dates as ISO wall time, formulas by their result, numbers without exponents, errors as nothing. */
function cellText(value: ExcelJS.CellValue): string {
  if (value === null || value === undefined) return "";
  if (typeof value === "string") return value;
  if (typeof value === "number") return Number.isInteger(value) ? value.toFixed(0) : String(value);
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (value instanceof Date) return dateText(value);
  if ("error" in value) return "";
  if ("richText" in value) return value.richText.map(({ text }) => text).join("");
  if ("result" in value) return cellText(value.result as ExcelJS.CellValue);
  if ("hyperlink" in value) return typeof value.text === "string" ? value.text : cellText(value.text as ExcelJS.CellValue);
  return "";
}

function dateText(date: Date): string {
  if (Number.isNaN(date.getTime())) return "";
  const rounded = new Date(Math.round(date.getTime() / 1000) * 1000).toISOString();
  const [day, time] = [rounded.slice(0, 10), rounded.slice(11, 19)];
  // A time of day alone lies on the day the workbook counts from.
  if (day <= "1904-01-02") return time.slice(0, 5);
  return time === "00:00:00" ? day : `${day} ${time}`;
}

/** Rows as CSV for people's spreadsheets: UTF-8 with a mark, and no cell that would run as a formula. */
export function toCsv(rows: readonly (readonly string[])[]): string {
  return `\ufeff${rows.map((row) => row.map(csvCell).join(",")).join("\r\n")}\r\n`;
}

/** A cell that a spreadsheet would run as a formula gets an apostrophe in front; phones in E.164 stay as they are. */
export function harmless(cell: string): string {
  return /^[=@\t\r]/.test(cell) || (/^[+-]/.test(cell) && !/^[+-]\d[\d\s().-]*$/.test(cell)) ? `'${cell}` : cell;
}

function csvCell(cell: string): string {
  const text = harmless(cell);
  return /[",;\r\n]|^\s|\s$/.test(text) ? `"${text.replaceAll('"', '""')}"` : text;
}
