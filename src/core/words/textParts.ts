/**
 * How many parts a text message takes. GSM 03.38 (3GPP TS 23.038): the default alphabet packs 160 septets in one part,
 * 153 in each part of a concatenated message; anything outside it makes the whole message UCS-2 with 70, or 67, UTF-16
 * units.
 */

const BASIC = new Set(
  "@£$¥èéùìòÇ\nØø\rÅåΔ_ΦΓΛΩΠΨΣΘΞÆæßÉ !\"#¤%&'()*+,-./0123456789:;<=>?¡ABCDEFGHIJKLMNOPQRSTUVWXYZÄÖÑÜ§¿abcdefghijklmnopqrstuvwxyzäöñüà",
);
const EXTENSION = new Set("\f^{}\\[~]|€");

/** Whether GSM 03.38 has a character. */
export const isInAlphabet = (character: string) => BASIC.has(character) || EXTENSION.has(character);

export type TextParts = {
  alphabet: "GSM 03.38" | "UCS-2";
  /** Septets or UTF-16 units the message takes. */
  units: number;
  /** What one part holds at this number of parts. */
  perPart: number;
  parts: number;
  /** Characters that force UCS-2, each once. */
  outside: string[];
};

/** Counts the parts of `text` as a handset would receive it. An empty text takes no part. */
export function textParts(text: string): TextParts {
  const characters = [...text];
  const outside = [...new Set(characters.filter((c) => !isInAlphabet(c)))];
  const alphabet = outside.length === 0 ? "GSM 03.38" : "UCS-2";
  const sizeOf = (c: string) => (alphabet === "UCS-2" ? c.length : EXTENSION.has(c) ? 2 : 1);
  const [single, joined] = alphabet === "UCS-2" ? [70, 67] : [160, 153];
  const units = characters.reduce((sum, c) => sum + sizeOf(c), 0);
  if (units <= single) return { alphabet, units, perPart: single, parts: units === 0 ? 0 : 1, outside };
  // An escape sequence or a surrogate pair is never split over two parts.
  let parts = 1;
  let filled = 0;
  for (const c of characters) {
    if (filled + sizeOf(c) > joined) {
      parts += 1;
      filled = 0;
    }
    filled += sizeOf(c);
  }
  return { alphabet, units, perPart: joined, parts, outside };
}

/** Typographic quotes, dashes and spaces put into GSM 03.38, which keeps a text from doubling its parts. */
export function plainForText(text: string): string {
  return text
    .replace(/[\u2018\u2019\u201A\u2032]/g, "'")
    .replace(/[\u201C\u201D\u201E\u2033]/g, '"')
    .replace(/[\u2012-\u2015]/g, "-")
    .replace(/\u2026/g, "...")
    .replace(/[\u00A0\u2007\u2009\u202F]/g, " ");
}
