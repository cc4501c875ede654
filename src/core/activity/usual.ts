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
  /**
   * The longest that it may be silent: in time on days on which something comes, where arrivals come in regular pushes;
   * else in arrivals that were expected meanwhile.
   */
  longest: { time: number } | { expected: number };
  /** Days of the week (Monday first) on which time counts. */
  isOn: boolean[];
};

/** How many arrived at a local instant, or within a few minutes from it. */
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
  const evenness = evennessOf(days, counted, perHour);
  const lately = paceLately(days, counted, perHour);
  const usual = perHour.map((hours) => hours.map((expected) => expected * lately));
  const isOn = daysOn(perHour);
  const instants = arrivals.map(({ at }) => at).filter((at) => counted.has(dayNumber(at)));
  return {
    perHour: usual,
    evenness,
    learntFrom: total,
    perQuarter: (total / days.length) * 91,
    longest: longestOf(
      [...new Set(instants)].sort((a, b) => a - b),
      { perHour: usual, isOn },
      closed,
      91 / days.length,
    ),
    isOn,
  };
}

/** So many of the last days learnt from tell whether there is less by now. */
const LATELY = [5, 10, 15];

/**
 * How much of what is usual has come in the last days, where that is less than chance explains: at the end of a
 * season less is usual than before. Never more than 1.
 */
function paceLately(days: readonly number[], counted: ReadonlyMap<number, number[]>, perHour: number[][]): number {
  const paces = LATELY.map((some) => {
    const last = days.slice(-some);
    const expected = sum(last.map((day) => sum(perHour[weekday(day)])));
    const found = sum(last.map((day) => sum(counted.get(day) ?? [])));
    return expected > 0 ? (found + 1.5 * Math.sqrt(found) + 1) / expected : 1;
  });
  return Math.min(1, ...paces);
}

/**
 * The days of the week on which time counts: those on which something comes. Where there are hardly any, all: of what
 * comes once a week, the days between are what shows that it stayed away.
 */
function daysOn(perHour: number[][]): boolean[] {
  const perDay = perHour.map(sum);
  const most = Math.max(...perDay);
  const isActive = perDay.map((expected) => expected > most / 20);
  return isActive.filter(Boolean).length > 2 ? isActive : isActive.map(() => true);
}

/** A gap is another kind of gap than the next shorter one where it is so many times as long. */
const OTHER_KIND = 4;
/** Pushes are regular where the deviation of their gaps is at most this share of their mean. */
const MOST_IRREGULAR = 0.35;
/** A push takes at most this share of the time from one to the next: nights between opening hours part none. */
const LONGEST_PUSH = 0.15;
/** Standard deviations beyond the mean of regular gaps: one in fifteen hundred is longer. */
const FAR = 3.2;
/** Gaps up to so many times as long as those of arrivals that know nothing of one another are taken for such. */
const INDEPENDENT = 2;
/** Numbers of the longest gaps from which is told how far beyond them others can be. */
const LONGEST = [6, 10, 16, 25];
/** How much more than was seen the excess of the longest gaps may be, in its standard errors. */
const DOUBT = 1;

/**
 * The longest that a gap may be, learnt from the gaps that were: exceeded by chance at most once in ten quarters. Where
 * arrivals come in pushes, the gaps between these are a kind of their own and regular: their mean and spread tell.
 * Otherwise the longest gaps tell how far beyond them others can be (exponential excess over a threshold, from whichever
 * number of gaps makes it longest): 0 where arrivals come one by one, as chance has it, and need no second word.
 *
 * @param instants in their order, local milliseconds
 * @param quarters how many times what was learnt from goes into a quarter
 */
function longestOf(
  instants: readonly number[],
  usual: Pick<Usual, "perHour" | "isOn">,
  closed: ReadonlySet<number>,
  quarters: number,
): Usual["longest"] {
  const gapsBy = (clock: (at: number) => number) => {
    const read = instants.map(clock);
    return read
      .slice(1)
      .map((at, index) => at - read[index])
      .sort((a, b) => b - a);
  };
  const { expected, time } = clocksOf(usual, instants, closed);
  const times = gapsBy(time);
  const parted = times.findIndex((time, at) => at >= 4 && at < 130 && time >= OTHER_KIND * (times[at + 1] ?? 0));
  if (parted >= 0 && times[parted] >= 3 * HOUR) {
    const regular = times.slice(0, parted + 1);
    const mean = sum(regular) / regular.length;
    const deviation = Math.sqrt(sum(regular.map((time) => (time - mean) ** 2)) / (regular.length - 1));
    const isPushed = sum(times.slice(parted + 1)) <= LONGEST_PUSH * sum(regular);
    if (isPushed && deviation <= MOST_IRREGULAR * mean)
      return { time: mean + Math.max(2 * HOUR, FAR * deviation * (1 + 1 / Math.sqrt(regular.length))) };
  }
  const gaps = gapsBy(expected);
  const levels = LONGEST.filter((most) => most < gaps.length).map((most) => {
    const excess = sum(gaps.slice(0, most).map((gap) => gap - gaps[most])) / most;
    return gaps[most] + excess * (1 + DOUBT / Math.sqrt(most)) * Math.log(QUARTERS_PER_FALSE_WORD * most * quarters);
  });
  const longest = Math.max(0, ...levels);
  const independent = Math.log(QUARTERS_PER_FALSE_WORD * instants.length * quarters);
  return { expected: longest > INDEPENDENT * independent ? longest : 0 };
}

/** Two clocks that stand still on closed days: arrivals expected so far, and time on days that count. */
function clocksOf(
  { perHour, isOn }: Pick<Usual, "perHour" | "isOn">,
  instants: readonly number[],
  closed: ReadonlySet<number>,
): { expected: (at: number) => number; time: (at: number) => number } {
  const first = dayNumber(instants[0] ?? 0);
  const last = dayNumber(instants.at(-1) ?? 0);
  // What has come by the beginning of each hour of a day, and of each day.
  const byHour = perHour.map((hours) => {
    const until = [0];
    for (const expected of hours) until.push(until[until.length - 1] + expected);
    return until;
  });
  const days: { expected: number; time: number }[] = [{ expected: 0, time: 0 }];
  for (let day = first; day < last; day++) {
    const before = days[days.length - 1];
    const [on, counts] = [weekday(day), !closed.has(day)];
    days.push({
      expected: before.expected + (counts ? byHour[on][24] : 0),
      time: before.time + (counts && isOn[on] ? DAY : 0),
    });
  }
  const place = (at: number) => {
    const day = dayNumber(at);
    return { before: days[day - first], on: weekday(day), passed: at - day * DAY, counts: !closed.has(day) };
  };
  return {
    expected: (at) => {
      const { before, on, passed, counts } = place(at);
      const hour = Math.floor(passed / HOUR);
      return before.expected + (counts ? byHour[on][hour] + perHour[on][hour] * (passed / HOUR - hour) : 0);
    },
    time: (at) => {
      const { before, on, passed, counts } = place(at);
      return before.time + (counts && isOn[on] ? passed : 0);
    },
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
function expectedByDay(
  { perHour }: Pick<Usual, "perHour">,
  from: number,
  to: number,
  closed: ReadonlySet<number>,
): number[] {
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
  const { longest } = usual;
  const { time, expected } = clocksOf(usual, [last, now], closed);
  if ("time" in longest) return time(now) - time(last) > longest.time;
  if (chance >= 1 / (QUARTERS_PER_FALSE_WORD * Math.max(1, usual.perQuarter))) return false;
  return expected(now) - expected(last) > longest.expected;
}
