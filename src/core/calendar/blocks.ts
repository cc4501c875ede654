import ICAL from "ical.js";

/**
 * An iCalendar stream (RFC 5545, section 3.4) cut into its components, each parsed by itself: one that is broken
 * costs no other.
 */

export type Blocks = {
  /** Events, each with the zone that its calendar names for times without one; null where it names none. */
  events: { component: ICAL.Component; zone: string | null }[];
  zones: ICAL.Component[];
  /** Events that cannot be parsed, by their identifier where that can be told. */
  broken: (string | null)[];
  /** Whether the stream ended where it said it would, within what is read of one. */
  isWhole: boolean;
};

/** What stands at the top of a calendar, and never within another. */
const TOP = new Set(["VEVENT", "VTODO", "VJOURNAL", "VFREEBUSY", "VTIMEZONE"]);

/** How many events one stream may hold. */
export const MOST_EVENTS = 50_000;

/** Cuts a stream of one or more calendars; null when there is none in it. */
export function blocksOf(text: string): Blocks | null {
  const blocks: Blocks = { events: [], zones: [], broken: [], isWhole: true };
  let depth = 0;
  let ended = 0;
  let begun = 0;
  let zone: string | null = null;
  let block: string[] | null = null;
  /** What is open, from the block itself inwards. */
  let open: string[] = [];
  const drop = () => {
    if (block && open[0] === "VEVENT") blocks.broken.push(uidOf(block));
    block = null;
  };
  for (const line of unfolded(text)) {
    const [, mark = "", name = ""] = /^(BEGIN|END):([A-Z-]{1,40})\s*$/i.exec(line) ?? [];
    const [does, what] = [mark.toUpperCase(), name.toUpperCase()];
    // None of these is ever within a block: where one comes, the block before it was not closed.
    if (block && (what === "VCALENDAR" || (does === "BEGIN" && TOP.has(what)))) drop();
    if (block) {
      block.push(line);
      if (does === "BEGIN") open.push(what);
      // What was left open within it ends with it.
      else if (does === "END" && open.includes(what)) open = open.slice(0, open.lastIndexOf(what));
      if (open.length === 0) {
        take(blocks, what, block, zone);
        block = null;
      }
    } else if (does === "BEGIN" && what === "VCALENDAR") {
      depth += 1;
      begun += 1;
      zone = null;
    } else if (does === "END" && what === "VCALENDAR") {
      depth -= 1;
      ended += 1;
    } else if (does === "BEGIN" && depth > 0) {
      block = [line];
      open = [what];
    } else if (depth > 0) zone = /^X-WR-TIMEZONE(?:;[^:]*)?:\s*(\S.*?)\s*$/i.exec(line)?.[1] ?? zone;
    if (blocks.events.length + blocks.broken.length > MOST_EVENTS) {
      blocks.isWhole = false;
      break;
    }
  }
  if (block || ended !== begun) blocks.isWhole = false;
  drop();
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

function take(blocks: Blocks, kind: string, lines: string[], zone: string | null): void {
  if (kind !== "VEVENT" && kind !== "VTIMEZONE") return;
  // Rules in small letters are rules.
  const read = lines.map((line) => (/^RRULE[;:]/i.test(line) ? line.toUpperCase() : line));
  const plain = read.filter((line) => /^[A-Za-z0-9-]+[;:]/.test(line));
  const component = parse(read) ?? parse(plain) ?? (kind === "VEVENT" ? parse(withoutInner(plain)) : null);
  if (kind === "VTIMEZONE") {
    if (component) blocks.zones.push(component);
  } else if (component) blocks.events.push({ component, zone });
  else blocks.broken.push(uidOf(lines));
}

/** A block without what is nested in it: an alarm that was not closed costs no appointment. */
function withoutInner(lines: readonly string[]): string[] {
  const first = lines.findIndex((line, index) => index > 0 && /^BEGIN:/i.test(line));
  return first < 0 ? [...lines] : [...lines.slice(0, first), lines[lines.length - 1]];
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
