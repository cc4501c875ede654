import type ICAL from "ical.js";
import { DAY, HOUR, MINUTE } from "../time/zone";
import { type Budget, occurrencesIn, type Rule, readRule, untilOf } from "./recurrence";

/**
 * A time zone that a calendar brings along (RFC 5545, section 3.6.5): only the changes around the times that are asked
 * for are worked out, and only for rules that recur yearly, as those of real zones do. Whatever a file says, a lookup
 * costs a few occurrences of a few rules.
 */

/** An observance: standard time, or daylight saving time, and when it begins. */
type Observance = {
  /** Wall-clock milliseconds of its first onset, as clocks showed just before. */
  start: number;
  /** Milliseconds east of UTC, before and after an onset. */
  from: number;
  to: number;
  rule: Rule | null;
  /** The last onset that the rule reaches, in wall-clock milliseconds. */
  until: number;
  dates: readonly number[];
};

type Onset = { local: number; offset: number };

/** As many observances, and single dates of one, as are read; real zones have a few dozen at most. */
const MAX_OBSERVANCES = 60;
const MAX_DATES = 200;
/** Rules of a zone are walked by year, so a year costs one period of each. */
const BUDGET = 20_000;
const YEAR = 366 * DAY;

/**
 * How wall-clock readings of the zone become instants: gives the milliseconds to subtract. Null for a component that
 * has no observance that can be read.
 */
export function readOwnZone(component: ICAL.Component): ((local: number) => number) | null {
  const observances = component
    .getAllSubcomponents()
    .slice(0, MAX_OBSERVANCES)
    .flatMap((each) => readObservance(each) ?? []);
  if (observances.length === 0) return null;
  const first = observances.reduce((a, b) => (b.start < a.start ? b : a));
  const budget: Budget = { periods: BUDGET };
  const byYear = new Map<number, Onset[]>();
  return (local) => {
    const year = Math.floor(local / YEAR);
    let onsets = byYear.get(year);
    if (!onsets) {
      onsets = onsetsAround(observances, year * YEAR, budget);
      byYear.set(year, onsets);
    }
    return onsets.findLast((onset) => onset.local <= local)?.offset ?? first.from;
  };
}

/** The onsets that matter for the year that begins at `from`, in order; of those before it the last of each kind. */
function onsetsAround(observances: readonly Observance[], from: number, budget: Budget): Onset[] {
  const to = from + YEAR;
  return observances
    .flatMap(({ start, rule, until, dates, to: offset }) => {
      const single = dates.filter((date) => date <= to);
      // A yearly rule has had an onset within so many years before.
      const since = from - (rule ? Math.min(rule.interval, 30) + 1 : 0) * YEAR;
      let recurring: number[] = [];
      try {
        if (rule) recurring = occurrencesIn(rule, start, { from: since, to: Math.min(to, until) }, budget);
        // The rule has ended before: its last onset still holds.
        if (rule && recurring.length === 0 && until < since && until >= start)
          recurring = occurrencesIn(rule, start, { from: until - 2 * YEAR, to: until }, budget);
      } catch {
        // A rule that counts without end: its beginning holds.
      }
      return [...single, ...recurring].map((local): Onset => ({ local, offset }));
    })
    .sort((a, b) => a.local - b.local);
}

/** An observance; null for one that the library or we cannot read. */
function readObservance(component: ICAL.Component): Observance | null {
  try {
    return observanceOf(component);
  } catch {
    return null;
  }
}

function observanceOf(component: ICAL.Component): Observance | null {
  const from = offsetOf(component, "tzoffsetfrom");
  const to = offsetOf(component, "tzoffsetto");
  const [start] = datesOf(component, "dtstart");
  if (from === null || to === null || start === undefined) return null;
  const text = String(component.getFirstPropertyValue("rrule") ?? "");
  const rule = text ? readRule(text) : null;
  return {
    start,
    from,
    to,
    rule: rule?.freq === "YEARLY" ? rule : null,
    until: lastOnsetOf(text, from),
    dates: [start, ...datesOf(component, "rdate").slice(0, MAX_DATES)],
  };
}

function offsetOf(component: ICAL.Component, name: string): number | null {
  const written = String(component.getFirstPropertyValue(name) ?? "");
  const [, sign, hours, minutes, seconds = "0"] = /^([+-])(\d{2}):?(\d{2}):?(\d{2})?$/.exec(written) ?? [];
  if (!sign || Number(hours) > 23 || Number(minutes) > 59) return null;
  return (sign === "-" ? -1 : 1) * (Number(hours) * HOUR + Number(minutes) * MINUTE + Number(seconds) * 1000);
}

/** Wall-clock milliseconds of a property's dates, as written (jCal, RFC 7265). */
function datesOf(component: ICAL.Component, name: string): number[] {
  return component.getAllProperties(name).flatMap((property) => {
    const [, , , ...values] = property.toJSON() as unknown[];
    return values.flatMap((value) => {
      const [, year, month, day, , hour = "0", minute = "0", second = "0"] =
        /^(\d{4})-(\d{2})-(\d{2})(T(\d{2}):(\d{2}):(\d{2})Z?)?$/.exec(String(value)) ?? [];
      if (!year) return [];
      const date = new Date(0).setUTCFullYear(Number(year), Number(month) - 1, Number(day));
      return [date + Number(hour) * HOUR + Number(minute) * MINUTE + Number(second) * 1000];
    });
  });
}

/** The last wall-clock reading that a rule reaches; an end in UTC is read by the clock before the onset. */
function lastOnsetOf(rule: string, offset: number): number {
  const until = untilOf(rule);
  if (until === null || until === "unreadable") return Number.POSITIVE_INFINITY;
  return until.isUtc ? until.local + offset : until.local;
}
