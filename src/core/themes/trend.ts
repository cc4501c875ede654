/** Whether something is named more often than it was, and how great a change has to be before that is said. */

export type Trend = "rising" | "falling" | "steady" | "cannot tell yet";

/** So many of so many texts name it. */
export type Share = { named: number; of: number };

/** Fewer texts than this on either side, or fewer that name it in all, tell nothing. */
const FEWEST_TEXTS = 20;
const FEWEST_NAMED = 5;
/** How often, of all times that several themes are looked at together and none has changed, one may be said to have. */
const CHANCE = 0.05;
/** How often a change that is said to be noticed is. */
const POWER = 0.8;

/** The natural logarithm of n!, by sums: exact enough, and quick for some thousands. */
const logs: number[] = [0];
function logFactorial(n: number): number {
  for (let at = logs.length; at <= n; at++) logs.push(logs[at - 1] + Math.log(at));
  return logs[n];
}
const logChoose = (n: number, k: number) => logFactorial(n) - logFactorial(k) - logFactorial(n - k);

/** How likely chance gives `now` at least as many of those that name it (Fisher's exact test, one side). */
export function chanceOfMore(now: Share, before: Share): number {
  const [all, named] = [now.of + before.of, now.named + before.named];
  let sum = 0;
  for (let k = now.named; k <= Math.min(named, now.of); k++) {
    if (named - k > before.of) continue;
    sum += Math.exp(logChoose(now.of, k) + logChoose(before.of, named - k) - logChoose(all, named));
  }
  return Math.min(1, sum);
}

/** How likely chance gives as great a difference, either way. */
function chanceOfDifference(now: Share, before: Share): { chance: number; isMore: boolean } {
  const more = chanceOfMore(now, before);
  const less = chanceOfMore(
    { named: now.of - now.named, of: now.of },
    { named: before.of - before.named, of: before.of },
  );
  return { chance: Math.min(1, 2 * Math.min(more, less)), isMore: more < less };
}

const tells = (now: Share, before: Share): boolean =>
  now.of >= FEWEST_TEXTS && before.of >= FEWEST_TEXTS && now.named + before.named >= FEWEST_NAMED;

/**
 * The trends of all themes that are looked at together. However many there are, and where none has changed, one or more
 * is said to have at most once in twenty times (Holm's procedure over Fisher's exact test).
 */
export function trendsOf(all: readonly { now: Share; before: Share }[]): Trend[] {
  const trends: Trend[] = all.map(({ now, before }) => (tells(now, before) ? "steady" : "cannot tell yet"));
  const tried = all
    .flatMap(({ now, before }, index) => (tells(now, before) ? { index, ...chanceOfDifference(now, before) } : []))
    .sort((a, b) => a.chance - b.chance);
  for (const [done, { index, chance, isMore }] of tried.entries()) {
    if (chance > CHANCE / (tried.length - done)) break;
    trends[index] = isMore ? "rising" : "falling";
  }
  return trends;
}

/** How likely at least so many of these texts name it, each with this likelihood. */
function chanceOfAtLeast(least: number, of: number, share: number): number {
  if (share <= 0) return least <= 0 ? 1 : 0;
  let sum = 0;
  for (let k = least; k <= of; k++)
    sum += Math.exp(logChoose(of, k) + k * Math.log(share) + (of - k) * Math.log(Math.max(1e-12, 1 - share)));
  return Math.min(1, sum);
}

/**
 * The power of the comparison: to what share of the texts a theme has to rise, in hundredths, so that it is said to rise
 * four times out of five. Null where even all of them would not tell.
 *
 * @param of texts that are looked at now
 * @param before how often it was named before that
 * @param themes that are looked at together
 */
export function noticedFrom(of: number, before: Share, themes: number): number | null {
  if (of < FEWEST_TEXTS || before.of < FEWEST_TEXTS) return null;
  let least = 0;
  while (least <= of) {
    const now = { named: least, of };
    const { chance, isMore } = chanceOfDifference(now, before);
    if (isMore && chance <= CHANCE / Math.max(1, themes) && tells(now, before)) break;
    least += 1;
  }
  if (least > of) return null;
  for (let percent = 1; percent <= 100; percent++)
    if (chanceOfAtLeast(least, of, percent / 100) >= POWER) return percent;
  return null;
}
