import { DAY, HOUR, MINUTE, weekday } from "../time/zone";

/**
 * Recurrence rules (RFC 5545, section 3.3.10) expanded straight into a window: what lies before it costs nothing, save
 * where a rule counts its occurrences. All times are local wall-clock readings in milliseconds, as in time/zone.
 */

export const FREQUENCIES = ["HOURLY", "DAILY", "WEEKLY", "MONTHLY", "YEARLY"] as const;
export type Frequency = (typeof FREQUENCIES)[number];

export type Rule = {
  freq: Frequency;
  interval: number;
  count: number | null;
  byMonth: readonly number[];
  byWeekNo: readonly number[];
  byYearDay: readonly number[];
  byMonthDay: readonly number[];
  /**
   * ISO weekdays, 0 is Monday; `nth` counts within the month or year, from its end when negative, and is 0 for each.
   */
  byDay: readonly { day: number; nth: number }[];
  byHour: readonly number[];
  byMinute: readonly number[];
  bySecond: readonly number[];
  bySetPos: readonly number[];
  /** On which ISO weekday weeks begin. */
  weekStart: number;
};

/** How much work is left; shared by a whole calendar. */
export type Budget = { periods: number };

/** Thrown where a rule goes further than the budget reaches. */
export class TooFar extends Error {}

/** No appointment recurs more often on one day. */
const MAX_TIMES_A_DAY = 48;

const DAYS = ["MO", "TU", "WE", "TH", "FR", "SA", "SU"];
const LIMITS = {
  byMonth: [1, 12],
  byWeekNo: [-53, 53],
  byYearDay: [-366, 366],
  byMonthDay: [-31, 31],
  byHour: [0, 23],
  byMinute: [0, 59],
  bySecond: [0, 60],
  bySetPos: [-366, 366],
} as const;

/**
 * Reads the parts of a rule; null for one that is none, or that recurs more often than every half hour. `UNTIL` is for the
 * caller.
 */
export function readRule(text: string): Rule | null {
  const parts = new Map(
    text
      .trim()
      .split(";")
      .map((part) => part.split("=") as [string, string])
      .map(([name, value]) => [name.trim().toUpperCase(), (value ?? "").trim().toUpperCase()]),
  );
  const freq = parts.get("FREQ") as Frequency;
  const interval = Number(parts.get("INTERVAL") ?? 1);
  const count = parts.has("COUNT") ? Number(parts.get("COUNT")) : null;
  if (
    !FREQUENCIES.includes(freq) ||
    !Number.isSafeInteger(interval) ||
    interval < 1 ||
    (count !== null && (!Number.isSafeInteger(count) || count < 1))
  )
    return null;
  const numbers = (name: string, key: keyof typeof LIMITS): number[] => {
    const [low, high] = LIMITS[key];
    const list = (parts.get(name) ?? "").split(",").filter(Boolean).slice(0, 400).map(Number);
    return [...new Set(list.filter((n) => Number.isInteger(n) && n >= low && n <= high && (n !== 0 || low >= 0)))];
  };
  const byDay = (parts.get("BYDAY") ?? "").split(",").flatMap((each) => {
    const match = /^([+-]?\d{1,2})?(MO|TU|WE|TH|FR|SA|SU)$/.exec(each.trim());
    return match ? [{ day: DAYS.indexOf(match[2]), nth: Number(match[1] ?? 0) }] : [];
  });
  const [hours, minutes, seconds] = [
    numbers("BYHOUR", "byHour"),
    numbers("BYMINUTE", "byMinute"),
    numbers("BYSECOND", "bySecond"),
  ].map((list) => list.sort((a, b) => a - b));
  const timesADay = (hours.length || (freq === "HOURLY" ? 24 : 1)) * (minutes.length || 1) * (seconds.length || 1);
  if (timesADay > MAX_TIMES_A_DAY) return null;
  return {
    freq,
    interval,
    count,
    byMonth: numbers("BYMONTH", "byMonth"),
    byWeekNo: numbers("BYWEEKNO", "byWeekNo"),
    byYearDay: numbers("BYYEARDAY", "byYearDay"),
    byMonthDay: numbers("BYMONTHDAY", "byMonthDay"),
    byDay,
    byHour: hours,
    byMinute: minutes,
    bySecond: seconds,
    bySetPos: numbers("BYSETPOS", "bySetPos"),
    weekStart: Math.max(0, DAYS.indexOf(parts.get("WKST") ?? "MO")),
  };
}

/**
 * The end that a rule names: wall-clock milliseconds, of UTC where it says so. Null for a rule without an end,
 * "unreadable" for one whose end cannot be read.
 */
export function untilOf(text: string): { local: number; isUtc: boolean } | "unreadable" | null {
  const written = /UNTIL=([0-9TZ:-]+)/i.exec(text)?.[1].replace(/[:-]/g, "").toUpperCase();
  if (!written) return null;
  const [, year, month, day, , hour = "23", minute = "59", second = "59", utc] =
    /^(\d{4})(\d{2})(\d{2})(T(\d{2})(\d{2})(\d{2}))?(Z)?$/.exec(written) ?? [];
  if (!year) return "unreadable";
  const local = Date.UTC(Number(year), Number(month) - 1, Number(day), Number(hour), Number(minute), Number(second));
  return { local, isUtc: utc !== undefined };
}

/**
 * The occurrences of `rule` from `start` on that lie from `from` to `to`, in order. Throws `TooFar` when that would cost
 * more than `budget` holds.
 */
export function occurrencesIn(
  rule: Rule,
  start: number,
  { from, to }: { from: number; to: number },
  budget: Budget,
): number[] {
  const found: number[] = [];
  if (to < start) return found;
  const it = new Expansion(rule, start);
  const last = it.periodOf(to);
  if (rule.count === null) {
    const first = Math.max(0, it.periodOf(Math.max(from, start)) - 1);
    for (let period = Math.ceil(first / rule.interval) * rule.interval; period <= last + 1; period += rule.interval) {
      if (--budget.periods < 0) throw new TooFar();
      for (const at of it.timesOf(period)) if (at >= start && at >= from && at <= to) found.push(at);
    }
    return found;
  }
  let left = rule.count;
  for (let period = 0; period <= last + 1 && left > 0; period += rule.interval) {
    const skipped =
      it.constant === null || period === 0
        ? 0
        : Math.min(Math.floor(left / it.constant) - 1, Math.floor((it.periodOf(from) - 2 - period) / rule.interval));
    if (skipped > 0 && it.constant !== null) {
      left -= skipped * it.constant;
      period += skipped * rule.interval;
    }
    if (--budget.periods < 0) throw new TooFar();
    for (const at of it.timesOf(period)) {
      if (at < start || left === 0) continue;
      left -= 1;
      if (at >= from && at <= to) found.push(at);
    }
  }
  return found;
}

type Day = { number: number; year: number; month: number; date: number; days: number };

/** The periods of one rule, counted from the one in which it starts. */
class Expansion {
  private readonly byMonth: readonly number[];
  private readonly byMonthDay: readonly number[];
  private readonly byDay: readonly { day: number; nth: number }[];
  private readonly times: readonly number[];
  private readonly startDay: Day;
  /** How many occurrences each period has where that is always the same (a plain daily or weekly rule); else null. */
  readonly constant: number | null;

  constructor(
    private readonly rule: Rule,
    private readonly start: number,
  ) {
    const { freq } = rule;
    this.startDay = dayOf(Math.floor(start / DAY));
    const isPlain =
      rule.byWeekNo.length === 0 &&
      rule.byYearDay.length === 0 &&
      rule.byMonthDay.length === 0 &&
      rule.byDay.length === 0;
    this.byMonth = isPlain && freq === "YEARLY" && rule.byMonth.length === 0 ? [this.startDay.month] : rule.byMonth;
    this.byMonthDay = isPlain && (freq === "YEARLY" || freq === "MONTHLY") ? [this.startDay.date] : rule.byMonthDay;
    this.byDay = isPlain && freq === "WEEKLY" ? [{ day: weekday(this.startDay.number), nth: 0 }] : rule.byDay;
    this.times = this.timesOfDay();
    const limits =
      this.byMonth.length +
      this.byMonthDay.length +
      rule.byYearDay.length +
      rule.byWeekNo.length +
      rule.bySetPos.length;
    const days =
      freq === "DAILY" && this.byDay.length === 0
        ? 1
        : freq === "WEEKLY"
          ? new Set(this.byDay.map(({ day }) => day)).size
          : null;
    this.constant = limits === 0 && days !== null && days > 0 ? days * this.times.length : null;
  }

  /** Times of day in milliseconds, in order; for an hourly rule, times within the hour. */
  private timesOfDay(): number[] {
    const { byHour, byMinute, bySecond, freq } = this.rule;
    const time = this.start - this.startDay.number * DAY;
    const hours = freq === "HOURLY" ? [0] : byHour.length > 0 ? byHour : [Math.floor(time / HOUR)];
    const minutes = byMinute.length > 0 ? byMinute : [Math.floor(time / MINUTE) % 60];
    const seconds = bySecond.length > 0 ? bySecond : [Math.floor(time / 1000) % 60];
    return hours.flatMap((hour) =>
      minutes.flatMap((minute) => seconds.map((second) => hour * HOUR + minute * MINUTE + second * 1000)),
    );
  }

  /** Which period an instant lies in; 0 is that of the start. */
  periodOf(at: number): number {
    const day = Math.floor(at / DAY);
    switch (this.rule.freq) {
      case "HOURLY":
        return Math.floor(at / HOUR) - Math.floor(this.start / HOUR);
      case "DAILY":
        return day - this.startDay.number;
      case "WEEKLY":
        return (this.weekOf(day) - this.weekOf(this.startDay.number)) / 7;
      case "MONTHLY": {
        const { year, month } = dayOf(day);
        return (year - this.startDay.year) * 12 + month - this.startDay.month;
      }
      default:
        return dayOf(day).year - this.startDay.year;
    }
  }

  private weekOf(day: number): number {
    return day - ((weekday(day) - this.rule.weekStart + 7) % 7);
  }

  /** The occurrences of one period, in order. */
  timesOf(period: number): number[] {
    const { freq, bySetPos, byHour } = this.rule;
    if (freq === "HOURLY") {
      const hour = (Math.floor(this.start / HOUR) + period) * HOUR;
      const day = dayOf(Math.floor(hour / DAY));
      if ((byHour.length > 0 && !byHour.includes((hour - day.number * DAY) / HOUR)) || !this.fits(day)) return [];
      return pick(
        this.times.map((time) => hour + time),
        bySetPos,
      );
    }
    const times = this.daysOf(period)
      .filter((day) => this.fits(day))
      .flatMap(({ number }) => this.times.map((time) => number * DAY + time));
    return pick(times, bySetPos);
  }

  private daysOf(period: number): Day[] {
    const { freq } = this.rule;
    if (freq === "DAILY") return [dayOf(this.startDay.number + period)];
    if (freq === "WEEKLY") {
      const first = this.weekOf(this.startDay.number) + period * 7;
      return Array.from({ length: 7 }, (_, index) => dayOf(first + index));
    }
    if (freq === "MONTHLY") {
      const months = this.startDay.year * 12 + this.startDay.month - 1 + period;
      return this.byMonth.length > 0 && !this.byMonth.includes((months % 12) + 1)
        ? []
        : daysOfMonth(Math.floor(months / 12), (months % 12) + 1);
    }
    const year = this.startDay.year + period;
    const months =
      this.byMonth.length > 0
        ? [...this.byMonth].sort((a, b) => a - b)
        : Array.from({ length: 12 }, (_, index) => index + 1);
    return months.flatMap((month) => daysOfMonth(year, month));
  }

  private fits(day: Day): boolean {
    const { byYearDay, byWeekNo } = this.rule;
    if (this.byMonth.length > 0 && !this.byMonth.includes(day.month)) return false;
    if (
      this.byMonthDay.length > 0 &&
      !this.byMonthDay.includes(day.date) &&
      !this.byMonthDay.includes(day.date - day.days - 1)
    )
      return false;
    if (byYearDay.length > 0) {
      const first = dayNumberOf(day.year, 1, 1);
      const place = day.number - first + 1;
      if (!byYearDay.includes(place) && !byYearDay.includes(place - (dayNumberOf(day.year + 1, 1, 1) - first) - 1))
        return false;
    }
    if (byWeekNo.length > 0 && !this.isInWeek(day, byWeekNo)) return false;
    return (
      this.byDay.length === 0 ||
      this.byDay.some(({ day: wanted, nth }) => wanted === weekday(day.number) && this.isNth(day, nth))
    );
  }

  /**
   * Weeks count from the first with at least four days in the year; a year's first and last days may belong to its
   * neighbours' weeks.
   */
  private isInWeek(day: Day, wanted: readonly number[]): boolean {
    const firstOf = (year: number) => this.weekOf(dayNumberOf(year, 1, 4));
    const year =
      day.number < firstOf(day.year) ? day.year - 1 : day.number >= firstOf(day.year + 1) ? day.year + 1 : day.year;
    const weeks = (firstOf(year + 1) - firstOf(year)) / 7;
    const place = Math.floor((day.number - firstOf(year)) / 7) + 1;
    return wanted.includes(place) || wanted.includes(place - weeks - 1);
  }

  /**
   * Whether a day is the nth of its weekday, counted in the month, or in the year where a yearly rule names no month.
   */
  private isNth(day: Day, nth: number): boolean {
    const { freq, byMonth } = this.rule;
    if (nth === 0 || (freq !== "MONTHLY" && freq !== "YEARLY")) return true;
    const inYear = freq === "YEARLY" && byMonth.length === 0;
    const first = inYear ? dayNumberOf(day.year, 1, 1) : day.number - day.date + 1;
    const length = inYear ? dayNumberOf(day.year + 1, 1, 1) - first : day.days;
    const before = day.number - first;
    return nth > 0 ? Math.floor(before / 7) + 1 === nth : Math.floor((length - 1 - before) / 7) + 1 === -nth;
  }
}

/** Of the times of one period, those at the wanted places, counted from its end when negative. */
function pick(times: number[], places: readonly number[]): number[] {
  if (places.length === 0) return times;
  const chosen = new Set(places.map((place) => (place > 0 ? place - 1 : times.length + place)));
  return times.filter((_, index) => chosen.has(index));
}

function dayNumberOf(year: number, month: number, date: number): number {
  return Math.round(new Date(0).setUTCFullYear(year, month - 1, date) / DAY);
}

function dayOf(number: number): Day {
  const at = new Date(number * DAY);
  const [year, month] = [at.getUTCFullYear(), at.getUTCMonth() + 1];
  return { number, year, month, date: at.getUTCDate(), days: daysIn(year, month) };
}

function daysIn(year: number, month: number): number {
  if (month === 2) return (year % 4 === 0 && year % 100 !== 0) || year % 400 === 0 ? 29 : 28;
  return month === 4 || month === 6 || month === 9 || month === 11 ? 30 : 31;
}

function daysOfMonth(year: number, month: number): Day[] {
  const first = dayNumberOf(year, month, 1);
  const days = daysIn(year, month);
  return Array.from({ length: days }, (_, index) => ({ number: first + index, year, month, date: index + 1, days }));
}
