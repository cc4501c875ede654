import { promisify } from "node:util";
import { gunzipSync, gzip, gzipSync } from "node:zlib";
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

/**
 * The list: its table where it was read before, else read now in a process of its own. `owner` is whose list it is: a
 * client. Throws `Unreadable`.
 */
export async function parseContent(owner: string, content: Buffer): Promise<StoredList> {
  return (await readContent(owner, content)).list;
}

/** The list together with the form in which it is kept once it was read. Throws `Unreadable`. */
export async function readContent(
  owner: string,
  content: Uint8Array,
): Promise<{ list: StoredList; packed: Uint8Array }> {
  const bytes = unpack(content);
  if (bytes.subarray(0, 9).toString() === '{"table":') return { list: JSON.parse(bytes.toString()), packed: content };
  const packed = await readListApart(owner, bytes);
  return { list: JSON.parse(unpack(packed).toString()), packed };
}

/** A list in the form in which it is kept once it was read. */
export function packList(list: StoredList): Buffer {
  return gzipSync(JSON.stringify(list), { level: 1 });
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
