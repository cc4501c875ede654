/** Typed text without the NUL character, which PostgreSQL's text cannot hold (and no keyboard types). */
export function cleanText(text: string): string {
  return text.replaceAll("\u0000", "");
}
