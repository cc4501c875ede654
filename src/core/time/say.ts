import { DAY, dayNumber, toLocal, weekday } from "./zone";

/** Dates as people say them, in a branch's zone: "Tue 24 Nov, 14:05". English wording. */

/** Weekdays from Monday (0), as in send hours. */
export const WEEKDAYS = ["Monday", "Tuesday", "Wednesday", "Thursday", "Friday", "Saturday", "Sunday"] as const;

const DAYS = WEEKDAYS.map((name) => name.slice(0, 3));
const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** "14:05" in `zone`. */
export function sayTime(zone: string, instant: number): string {
  return new Date(toLocal(zone, instant)).toISOString().slice(11, 16).replace(/^0/, "");
}

/** "Tue 24 Nov", with the year where it is not the year of `now`. */
export function sayDay(zone: string, instant: number, now: number = instant): string {
  const local = new Date(toLocal(zone, instant));
  const text = `${DAYS[weekday(dayNumber(local.getTime()))]} ${local.getUTCDate()} ${MONTHS[local.getUTCMonth()]}`;
  const sameYear = local.getUTCFullYear() === new Date(toLocal(zone, now)).getUTCFullYear();
  return sameYear ? text : `${text} ${local.getUTCFullYear()}`;
}

/** "Tue 24 Nov, 14:05". */
export function sayMoment(zone: string, instant: number, now: number = instant): string {
  return `${sayDay(zone, instant, now)}, ${sayTime(zone, instant)}`;
}

/** The day of a moment: "today", "tomorrow", "Fri 27 Nov". */
export const sayWhichDay = (zone: string, instant: number, now: number): string =>
  sayWhen(zone, instant, now).replace(/ at [\d:]+$/, "");

/** A moment as near `now` as one can say it: "today at 14:05", "tomorrow at 9:00", "Fri 27 Nov at 9:00". */
export function sayWhen(zone: string, instant: number, now: number): string {
  const days = dayNumber(toLocal(zone, instant)) - dayNumber(toLocal(zone, now));
  const time = sayTime(zone, instant);
  if (days === 0) return `today at ${time}`;
  if (days === 1) return `tomorrow at ${time}`;
  if (days === -1) return `yesterday at ${time}`;
  return `${sayDay(zone, instant, now)} at ${time}`;
}

/**
 * How long ago, short: "just now", "38 min ago", "2 h ago", "yesterday", "3 days ago". Future instants say "in ...".
 */
export function sayAgo(instant: number, now: number): string {
  const span = Math.abs(now - instant);
  const past = now >= instant;
  const minutes = Math.round(span / 60_000);
  if (minutes < 1) return past ? "just now" : "in a moment";
  const say = (text: string) => (past ? `${text} ago` : `in ${text}`);
  if (minutes < 60) return say(`${minutes} min`);
  const hours = Math.round(span / 3_600_000);
  if (hours < 24) return say(`${hours} h`);
  const days = Math.round(span / DAY);
  return days === 1 ? (past ? "yesterday" : "tomorrow") : say(`${days} days`);
}

/** "one thing", "three things", "14 things": small numbers as words. */
export function sayCount(count: number, one: string, many = `${one}s`): string {
  return `${count === 0 ? "no" : sayNumber(count)} ${pluralOf(count, one, many)}`;
}

/** What is counted, in the number that goes with it: "person", "people". */
export function pluralOf(count: number, one: string, many = `${one}s`): string {
  return count === 1 ? one : many;
}

/** A count always in figures, for lists of them: "1 text", "14 texts". */
export function sayFigure(count: number, one: string, many?: string): string {
  return `${count.toLocaleString("en-GB")} ${pluralOf(count, one, many)}`;
}

const NUMBERS = "zero one two three four five six seven eight nine ten eleven twelve".split(" ");

/** A whole number as people write it: in words to twelve, in figures above. */
function sayNumber(count: number): string {
  return NUMBERS[count] ?? count.toLocaleString("en-GB");
}

/** From one number to another, both written in one style: "one to eight", "9 to 14". */
export function sayRange(low: number, high: number): string {
  if (low === high) return sayNumber(low);
  const say = high < NUMBERS.length ? sayNumber : (count: number) => count.toLocaleString("en-GB");
  return `${say(low)} to ${say(high)}`;
}

/** The first letter put large, for a sentence that begins with a count or a delay. */
export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** Counts go no further than this: nobody reads a longer number in a chip, and counting a million takes its time. */
export const MOST_COUNTED = 1000;

/** A count as it is shown: "1,000+" beyond what is counted. */
export function sayCounted(count: number): string {
  return count > MOST_COUNTED ? `${MOST_COUNTED.toLocaleString("en-GB")}+` : count.toLocaleString("en-GB");
}
