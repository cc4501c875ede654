/**
 * Bytes of a list that somebody saved, to text. Encodings after the WHATWG Encoding standard; Windows-1252 where
 * nothing else fits.
 */

export type Decoded = {
  text: string;
  encoding: "UTF-8" | "UTF-16LE" | "UTF-16BE" | "Windows-1252";
  /** Bytes that do not belong into UTF-8 and were read as Windows-1252 each. */
  oddBytes: number;
};

/**
 * The text of a file: byte order marks first, then the pattern of zero bytes, then UTF-8 with a few odd bytes at
 * most, else Windows-1252. Never throws.
 */
export function decodeText(bytes: Uint8Array): Decoded {
  if (bytes[0] === 0xff && bytes[1] === 0xfe)
    return { text: wide(bytes.subarray(2), "utf-16le"), encoding: "UTF-16LE", oddBytes: 0 };
  if (bytes[0] === 0xfe && bytes[1] === 0xff)
    return { text: wide(bytes.subarray(2), "utf-16be"), encoding: "UTF-16BE", oddBytes: 0 };
  const hasMark = bytes[0] === 0xef && bytes[1] === 0xbb && bytes[2] === 0xbf;
  const order = hasMark ? null : wideOrder(bytes);
  if (order) return { text: wide(bytes, order), encoding: order === "utf-16le" ? "UTF-16LE" : "UTF-16BE", oddBytes: 0 };
  const content = hasMark ? bytes.subarray(3) : bytes;
  const whole = utf8(content);
  if (whole !== null) return { text: whole, encoding: "UTF-8", oddBytes: 0 };
  const { text, odd, sequences } = mostlyUtf8(content);
  // One broken byte makes no other encoding of a file that says by its mark, or by its other letters, what it is.
  if (hasMark || sequences > odd) return { text, encoding: "UTF-8", oddBytes: odd };
  return { text: windows1252(content), encoding: "Windows-1252", oddBytes: 0 };
}

function utf8(bytes: Uint8Array): string | null {
  try {
    return new TextDecoder("utf-8", { fatal: true, ignoreBOM: true }).decode(bytes);
  } catch {
    return null;
  }
}

function wide(bytes: Uint8Array, order: "utf-16le" | "utf-16be"): string {
  return new TextDecoder(order).decode(bytes);
}

/**
 * What the bytes from 0x80 to 0x9f stand for in Windows-1252 (WHATWG index); written out, since not every build of
 * Node.js knows them.
 */
const HIGH = "€\u0081‚ƒ„…†‡ˆ‰Š‹Œ\u008dŽ\u008f\u0090‘’“”•–—˜™š›œ\u009džŸ";

const letter1252 = (byte: number) => (byte >= 0x80 && byte <= 0x9f ? HIGH[byte - 0x80] : String.fromCharCode(byte));

function windows1252(bytes: Uint8Array): string {
  const text = Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength).toString("latin1");
  return text.replace(/[\u0080-\u009f]/g, (letter) => HIGH[letter.charCodeAt(0) - 0x80]);
}

/**
 * UTF-8 in which bytes that are none stand for Windows-1252; how many of those there were, and how many letters of
 * several bytes.
 */
function mostlyUtf8(bytes: Uint8Array): { text: string; odd: number; sequences: number } {
  const parts: string[] = [];
  const strict = new TextDecoder("utf-8", { ignoreBOM: true });
  let [odd, sequences, from] = [0, 0, 0];
  for (let at = 0; at < bytes.length; ) {
    const length = sequenceLength(bytes, at);
    if (length > 0) {
      if (length > 1) sequences += 1;
      at += length;
      continue;
    }
    parts.push(strict.decode(bytes.subarray(from, at)), letter1252(bytes[at]));
    odd += 1;
    at += 1;
    from = at;
  }
  parts.push(strict.decode(bytes.subarray(from)));
  return { text: parts.join(""), odd, sequences };
}

/** How many bytes the well-formed UTF-8 sequence at `at` has (Unicode, table 3-7); 0 where there is none. */
function sequenceLength(bytes: Uint8Array, at: number): number {
  const first = bytes[at];
  if (first < 0x80) return 1;
  const length =
    first >= 0xc2 && first <= 0xdf ? 2 : first >= 0xe0 && first <= 0xef ? 3 : first >= 0xf0 && first <= 0xf4 ? 4 : 0;
  if (length === 0 || at + length > bytes.length) return 0;
  const second = bytes[at + 1];
  const [low, high] =
    first === 0xe0
      ? [0xa0, 0xbf]
      : first === 0xed
        ? [0x80, 0x9f]
        : first === 0xf0
          ? [0x90, 0xbf]
          : first === 0xf4
            ? [0x80, 0x8f]
            : [0x80, 0xbf];
  if (second < low || second > high) return 0;
  for (let index = 2; index < length; index++) if (bytes[at + index] < 0x80 || bytes[at + index] > 0xbf) return 0;
  return length;
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
