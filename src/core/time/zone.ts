/**
 * Wall time and instants in an IANA time zone, in plain integer arithmetic.
 *
 * Instants are milliseconds since 1970-01-01T00:00:00Z. A "local" value is the wall-clock reading of a zone
 * written as if it were UTC, also in milliseconds, so that day and minute arithmetic needs no library.
 * Offsets come from the platform's own zone data (ECMA-402) and are kept per zone and year.
 */

export const MINUTE = 60_000;
export const HOUR = 60 * MINUTE;
export const DAY = 24 * HOUR;

type Stretch = { from: number; offset: number };

const formatters = new Map<string, Intl.DateTimeFormat>();
const years = new Map<string, Map<number, Stretch[]>>();

function formatterFor(zone: string): Intl.DateTimeFormat {
  let formatter = formatters.get(zone);
  if (!formatter) {
    formatter = new Intl.DateTimeFormat("en-US", {
      timeZone: zone,
      hourCycle: "h23",
      era: "short",
      year: "numeric",
      month: "numeric",
      day: "numeric",
      hour: "numeric",
      minute: "numeric",
      second: "numeric",
    });
    formatters.set(zone, formatter);
  }
  return formatter;
}

function measuredOffset(zone: string, instant: number): number {
  const whole = Math.floor(instant / 1000) * 1000;
  const part: Record<string, number> = {};
  for (const { type, value } of formatterFor(zone).formatToParts(whole)) part[type] = Number(value);
  return Date.UTC(part.year, part.month - 1, part.day, part.hour, part.minute, part.second) - whole;
}

function stretchesOf(zone: string, year: number): Stretch[] {
  let perYear = years.get(zone);
  if (!perYear) {
    perYear = new Map();
    years.set(zone, perYear);
  }
  const known = perYear.get(year);
  if (known) return known;
  const start = Date.UTC(year, 0, 1);
  const end = Date.UTC(year + 1, 0, 1);
  const found: Stretch[] = [{ from: start, offset: measuredOffset(zone, start) }];
  const step = 7 * DAY;
  for (let at = start; at < end; at += step) {
    const next = Math.min(at + step, end);
    const offset = measuredOffset(zone, next);
    if (offset === found[found.length - 1].offset) continue;
    let low = at;
    let high = next;
    while (high - low > 1000) {
      const middle = Math.floor((low + high) / 2000) * 1000;
      if (middle <= low) break;
      if (measuredOffset(zone, middle) === offset) high = middle;
      else low = middle;
    }
    found.push({ from: high, offset });
  }
  perYear.set(year, found);
  return found;
}

/** True when the platform knows this IANA zone name. */
export function isZone(zone: string): boolean {
  try {
    formatterFor(zone);
    return true;
  } catch {
    return false;
  }
}

/** The stretch of unchanged offset that was asked about last, for each zone: nearly always the one asked about next. */
const lastStretch = new Map<string, { from: number; to: number; offset: number }>();

/** What a zone's clock shows minus UTC at an instant, in milliseconds. Throws RangeError for an unknown zone. */
export function offsetAt(zone: string, instant: number): number {
  const last = lastStretch.get(zone);
  if (last !== undefined && instant >= last.from && instant < last.to) return last.offset;
  const year = new Date(instant).getUTCFullYear();
  const stretches = stretchesOf(zone, year);
  let index = stretches.length - 1;
  while (index > 0 && instant < stretches[index].from) index--;
  const { from, offset } = stretches[index];
  lastStretch.set(zone, { from, to: stretches[index + 1]?.from ?? Date.UTC(year + 1, 0, 1), offset });
  return offset;
}

/** The wall-clock reading of `zone` at `instant`, as milliseconds "as if UTC". */
export function toLocal(zone: string, instant: number): number {
  return instant + offsetAt(zone, instant);
}

/**
 * The instant at which the clock of `zone` shows `local`. A reading that a clock change skips moves forward by the
 * gap; one that occurs twice is taken the first time.
 */
export function fromLocal(zone: string, local: number): number {
  const before = offsetAt(zone, local - DAY);
  const after = offsetAt(zone, local + DAY);
  const early = local - before;
  if (before === after) return early;
  const late = local - after;
  const earlyHolds = offsetAt(zone, early) === before;
  const lateHolds = offsetAt(zone, late) === after;
  if (earlyHolds && lateHolds) return Math.min(early, late);
  if (lateHolds) return late;
  return early;
}

/** Whole days from 1970-01-01 to the local date. */
export function dayNumber(local: number): number {
  return Math.floor(local / DAY);
}

/** Milliseconds since local midnight. */
export function timeOfDay(local: number): number {
  return local - Math.floor(local / DAY) * DAY;
}

/** Monday is 0, Sunday is 6 (ISO 8601 order). */
export function weekday(day: number): number {
  return (((day + 3) % 7) + 7) % 7;
}

/** "2026-11-24" to its day number. Throws RangeError for anything that is not a calendar date from 1900 to 2200. */
export function parseDay(date: string): number {
  const match = /^(\d{4})-(\d{2})-(\d{2})$/.exec(date);
  const value = match ? Date.UTC(Number(match[1]), Number(match[2]) - 1, Number(match[3])) : Number.NaN;
  if (
    Number.isNaN(value) ||
    value < Date.UTC(1900, 0, 1) ||
    value >= Date.UTC(2201, 0, 1) ||
    new Date(value).toISOString().slice(0, 10) !== date
  ) {
    throw new RangeError(`not a calendar date: ${date}`);
  }
  return value / DAY;
}

/** A day number to "2026-11-24". */
export function formatDay(day: number): string {
  return new Date(day * DAY).toISOString().slice(0, 10);
}

/** The first instant of the next local day. */
export function nextDay(zone: string, at: number): number {
  return fromLocal(zone, (dayNumber(toLocal(zone, at)) + 1) * DAY);
}

/** "2026-11": the local month of an instant. */
export function monthOf(zone: string, at: number): string {
  return formatDay(dayNumber(toLocal(zone, at))).slice(0, 7);
}

/** The first instant of the next local month. */
export function nextMonth(zone: string, at: number): number {
  const local = new Date(toLocal(zone, at));
  return fromLocal(zone, Date.UTC(local.getUTCFullYear(), local.getUTCMonth() + 1, 1));
}
