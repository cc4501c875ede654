import { DAY, dayNumber, fromLocal, MINUTE, toLocal, weekday } from "./zone";

export const CHANNELS = ["text", "email"] as const;
export type Channel = (typeof CHANNELS)[number];

/** Minutes after local midnight; a message may leave at `open` and up to, not at, `close`. */
export type OpenHours = { open: number; close: number };

/** Seven lists, Monday first. An empty list is a day on which nothing leaves. */
export type WeekHours = OpenHours[][];

export type SendHours = Record<Channel, WeekHours>;

/** When messages of a branch may leave: its zone, its hours, and the day numbers that are closed altogether. */
export type SendCalendar = { zone: string; hours: SendHours; closedDays: ReadonlySet<number> };

/** Why an instant had to move. */
export const SHIFTS = ["hours", "closed day", "recipient hours"] as const;
export type Shift = (typeof SHIFTS)[number];

/** Texts reach nobody before 8:00 or from 21:00 on where they are. */
export const RECIPIENT_TEXT_HOURS: OpenHours = { open: 8 * 60, close: 21 * 60 };

const FARTHEST = 60;

/**
 * The first instant at or after `at` at which `channel` may be used, and why it is later than `at`.
 * Texts also keep the recipient's legal hours: in each of `recipientZones`, the zones in which they may be, or where none
 * is known in the branch's own. Null when nothing opens within 60 days.
 */
export function nextPermitted(
  at: number,
  channel: Channel,
  calendar: SendCalendar,
  recipientZones: readonly string[] = [],
): { at: number; shifts: Shift[] } | null {
  const shifts: Shift[] = [];
  const note = (shift: Shift) => {
    if (!shifts.includes(shift)) shifts.push(shift);
  };
  const legalZones = recipientZones.length > 0 ? recipientZones : [calendar.zone];
  let instant = at;
  for (let turn = 0; turn < FARTHEST * 3; turn++) {
    if (instant - at > FARTHEST * DAY) return null;
    const opening = nextOpening(instant, channel, calendar, note);
    if (opening !== instant) {
      instant = opening;
      continue;
    }
    const theirs = channel === "text" ? firstOutside(instant, legalZones) : instant;
    if (theirs === instant) return { at: instant, shifts };
    note("recipient hours");
    instant = theirs;
  }
  return null;
}

/**
 * The first instant at or after `at` that the recipient's own legal hours permit in each of the zones in which they may
 * be, whatever the hours of the business say: for what a person sends on purpose. Emails may leave at any time. Null when
 * there is none: zones so far apart that it is always night in one of them.
 */
export function nextLegal(
  at: number,
  channel: Channel,
  recipientZones: readonly string[],
): { at: number; shifts: Shift[] } | null {
  let instant = at;
  while (channel === "text") {
    if (instant - at > 3 * DAY) return null;
    const theirs = firstOutside(instant, recipientZones);
    if (theirs === instant) break;
    instant = theirs;
  }
  return { at: instant, shifts: instant === at ? [] : ["recipient hours"] };
}

/** The instant itself where it is day in all of the zones, else when the night ends in the first where it is not. */
function firstOutside(instant: number, zones: readonly string[]): number {
  for (const zone of zones) {
    const theirs = nextInside(instant, zone, [RECIPIENT_TEXT_HOURS]);
    if (theirs !== instant) return theirs;
  }
  return instant;
}

function nextOpening(at: number, channel: Channel, calendar: SendCalendar, note: (shift: Shift) => void): number {
  const local = toLocal(calendar.zone, at);
  const day = dayNumber(local);
  if (calendar.closedDays.has(day)) {
    note("closed day");
    return fromLocal(calendar.zone, (day + 1) * DAY);
  }
  const moved = nextInside(at, calendar.zone, calendar.hours[channel][weekday(day)] ?? []);
  if (moved !== at) note("hours");
  return moved;
}

/** `at` itself when it lies inside the day's hours, else the next opening that day, else the next local midnight. */
function nextInside(at: number, zone: string, hours: readonly OpenHours[]): number {
  const day = dayNumber(toLocal(zone, at));
  for (const { from, to } of stretchesOn(day, zone, hours)) if (at < to) return Math.max(at, from);
  return fromLocal(zone, (day + 1) * DAY);
}

/**
 * The open stretches of a local day as instants, in their order; those that overlap or meet are one. Where clocks change
 * the rules of RFC 5545 (3.3.5) hold for when they begin and end: a time that is skipped counts by the offset before it, one that
 * comes twice is the first.
 */
export function stretchesOn(day: number, zone: string, hours: readonly OpenHours[]): { from: number; to: number }[] {
  const all = hours
    .map(({ open, close }) => ({
      from: fromLocal(zone, day * DAY + open * MINUTE),
      to: fromLocal(zone, day * DAY + close * MINUTE),
    }))
    .filter(({ from, to }) => from < to)
    .sort((a, b) => a.from - b.from);
  const joined: { from: number; to: number }[] = [];
  for (const { from, to } of all) {
    const last = joined.at(-1);
    if (last && from <= last.to) last.to = Math.max(last.to, to);
    else joined.push({ from, to });
  }
  return joined;
}

/**
 * The open stretches of one local day as instants, for drawing and for spreading. Texts never leave at night,
 * whatever the hours say.
 */
export function openStretches(day: number, channel: Channel, calendar: SendCalendar): { from: number; to: number }[] {
  if (calendar.closedDays.has(day)) return [];
  const hours = (calendar.hours[channel][weekday(day)] ?? []).map(({ open, close }) =>
    channel === "text"
      ? { open: Math.max(open, RECIPIENT_TEXT_HOURS.open), close: Math.min(close, RECIPIENT_TEXT_HOURS.close) }
      : { open, close },
  );
  return stretchesOn(day, calendar.zone, hours);
}

/** The same hours on the given ISO weekdays (0 is Monday), nothing on the others. */
export function weekOf(days: number[], open: number, close: number): WeekHours {
  return Array.from({ length: 7 }, (_, day) => (days.includes(day) ? [{ open, close }] : []));
}
