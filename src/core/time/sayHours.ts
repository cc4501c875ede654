import { clockTime, parseClockTime } from "./delay";
import type { OpenHours, WeekHours } from "./sendHours";

const SHORT = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Hours of a day in words: "9:00 to 19:00", "nothing leaves". */
export function sayHours(ranges: readonly OpenHours[]): string {
  return ranges.length === 0
    ? "nothing leaves"
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
  const open = groups.filter(({ says }) => says !== "nothing leaves");
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
      return { wrong: `“${stretch.trim().slice(0, 40)}” is not a stretch of hours; write it like 9:00 to 19:00` };
    if (open >= close) return { wrong: `${clockTime(open)} to ${clockTime(close)} ends before it begins` };
    hours.push({ open, close });
  }
  hours.sort((a, b) => a.open - b.open);
  for (const [index, { open }] of hours.entries())
    if (index > 0 && open <= hours[index - 1].close)
      return { wrong: `${sayHours([hours[index - 1]])} and ${sayHours([hours[index]])} run into each other` };
  return hours.length > MOST_STRETCHES ? { wrong: `write at most ${MOST_STRETCHES} stretches of hours` } : { hours };
}
