import { stableHash } from "../stableHash";
import { DAY } from "../time/zone";
import type { PlanStep, Wording } from "./planRules";

/** How one wording did: messages sent with it, and answers that came to them. */
export type Tally = { key: string; sent: number; answered: number };

/** All wordings of a step, the step's own first. */
export function wordingsOf(step: Pick<PlanStep, "text" | "subject" | "email" | "others">): Wording[] {
  return [{ key: "a", text: step.text, subject: step.subject, email: step.email }, ...step.others];
}

/** The wording this person gets: each with the same chance over people, always the same one for the same person. */
export function wordingFor(
  step: Pick<PlanStep, "key" | "text" | "subject" | "email" | "others">,
  planId: string,
  personId: string,
): Wording {
  const all = wordingsOf(step);
  return all.length === 1 ? all[0] : all[Math.floor(stableHash(planId, step.key, personId) * all.length)];
}

/**
 * How long after it left a message counts as unanswered, in milliseconds. Only messages older than this are counted,
 * and only answers within it: what left a moment ago has lost nothing yet.
 */
export const ANSWER_WINDOW = 3 * DAY;

/**
 * The chance that each wording has the best share of answers, given what was seen, with every share held equally likely
 * before (Beta(1, 1)). By numerical integration of the posterior densities, each over the stretch on which it has its
 * mass, so that it is as exact for a hundred thousand messages as for ten; the chances sum to one.
 */
export function chancesOfBest(tallies: readonly Tally[]): number[] {
  if (tallies.length === 0) return [];
  const curves = tallies.map(({ sent, answered }) => posterior(answered, Math.max(answered, sent)));
  const chances = curves.map((curve, index) => {
    let sum = 0;
    curve.mass.forEach((mass, cell) => {
      const share = curve.from + (cell + 0.5) * curve.width;
      let others = mass;
      curves.forEach((other, at) => {
        if (at !== index) others *= shareBelow(other, share);
      });
      sum += others;
    });
    return sum;
  });
  const total = chances.reduce((sum, chance) => sum + chance, 0);
  return chances.map((chance) => chance / total);
}

/** A posterior in equal cells from `from` on: the mass of each, and the mass below each boundary. */
type Posterior = { from: number; width: number; mass: Float64Array; below: Float64Array };

const CELLS = 2000;
/** How many standard deviations to each side hold all of a posterior's mass that matters. */
const REACH = 12;

function posterior(successes: number, trials: number): Posterior {
  const [a, b] = [successes + 1, trials - successes + 1];
  const mean = a / (a + b);
  const deviation = Math.sqrt((mean * (1 - mean)) / (a + b + 1));
  const [from, to] = [Math.max(0, mean - REACH * deviation), Math.min(1, mean + REACH * deviation)];
  const width = (to - from) / CELLS;
  const logs = Float64Array.from({ length: CELLS }, (_, cell) => {
    const share = from + (cell + 0.5) * width;
    return (a - 1) * Math.log(share) + (b - 1) * Math.log1p(-share);
  });
  const most = logs.reduce((max, value) => Math.max(max, value), Number.NEGATIVE_INFINITY);
  const mass = logs.map((value) => Math.exp(value - most));
  const total = mass.reduce((sum, value) => sum + value, 0);
  const below = new Float64Array(CELLS + 1);
  for (let cell = 0; cell < CELLS; cell++) {
    mass[cell] /= total;
    below[cell + 1] = below[cell] + mass[cell];
  }
  return { from, width, mass, below };
}

/** The posterior chance that a share is below `share`. */
function shareBelow({ from, width, below }: Posterior, share: number): number {
  const place = (share - from) / width;
  if (place <= 0) return 0;
  if (place >= CELLS) return 1;
  const cell = Math.floor(place);
  return below[cell] + (place - cell) * (below[cell + 1] - below[cell]);
}

/** What the evidence allows to say about wordings on trial. */
export type TrialVerdict = { done: true; best: string } | { done: false; says: string };

/** Chance of ever calling a wording better that is not, over the whole trial and however often somebody looks. */
export const TRIAL_RISK = 0.05;

/**
 * Whether the trial may end. For each wording a confidence sequence holds the share of answers at all times at once
 * (the mixture martingale of Robbins with a uniform prior, and Ville's inequality), so looking after every answer does
 * not make a false winner likelier. A wording has won when its sequence lies wholly above all others'.
 */
export function judgeTrial(tallies: readonly Tally[]): TrialVerdict {
  if (tallies.length < 2) return { done: false, says: "There’s only one wording." };
  const bounds = tallies.map(({ key, sent, answered }) => ({
    key,
    ...confidence(answered, Math.max(sent, answered), TRIAL_RISK / tallies.length),
  }));
  const winner = bounds.find(({ key, low }) => bounds.every((other) => other.key === key || other.high < low));
  if (winner) return { done: true, best: winner.key };
  const fewest = Math.min(...tallies.map(({ sent }) => sent));
  return {
    done: false,
    says: fewest < 30 ? "Too few have been sent to tell yet." : "The difference could still be down to chance.",
  };
}

/** All shares `p` that the mixture martingale has not ruled out: B(k + 1, n - k + 1) < p^k (1 - p)^(n - k) / risk. */
export function confidence(successes: number, trials: number, risk: number): { low: number; high: number } {
  if (trials === 0) return { low: 0, high: 1 };
  const mixture = logBeta(successes + 1, trials - successes + 1);
  const inside = (p: number) => {
    const likelihood =
      (successes === 0 ? 0 : successes * Math.log(p)) +
      (trials === successes ? 0 : (trials - successes) * Math.log(1 - p));
    return mixture - likelihood < Math.log(1 / risk);
  };
  const middle = successes / trials;
  const edge = (from: number, to: number) => {
    let [good, bad] = [from, to];
    for (let turn = 0; turn < 60; turn++) {
      const half = (good + bad) / 2;
      if (inside(half)) good = half;
      else bad = half;
    }
    return good;
  };
  return { low: successes === 0 ? 0 : edge(middle, 0), high: successes === trials ? 1 : edge(middle, 1) };
}

function logBeta(a: number, b: number): number {
  let sum = 0;
  // Whole numbers only: B(a, b) = (a - 1)! (b - 1)! / (a + b - 1)!
  const logFactorial = (n: number) => FACTORIALS[n] ?? grow(n);
  sum += logFactorial(a - 1) + logFactorial(b - 1) - logFactorial(a + b - 1);
  return sum;
}

const FACTORIALS = [0];

function grow(n: number): number {
  for (let next = FACTORIALS.length; next <= n; next++) FACTORIALS[next] = FACTORIALS[next - 1] + Math.log(next);
  return FACTORIALS[n];
}
