/**
 * Text that a stranger typed (a customer's name, a reviewer's words, what an agency is called), where it enters a mail, a
 * subject or the title of a page. There it must not turn the line around, hide in it, or make a link in our name.
 */

/** Marks that set the direction of text (Unicode Standard Annex 9), and others that nobody sees. */
const UNSEEN = /[\u061C\u180E\u200B-\u200F\u202A-\u202E\u2060-\u2069\uFEFF\u00AD\u{E0000}-\u{E007F}]/gu;

// biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is taken out
const CONTROL = /[\u0000-\u0008\u000B\u000C\u000E-\u001F\u007F-\u009F]/g;

/** Top-level domains that a mail program makes a link of without "www." or "https://", and that names do not end in. */
const DOMAINS =
  "com|net|org|info|biz|io|co|xyz|top|shop|online|site|website|app|dev|club|link|click|live|store|page|me|tv|ru|cn|de|fr|es|pt|pl|it|uk|eu|us|ca|au|nl|ch|at|br|in|example";

const ADDRESS = new RegExp(
  [
    String.raw`\b[a-z][a-z0-9+.-]{1,12}:\/\/\S+`,
    String.raw`\b(?:mailto|tel|sms|javascript|data):\S+`,
    String.raw`\bwww\.\S+`,
    String.raw`[^\s@<>()"“”]+@[^\s@<>()"“”]+\.[^\s@<>()"“”]+`,
    String.raw`\b(?:[\p{L}\p{N}-]+\.)+(?:${DOMAINS})\b(?:[/:?#]\S*)?`,
    String.raw`\b\d{1,3}(?:\.\d{1,3}){3}(?:[/:]\S*)`,
  ].join("|"),
  "giu",
);

/** Text without marks that set its direction, and without others that nobody sees. */
export function withoutUnseen(text: string): string {
  return text.replace(UNSEEN, "");
}

/** What stands in place of an address. */
const LEFT_OUT = "[…]";

/**
 * Words of several lines without what cannot be seen, and with what a mail program would make a link of left out.
 *
 * @example strangersWords("Call me at\nhttps://evil.example/x") // "Call me at\n[…]"
 */
export function strangersWords(text: string): string {
  return withoutUnseen(text).replace(CONTROL, "").replace(ADDRESS, LEFT_OUT);
}

/**
 * A name as it may stand in a subject, a greeting or a title: one line, without what cannot be seen, without addresses.
 * Empty where nothing is left.
 *
 * @example strangersName("Odette \u202Eevil") // "Odette evil"
 * @example strangersName("www.win.example now") // "now"
 */
export function strangersName(text: string): string {
  return withoutUnseen(text)
    .replace(ADDRESS, "")
    .replace(/[\p{Cc}\s]+/gu, " ")
    .trim();
}

/** A header of a mail: one line, without what cannot be seen. Its addresses are the sender's own. */
export function headerLine(text: string): string {
  return withoutUnseen(text)
    .replace(/[\p{Cc}\s]+/gu, " ")
    .trim();
}
