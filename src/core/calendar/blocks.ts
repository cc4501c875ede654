import ICAL from "ical.js";

/**
 * An iCalendar stream (RFC 5545, section 3.4) cut into its components, each parsed by itself: one that is broken
 * costs no other.
 */

export type Blocks = {
  events: ICAL.Component[];
  zones: ICAL.Component[];
  /** Events that cannot be parsed, by their identifier where that can be told. */
  broken: (string | null)[];
  /** Whether the stream ended where it said it would, within what is read of one. */
  isWhole: boolean;
};

/** How many events one stream may hold. */
export const MOST_EVENTS = 50_000;

/** Cuts a stream of one or more calendars; null when there is none in it. */
export function blocksOf(text: string): Blocks | null {
  const blocks: Blocks = { events: [], zones: [], broken: [], isWhole: true };
  let depth = 0;
  let ended = 0;
  let begun = 0;
  let block: string[] | null = null;
  let inner = 0;
  let kind = "";
  for (const line of unfolded(text)) {
    const [, mark, name] = /^(BEGIN|END):([A-Z-]{1,40})\s*$/i.exec(line) ?? [];
    const what = name?.toUpperCase();
    if (block) {
      block.push(line);
      if (mark?.toUpperCase() === "BEGIN") inner += 1;
      else if (mark?.toUpperCase() === "END" && --inner === 0) {
        take(blocks, kind, block);
        block = null;
      }
    } else if (mark?.toUpperCase() === "BEGIN" && what === "VCALENDAR") {
      depth += 1;
      begun += 1;
    } else if (mark?.toUpperCase() === "END" && what === "VCALENDAR") {
      depth -= 1;
      ended += 1;
    } else if (mark?.toUpperCase() === "BEGIN" && depth > 0) {
      block = [line];
      inner = 1;
      kind = what ?? "";
    }
    if (blocks.events.length + blocks.broken.length > MOST_EVENTS) {
      blocks.isWhole = false;
      break;
    }
  }
  if (block || ended !== begun) blocks.isWhole = false;
  if (block && kind === "VEVENT") blocks.broken.push(uidOf(block));
  const isCut = ended === 0 && blocks.events.length === 0;
  return begun === 0 || isCut ? null : blocks;
}

/** The lines of a stream, those that were folded put together again; without a byte order mark. */
function* unfolded(text: string): Generator<string> {
  let parts: string[] = [];
  for (const line of text.replace(/^\ufeff/, "").split(/\r\n|\n|\r/)) {
    if (line.startsWith(" ") || line.startsWith("\t")) {
      parts.push(line.slice(1));
      continue;
    }
    if (parts.length > 0) yield parts.join("");
    parts = [line];
  }
  yield parts.join("");
}

function take(blocks: Blocks, kind: string, lines: string[]): void {
  if (kind !== "VEVENT" && kind !== "VTIMEZONE") return;
  const component = parse(lines) ?? parse(lines.filter((line) => /^[A-Za-z0-9-]+[;:]/.test(line)));
  if (kind === "VTIMEZONE") {
    if (component) blocks.zones.push(component);
  } else if (component) blocks.events.push(component);
  else blocks.broken.push(uidOf(lines));
}

function parse(lines: readonly string[]): ICAL.Component | null {
  try {
    const parsed = ICAL.parse(lines.join("\r\n")) as unknown[];
    return new ICAL.Component(parsed as ConstructorParameters<typeof ICAL.Component>[0]);
  } catch {
    return null;
  }
}

function uidOf(lines: readonly string[]): string | null {
  for (const line of lines) {
    const match = /^UID[^:]*:(.*)$/i.exec(line);
    if (match) return match[1].trim() || null;
  }
  return null;
}
