/**
 * Typed text that every database and page can hold: without the NUL character (which PostgreSQL's text cannot hold and
 * no keyboard types) and without halves of surrogate pairs (which are no letters).
 */
export function cleanText(text: string): string {
  return text.replaceAll("\u0000", "").toWellFormed();
}
