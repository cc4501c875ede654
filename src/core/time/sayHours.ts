import { clockTime } from "./delay";
import type { OpenHours, WeekHours } from "./sendHours";

const SHORT = ["Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun"];

/** Hours of a day in words: "9:00 to 19:00", "nothing leaves". */
export function sayHours(ranges: readonly OpenHours[]): string {
  return ranges.length === 0 ? "nothing leaves" : ranges.map(({ open, close }) => `${clockTime(open)} to ${clockTime(close)}`).join(" and ");
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
