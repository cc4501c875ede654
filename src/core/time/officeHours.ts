import { stretchesOn, type WeekHours } from "./sendHours";
import { dayNumber, toLocal, weekday } from "./zone";

/** When somebody is there to answer: the hours of a branch, in its zone, without its closed days. */
export type OfficeCalendar = { zone: string; hours: WeekHours; closedDays: ReadonlySet<number> };

const FARTHEST_DAYS = 400;

/** The open stretches of a local day as instants, in their order. */
const stretchesOf = (day: number, { zone, hours, closedDays }: OfficeCalendar) =>
  closedDays.has(day) ? [] : stretchesOn(day, zone, hours[weekday(day)] ?? []);

/** Whether somebody is there at an instant: from the opening up to, not at, the closing. */
export function isOpen(at: number, calendar: OfficeCalendar): boolean {
  return stretchesOf(dayNumber(toLocal(calendar.zone, at)), calendar).some(({ from, to }) => from <= at && at < to);
}

/** The first instant at or after `at` at which somebody is there; null where nobody ever is. */
export function nextOpen(at: number, calendar: OfficeCalendar): number | null {
  const first = dayNumber(toLocal(calendar.zone, at));
  for (let day = first; day < first + FARTHEST_DAYS; day++)
    for (const { from, to } of stretchesOf(day, calendar)) if (at < to) return Math.max(at, from);
  return null;
}

/** The last instant before `at` at which somebody was there, as the end of its stretch; null where nobody was lately. */
export function lastClosed(at: number, calendar: OfficeCalendar): number | null {
  const last = dayNumber(toLocal(calendar.zone, at));
  for (let day = last; day > last - 60; day--)
    for (const { to } of stretchesOf(day, calendar).reverse()) if (to <= at) return to;
  return null;
}

/**
 * The instant at which `duration` milliseconds of office hours have passed since `from`. Where there are no hours at
 * all the clock counts.
 */
export function afterOfficeTime(from: number, duration: number, calendar: OfficeCalendar): number {
  let left = duration;
  const first = dayNumber(toLocal(calendar.zone, from));
  for (let day = first; day < first + FARTHEST_DAYS; day++)
    for (const stretch of stretchesOf(day, calendar)) {
      const begins = Math.max(from, stretch.from);
      const length = stretch.to - begins;
      if (length <= 0) continue;
      if (left <= length) return begins + left;
      left -= length;
    }
  return from + duration;
}

/** How many milliseconds of office hours lie between two instants; 0 where `to` is not after `from`. */
export function officeTimeBetween(from: number, to: number, calendar: OfficeCalendar): number {
  let sum = 0;
  for (let day = dayNumber(toLocal(calendar.zone, from)); day <= dayNumber(toLocal(calendar.zone, to)); day++)
    for (const stretch of stretchesOf(day, calendar))
      sum += Math.max(0, Math.min(to, stretch.to) - Math.max(from, stretch.from));
  return sum;
}

/** The hours that a branch begins with: those in which emails leave, never at night. */
export function startingHours(hours: WeekHours): WeekHours {
  return hours.map((day) =>
    day
      .map(({ open, close }) => ({ open: Math.max(open, 7 * 60), close: Math.min(close, 21 * 60) }))
      .filter(({ open, close }) => close - open >= 30),
  );
}
