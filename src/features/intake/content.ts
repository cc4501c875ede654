import { promisify } from "node:util";
import { gunzipSync, gzip } from "node:zlib";
import { type ReadyList, Unreadable } from "./files";
import { readListApart } from "./reader";

/** How a list is kept: as it was brought while it is being read, from then on as its table, in compressed JSON. */

export type StoredList = ReadyList & {
  /** Rows (from 1) that were emptied, since the person they named asked to be erased. */
  erased?: number[];
};

const MOST_STORED = 512 * 1024 * 1024;

/** Compresses a list as it was brought. */
export function packBytes(bytes: Uint8Array): Promise<Buffer> {
  return promisify(gzip)(bytes, { level: 1 });
}

/** The list: its table where it was read before, else read now in a process of its own. Throws `Unreadable`. */
export async function parseContent(content: Buffer): Promise<StoredList> {
  const bytes = unpack(content);
  return bytes.subarray(0, 9).toString() === '{"table":'
    ? (JSON.parse(bytes.toString()) as StoredList)
    : parseStored(await readListApart(bytes));
}

function parseStored(packed: Uint8Array): StoredList {
  return JSON.parse(unpack(packed).toString()) as StoredList;
}

function unpack(content: Uint8Array): Buffer {
  try {
    return gunzipSync(content, { maxOutputLength: MOST_STORED });
  } catch {
    throw new Unreadable({ code: "gone" });
  }
}

/** The first rows, for showing what the columns hold. */
export function samplesOf({ table }: StoredList): string[][] {
  return table.rows.slice(0, 5).map((row) => table.headers.map((_, index) => (row[index] ?? "").slice(0, 200)));
}
