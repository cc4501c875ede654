import { PLACEHOLDERS } from "./placeholders";

/** A wording in its parts, as an editor shows it: words, and placeholders as things of their own. */

export type Segment = { text: string } | { name: string; fallback: string | null };

const PATTERN = /\{([^{}|\n]{1,40})(?:\|([^{}\n]{0,120}))?\}/g;

/** The parts of a wording in reading order. Braces around anything that is no placeholder are words. */
export function segmentsOf(template: string): Segment[] {
  const found: Segment[] = [];
  let from = 0;
  for (const match of template.matchAll(PATTERN)) {
    const name = match[1].trim().toLowerCase().replace(/\s+/g, " ");
    if (!(PLACEHOLDERS as readonly string[]).includes(name)) continue;
    if (match.index > from) found.push({ text: template.slice(from, match.index) });
    found.push({ name, fallback: match[2] ?? null });
    from = match.index + match[0].length;
  }
  if (from < template.length) found.push({ text: template.slice(from) });
  return found;
}

/** The wording that such parts are: the other way round. */
export function templateOf(segments: readonly Segment[]): string {
  return segments
    .map((segment) =>
      "text" in segment
        ? segment.text
        : segment.fallback === null
          ? `{${segment.name}}`
          : `{${segment.name}|${segment.fallback}}`,
    )
    .join("");
}
