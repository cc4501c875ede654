import fc from "fast-check";
import { size } from "../../../tests/support/size";
import { DAY, dayNumber, HOUR, MINUTE, weekday } from "../time/zone";
import { isSilent, learnUsual, type Usual, usualByNow, WEEKS_LEARNT } from "./usual";

/** A made-up client: how many arrivals a week, on which days, from when to when. Chance comes from a seed. */
type Made = { perWeek: number; days: number[]; opens: number; closes: number; wild: number; seed: number };

function randomOf(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

const START = dayNumber(Date.UTC(2026, 0, 5));
const HALF_YEAR = 26 * 7;

/** The arrivals of half a year: a day has its own luck beside that of each arrival. */
function arrivalsOf({ perWeek, days, opens, closes, wild, seed }: Made): number[] {
  const random = randomOf(seed);
  const found: number[] = [];
  for (let day = START; day < START + HALF_YEAR; day++) {
    if (!days.includes(weekday(day))) continue;
    const luck = 1 + wild * (random() * 2 - 1);
    const rate = ((perWeek / days.length) * luck) / (closes - opens);
    for (let at = day * DAY + opens * HOUR; ; ) {
      at += (-Math.log(1 - random()) / rate) * HOUR;
      if (at >= day * DAY + closes * HOUR) break;
      found.push(at);
    }
  }
  return found;
}

/** What was learnt at the beginning of each day from the weeks before it. */
function learntAt(arrivals: readonly number[]): (day: number) => Usual | null {
  const kept = new Map<number, Usual | null>();
  return (day) => {
    const before = kept.get(day);
    if (before !== undefined) return before;
    const from = Math.max(START, day - WEEKS_LEARNT * 7);
    const some = arrivals.filter((at) => at >= from * DAY && at < day * DAY);
    kept.set(
      day,
      learnUsual(
        some.map((at) => ({ at, count: 1 })),
        from,
        day,
      ),
    );
    return kept.get(day) ?? null;
  };
}

/** When a word would come, looking each half hour, for arrivals as they were: one word for each silence. */
function wordsFor(arrivals: readonly number[]): number[] {
  const usualOf = learntAt(arrivals);
  const words: number[] = [];
  let next = 0;
  let told = -1;
  for (let now = (START + 28) * DAY; now < (START + HALF_YEAR) * DAY; now += HOUR) {
    while (next < arrivals.length && arrivals[next] <= now) next++;
    const last = arrivals[next - 1];
    // Learnt until it fell silent: the silence itself must not become the usual.
    const usual = last === undefined ? null : usualOf(dayNumber(last) + 1);
    if (last === undefined || !usual || told === last || !isSilent(usual, last, now)) continue;
    told = last;
    words.push(now);
  }
  return words;
}

const clients: Made[] = Array.from({ length: 40 }, (_, index) => {
  const random = randomOf(1000 + index);
  const perWeek = [4, 9, 20, 45, 90, 200][index % 6] * (0.7 + random() * 0.6);
  const opens = 7 + Math.floor(random() * 3);
  return {
    perWeek,
    days: index % 3 === 0 ? [0, 1, 2, 3, 4, 5] : index % 3 === 1 ? [0, 1, 2, 3, 4] : [1, 2, 3, 4, 5],
    opens,
    closes: opens + 8 + Math.floor(random() * 3),
    wild: random() * 0.7,
    seed: 77 + index,
  };
});

test("of forty clients over half a year each hears at most one false word a quarter", () => {
  const false_ = clients.map((client) => wordsFor(arrivalsOf(client)).length);
  // The first four weeks are learnt from; 22 of 26 weeks are two quarters at most.
  expect(Math.max(...false_)).toBeLessThanOrEqual(1);
  expect(false_.reduce((all, one) => all + one, 0)).toBeLessThanOrEqual(6);
}, 120_000);

test("every planted silence is told within a working day of when it could be known", () => {
  const found: string[] = [];
  for (const [index, client] of clients.entries()) {
    const stops = (START + 90 + (index % 11)) * DAY + (client.opens + (index % 5)) * HOUR;
    const arrivals = arrivalsOf(client).filter((at) => at < stops);
    const last = arrivals.at(-1) ?? 0;
    // Known to whoever knows the true rate, or what its last eight weeks could tell of it (one standard error less): from then on a
    // gap as long has one chance in ten of coming in a quarter.
    const open = (at: number) =>
      client.days.includes(weekday(dayNumber(at))) &&
      at - dayNumber(at) * DAY >= client.opens * HOUR &&
      at - dayNumber(at) * DAY < client.closes * HOUR;
    const seen = arrivals.filter((at) => at >= last - WEEKS_LEARNT * 7 * DAY).length;
    const perWeek = Math.min(client.perWeek, seen / WEEKS_LEARNT) * (1 - 1 / Math.sqrt(seen));
    const perHour = perWeek / client.days.length / (client.closes - client.opens);
    const spread = client.wild ** 2 / 3;
    const least = 1 / (10 * client.perWeek * 13);
    let chance = 1;
    let today = 0;
    let knowable = last;
    for (let before = 1; chance * before > least; knowable += 30 * MINUTE) {
      if (dayNumber(knowable) !== dayNumber(knowable - 30 * MINUTE)) {
        chance *= before;
        today = 0;
      }
      if (open(knowable)) today += perHour / 2;
      before = spread > 0 ? (1 + today * spread) ** (-1 / spread) : Math.exp(-today);
    }
    // A working day later, one after which it is open again.
    let latest = knowable + DAY;
    while (!client.days.includes(weekday(dayNumber(latest)))) latest += DAY;
    const told = wordsFor(arrivals).find((at) => at > last);
    const late =
      told === undefined
        ? "never"
        : told <= latest + HOUR
          ? "in time"
          : `${((told - latest) / DAY).toFixed(1)} days late`;
    found.push(late);
  }
  expect(found).toEqual(clients.map(() => "in time"));
}, 120_000);

const WORKING = [0, 1, 2, 3, 4];
type Draw = () => number;
/** Something on each of these weekdays over a year. */
const daily = (days: readonly number[], on: (day: number, draw: Draw) => number[]) => (draw: Draw) =>
  Array.from({ length: 52 * 7 }, (_, n) => START + n)
    .filter((day) => days.includes(weekday(day)))
    .flatMap((day) => on(day, draw))
    .sort((a, b) => a - b);
/** Arrivals one by one within opening hours, as many as `rate` gives for the day. */
const oneByOne = (day: number, rate: number, draw: Draw) => {
  const found: number[] = [];
  for (let at = 8; rate > 0; ) {
    at += (-Math.log(1 - draw()) / rate) * 9;
    if (at >= 17) break;
    found.push(day * DAY + at * HOUR);
  }
  return found;
};
const together = (at: number, count: number) => Array.from({ length: count }, (_, n) => at + n * 5000);

/** Ways in which arrivals come together, or differ from day to day. */
const UNEVEN: Record<string, (draw: Draw) => number[]> = {
  "twenty at ten o’clock": daily(WORKING, (day, draw) => together(day * DAY + 10 * HOUR, 15 + Math.floor(draw() * 10))),
  "one push an evening": daily([0, 1, 2, 3, 4, 5, 6], (day, draw) =>
    together(day * DAY + 18 * HOUR + draw() * 90 * MINUTE, 1 + Math.floor(draw() * 15)),
  ),
  "one push a week": daily([4], (day, draw) =>
    together(day * DAY + 15 * HOUR + draw() * 4 * HOUR, 10 + Math.floor(draw() * 30)),
  ),
  "jobs in groups": daily(WORKING, (day, draw) =>
    oneByOne(day, 5, draw).flatMap((at) => together(at, 1 + Math.floor(draw() * 8))),
  ),
  "very uneven days": daily(WORKING, (day, draw) => oneByOne(day, -12 * Math.log(1 - draw()), draw)),
  "the end of a season": daily([0, 1, 2, 3, 4, 5], (day, draw) =>
    oneByOne(day, 2 + 10 * (1 + Math.cos(((day - START) / 180) * 2 * Math.PI)), draw),
  ),
};

/** The words that would come, looking each hour, and when. */
function wordsOver(arrivals: readonly number[], fromDay: number, toDay: number): number[] {
  const usualOf = learntAt(arrivals);
  const words: number[] = [];
  let [next, told] = [0, -1];
  for (let now = fromDay * DAY; now < toDay * DAY; now += HOUR) {
    while (next < arrivals.length && arrivals[next] <= now) next++;
    const last = arrivals[next - 1];
    const usual = last === undefined || told === last ? null : usualOf(dayNumber(last) + 1);
    if (!usual || !isSilent(usual, last, now)) continue;
    told = last;
    words.push(now);
  }
  return words;
}

test.each(Object.keys(UNEVEN))(
  "%s: next to no false word",
  (name) => {
    const seeds = size(2, 12);
    let words = 0;
    for (let seed = 0; seed < seeds; seed++)
      words += wordsOver(UNEVEN[name](randomOf(300 + seed)), START + 56, START + 52 * 7).length;
    const quarters = (seeds * (52 * 7 - 56)) / 91;
    // A tenth is promised; so few quarters tell it to about two.
    expect(words).toBeLessThanOrEqual(Math.ceil(quarters / 10) + 1);
  },
  120_000,
);

test.each(["twenty at ten o’clock", "one push an evening", "one push a week"])(
  "%s: one that stays away is told within a day on which something comes",
  (name) => {
    for (let seed = 0; seed < 5; seed++) {
      const arrivals = UNEVEN[name](randomOf(700 + seed));
      const stops = (START + 120 + seed) * DAY;
      const missed = arrivals.find((at) => at >= stops) ?? 0;
      const [told] = wordsOver(
        arrivals.filter((at) => at < stops),
        START + 110,
        START + 150,
      );
      expect(told).toBeGreaterThan(missed - HOUR);
      expect(told).toBeLessThanOrEqual(missed + DAY);
    }
  },
);

test("by closing time the usual range holds what comes on four days of five", () => {
  let inside = 0;
  let all = 0;
  for (const client of clients.filter(({ perWeek }) => perWeek > 15)) {
    const arrivals = arrivalsOf(client);
    const usualOf = learntAt(arrivals);
    for (let day = START + 70; day < START + HALF_YEAR; day++) {
      const usual = usualOf(day);
      const range =
        usual && client.days.includes(weekday(day)) ? usualByNow(usual, day * DAY + client.closes * HOUR) : null;
      if (!range) continue;
      const found = arrivals.filter((at) => dayNumber(at) === day).length;
      all += 1;
      if (found >= range.low && found <= range.high) inside += 1;
    }
  }
  expect(all).toBeGreaterThan(1000);
  expect(inside / all).toBeGreaterThan(0.75);
  expect(inside / all).toBeLessThan(0.97);
}, 60_000);

test("whatever arrived, what is learnt is finite, closed days are never silent, and more time is never less silent", () => {
  const at = fc.integer({ min: START * DAY, max: (START + 70) * DAY - 1 });
  fc.assert(
    fc.property(fc.array(at, { maxLength: 200 }), at, fc.nat(40 * DAY), (arrivals, last, later) => {
      const usual = learnUsual(
        arrivals.map((at) => ({ at, count: 1 })),
        START,
        START + 70,
      );
      if (!usual) return expect(arrivals.length < 8).toBe(true);
      expect(usual.perHour.flat().every((mean) => Number.isFinite(mean) && mean >= 0)).toBe(true);
      expect(usual.evenness).toBeGreaterThan(0);
      const closed = new Set(Array.from({ length: 200 }, (_, index) => START + index));
      expect(isSilent(usual, last, last + later, closed)).toBe(false);
      expect(usualByNow(usual, last, closed)).toBeNull();
      if (isSilent(usual, last, last + later)) expect(isSilent(usual, last, last + later + DAY)).toBe(true);
      const range = usualByNow(usual, last);
      expect(range && range.low >= 0 && range.low <= range.high).toBe(true);
    }),
  );
});
