import { clockTime, parseClockTime } from "./delay";
import type { OpenHours, WeekHours } from "./sendHours";

const SHORT = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Hours of a day in words: "9:00 to 19:00", "nothing goes out". */
export function sayHours(ranges: readonly OpenHours[]): string {
  return ranges.length === 0
    ? "nothing goes out"
    : ranges.map(({ open, close }) => `${clockTime(open)} to ${clockTime(close)}`).join(" and ");
}

/** "Mon to Fri 9:00 to 19:00, Sat 9:00 to 17:00": neighbours with the same hours said once. */
export function sayWeek(week: WeekHours): string {
  const groups: { from: number; to: number; says: string }[] = [];
  week.forEach((ranges, day) => {
    const says = sayHours(ranges);
    const last = groups.at(-1);
    if (last?.says === says) last.to = day;
    else groups.push({ from: day, to: day, says });
  });
  const open = groups.filter(({ says }) => says !== "nothing goes out");
  if (open.length === 0) return "never";
  return open.map(({ from, to, says }) => `${SHORT[from]}${to > from ? ` to ${SHORT[to]}` : ""} ${says}`).join(", ");
}

/** A day has at most so many stretches of open hours. */
export const MOST_STRETCHES = 3;

/**
 * Hours of a day as people write them, earliest first: "9:00 to 12:30, 14 to 19", "9:00-12:30 and 14:00-19:00".
 * Nothing written is a day on which nothing leaves. What cannot be read gives the reason in words.
 */
export function readHours(text: string): { hours: OpenHours[] } | { wrong: string } {
  const hours: OpenHours[] = [];
  const stretches = text.split(/,|;|&|\band\b/i).filter((part) => part.trim() !== "");
  for (const stretch of stretches) {
    const [open, close, ...more] = stretch.split(/\bto\b|[-–—]/i).map(parseClockTime);
    if (open === null || open === undefined || close === null || close === undefined || more.length > 0)
      return { wrong: `“${stretch.trim().slice(0, 40)}” isn’t a time range; write it like 9:00 to 19:00` };
    if (open >= close) return { wrong: `${clockTime(open)} to ${clockTime(close)} ends before it starts` };
    hours.push({ open, close });
  }
  hours.sort((a, b) => a.open - b.open);
  for (const [index, { open }] of hours.entries())
    if (index > 0 && open <= hours[index - 1].close)
      return { wrong: `${sayHours([hours[index - 1]])} and ${sayHours([hours[index]])} overlap` };
  return hours.length > MOST_STRETCHES ? { wrong: `use no more than ${MOST_STRETCHES} time ranges` } : { hours };
}
