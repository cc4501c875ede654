/** Whether something is named more often than it was. */

export type Trend = "rising" | "falling" | "steady" | "cannot tell yet";

/** So many of so many texts name it. */
export type Share = { named: number; of: number };

/** Fewer texts than this on either side, or fewer that name it in all, tell nothing. */
const FEWEST_TEXTS = 20;
const FEWEST_NAMED = 5;
/** How likely chance alone may be to make as great a difference. */
const CHANCE = 0.02;

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

export function trendOf(now: Share, before: Share): Trend {
  if (now.of < FEWEST_TEXTS || before.of < FEWEST_TEXTS || now.named + before.named < FEWEST_NAMED)
    return "cannot tell yet";
  if (chanceOfMore(now, before) < CHANCE) return "rising";
  const less = chanceOfMore(
    { named: now.of - now.named, of: now.of },
    { named: before.of - before.named, of: before.of },
  );
  return less < CHANCE ? "falling" : "steady";
}
