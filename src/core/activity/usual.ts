import { DAY, dayNumber, HOUR, weekday } from "../time/zone";

/**
 * What is usual for something that arrives by itself (visits of a feed, messages that leave): learnt from its own past
 * weeks, weekday by weekday and hour by hour. All times are local milliseconds ("wall clock" of the client), days are
 * whole local days since 1970.
 */

export type Usual = {
  /** Expected arrivals of each hour, `[weekday][hour]`, Monday first. */
  perHour: number[][];
  /** How even days are: the smaller, the more a day can differ from the mean by itself (shape of a gamma distribution). */
  evenness: number;
  /** How many arrivals it was learnt from. */
  learntFrom: number;
  /** How many arrivals a quarter has. */
  perQuarter: number;
};

/** How many arrived at a local instant, or within the hour from it. */
export type Arrivals = { at: number; count: number };

/** So many weeks are looked back at. */
export const WEEKS_LEARNT = 8;

/** Fewer days or arrivals than these teach nothing. */
const LEAST_DAYS = 14;
const LEAST_ARRIVALS = 8;

/** A word about a silence that is none comes at most once in so many quarters. */
const QUARTERS_PER_FALSE_WORD = 10;

/** At most this even, however alike the past days were: they are few. */
const MOST_EVEN = 12;

/**
 * Learns what is usual from what arrived in `[fromDay, toDay)`; days in `closed` count neither way. Null where there is too little to learn from.
 */
export function learnUsual(
  arrivals: readonly Arrivals[],
  fromDay: number,
  toDay: number,
  closed: ReadonlySet<number> = new Set(),
): Usual | null {
  const days = Array.from({ length: toDay - fromDay }, (_, index) => fromDay + index).filter((day) => !closed.has(day));
  const counted = new Map(days.map((day) => [day, new Array<number>(24).fill(0)]));
  let total = 0;
  for (const { at, count } of arrivals) {
    const hours = counted.get(dayNumber(at));
    if (!hours) continue;
    hours[Math.floor((at - dayNumber(at) * DAY) / HOUR)] += count;
    total += count;
  }
  if (days.length < LEAST_DAYS || total < LEAST_ARRIVALS) return null;
  const perHour = Array.from({ length: 7 }, (_, on) => {
    const same = days.filter((day) => weekday(day) === on);
    return Array.from(
      { length: 24 },
      (_, hour) => same.reduce((sum, day) => sum + (counted.get(day)?.[hour] ?? 0), 0) / Math.max(1, same.length),
    );
  });
  return {
    perHour,
    evenness: evennessOf(days, counted, perHour),
    learntFrom: total,
    perQuarter: (total / days.length) * 91,
  };
}

/**
 * How far days differ from what their weekday expects, beyond what chance does alone: the shape of the gamma
 * distribution of a day's own factor, by moments.
 */
function evennessOf(days: readonly number[], counted: ReadonlyMap<number, number[]>, perHour: number[][]): number {
  let beyond = 0;
  let scale = 0;
  let noise = 0;
  for (const day of days) {
    const expected = sum(perHour[weekday(day)]);
    const found = sum(counted.get(day) ?? []);
    beyond += (found - expected) ** 2 - expected;
    scale += expected ** 2;
    noise += 2 * expected ** 2 + expected;
  }
  // Of eight Mondays the mean is itself one eighth of each; what chance alone can do (one standard error) is not held
  // against the days, or rare arrivals would always look wild.
  const found = beyond * (WEEKS_LEARNT / (WEEKS_LEARNT - 1)) - Math.sqrt(noise);
  const spread = scale > 0 ? Math.max(0, found / scale) : 0;
  return spread > 0 ? Math.min(MOST_EVEN, 1 / spread) : MOST_EVEN;
}

const sum = (list: readonly number[]) => list.reduce((all, one) => all + one, 0);

/** How many arrivals each day between two instants leads one to expect. */
function expectedByDay({ perHour }: Usual, from: number, to: number, closed: ReadonlySet<number>): number[] {
  const found: number[] = [];
  for (let day = dayNumber(from); day * DAY < to; day++) {
    if (closed.has(day)) continue;
    let expected = 0;
    for (let hour = 0; hour < 24; hour++) {
      const begins = day * DAY + hour * HOUR;
      const part = Math.max(0, Math.min(to, begins + HOUR) - Math.max(from, begins)) / HOUR;
      expected += part * perHour[weekday(day)][hour];
    }
    found.push(expected);
  }
  return found;
}

/** Between which numbers the arrivals of a day are by `now`, on four days of five; null on a day on which it is closed. */
export function usualByNow(
  usual: Usual,
  now: number,
  closed: ReadonlySet<number> = new Set(),
): { low: number; high: number } | null {
  const [expected] = expectedByDay(usual, dayNumber(now) * DAY, now, closed);
  if (expected === undefined) return null;
  const spread = 1.28 * Math.sqrt(expected + expected ** 2 / usual.evenness);
  return { low: Math.max(0, Math.floor(expected - spread)), high: Math.ceil(expected + spread) };
}

/**
 * Whether nothing having come since `last` is longer than usual: so unlikely that a word about it would be false at
 * most once in ten quarters. The rarer arrivals are, the longer it takes to know. What is usual is learnt until the
 * day of `last`: a silence must not become the usual.
 */
export function isSilent(usual: Usual, last: number, now: number, closed: ReadonlySet<number> = new Set()): boolean {
  // What was learnt from little is believed less.
  const doubt = 1 - 1 / Math.sqrt(usual.learntFrom);
  const chance = expectedByDay(usual, last, now, closed).reduce(
    (all, expected) => all * (1 + (expected * doubt) / usual.evenness) ** -usual.evenness,
    1,
  );
  return chance < 1 / (QUARTERS_PER_FALSE_WORD * Math.max(1, usual.perQuarter));
}
