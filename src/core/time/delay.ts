import { DAY, fromLocal, HOUR, MINUTE, timeOfDay, toLocal } from "./zone";

/**
 * How long after its anchor a message is wanted.
 * Minutes and hours are elapsed time; days and weeks are calendar days in the branch's zone, at the same wall time or,
 * with `at` (minutes after local midnight), at a set time of day.
 */
export const DELAY_UNITS = ["minutes", "hours", "days", "weeks"] as const;
export type Delay = { amount: number; unit: (typeof DELAY_UNITS)[number]; at?: number | null };

/** The instant `delay` after `anchor` (both in milliseconds since the epoch), with calendar days counted in `zone`. */
export function addDelay(anchor: number, delay: Delay, zone: string): number {
  if (delay.unit === "minutes") return anchor + delay.amount * MINUTE;
  if (delay.unit === "hours") return anchor + delay.amount * HOUR;
  const days = delay.unit === "weeks" ? delay.amount * 7 : delay.amount;
  const local = toLocal(zone, anchor);
  const setTime = delay.at;
  const time = setTime === undefined || setTime === null ? timeOfDay(local) : setTime * MINUTE;
  const wanted = fromLocal(zone, Math.floor(local / DAY) * DAY + days * DAY + time);
  return Math.max(wanted, anchor);
}

/** "2 hours", "1 day", "2 days at 10:00". */
export function describeDelay(delay: Delay): string {
  const noun = delay.amount === 1 ? delay.unit.slice(0, -1) : delay.unit;
  const span = delay.amount === 0 ? "straight away" : `${delay.amount} ${noun}`;
  const isDays = delay.unit === "days" || delay.unit === "weeks";
  return isDays && delay.at !== undefined && delay.at !== null ? `${span} at ${clockTime(delay.at)}` : span;
}

/** Minutes after midnight as people write them: 540 is "9:00". */
export function clockTime(minutes: number): string {
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
}

/** "9:00", "09:00" or "21" to minutes after midnight; null when it is no time of day. "24:00" is the day's end. */
export function parseClockTime(text: string): number | null {
  const match = /^\s*(\d{1,2})(?::(\d{2}))?\s*$/.exec(text);
  if (!match) return null;
  const minutes = Number(match[1]) * 60 + Number(match[2] ?? 0);
  return Number(match[2] ?? 0) < 60 && minutes <= 24 * 60 ? minutes : null;
}
