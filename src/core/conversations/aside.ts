import { nextOpen, type OfficeCalendar } from "../time/officeHours";
import { DAY, dayNumber, fromLocal, HOUR, parseDay, toLocal, weekday } from "../time/zone";

/** Until when something is set aside: an hour, the next day on which somebody is there, the next Monday, or a day (ISO). */
export type Aside = "hour" | "tomorrow" | "week" | { day: string };

/** The instant at which it comes back: in office hours, except after an hour. */
export function asideUntil(until: Aside, calendar: OfficeCalendar, now: number): number {
  if (until === "hour") return now + HOUR;
  const today = dayNumber(toLocal(calendar.zone, now));
  const day = until === "tomorrow" ? today + 1 : until === "week" ? today + 7 - weekday(today) : parseDay(until.day);
  const begins = fromLocal(calendar.zone, day * DAY);
  return nextOpen(begins, calendar) ?? begins + 9 * HOUR;
}
