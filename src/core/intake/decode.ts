/** Bytes of a list that somebody saved, to text. Encodings after the WHATWG Encoding standard; Windows-1252 where nothing else fits. */

export type Decoded = { text: string; encoding: "UTF-8" | "UTF-16LE" | "UTF-16BE" | "Windows-1252" };

/** The text of a file: byte order marks first, then the pattern of zero bytes, then valid UTF-8, else Windows-1252. Never throws. */
export function decodeText(bytes: Uint8Array): Decoded {
  if (bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf) return { text: utf8(bytes.subarray(3), false) ?? "", encoding: "UTF-8" };
  if (bytes[0] === 0xff && bytes[1] === 0xfe) return { text: wide(bytes.subarray(2), "utf-16le"), encoding: "UTF-16LE" };
  if (bytes[0] === 0xfe && bytes[1] === 0xff) return { text: wide(bytes.subarray(2), "utf-16be"), encoding: "UTF-16BE" };
  const order = wideOrder(bytes);
  if (order) return { text: wide(bytes, order), encoding: order === "utf-16le" ? "UTF-16LE" : "UTF-16BE" };
  const text = utf8(bytes, true);
  if (text !== null) return { text, encoding: "UTF-8" };
  return { text: new TextDecoder("windows-1252").decode(bytes), encoding: "Windows-1252" };
}

function utf8(bytes: Uint8Array, strict: boolean): string | null {
  try {
    return new TextDecoder("utf-8", { fatal: strict, ignoreBOM: true }).decode(bytes);
  } catch {
    return null;
  }
}

function wide(bytes: Uint8Array, order: "utf-16le" | "utf-16be"): string {
  return new TextDecoder(order).decode(bytes);
}

/** Without a mark, UTF-16 shows itself by zero bytes at every other place of mostly Latin text. */
function wideOrder(bytes: Uint8Array): "utf-16le" | "utf-16be" | null {
  const length = Math.min(bytes.length - (bytes.length % 2), 2000);
  if (length < 8) return null;
  let even = 0;
  let odd = 0;
  for (let index = 0; index < length; index += 2) {
    if (bytes[index] === 0) even += 1;
    if (bytes[index + 1] === 0) odd += 1;
  }
  const pairs = length / 2;
  if (odd > pairs * 0.6 && even < pairs * 0.1) return "utf-16le";
  if (even > pairs * 0.6 && odd < pairs * 0.1) return "utf-16be";
  return null;
}
