import type { Delay } from "../time/delay";
import type { Channel } from "../time/sendHours";
import type { Condition, PlanRules, PlanStep } from "./planRules";

/**
 * A plan's messages as they leave, one after the other: a step by both channels is two legs, the email right behind
 * the text. What an ask has done is counted in legs.
 */
export type Leg = {
  step: number;
  part: PlanStep["part"];
  channel: Channel | "preferred";
  delay: Delay;
  onlyIf: Condition;
  /** The second half of a step by both channels: no delay, no gap, and no other channel in its place. */
  isCopy: boolean;
  /** The first half of such a step. */
  hasCopy: boolean;
};

export type LegRules = { steps: readonly Pick<PlanStep, "channel" | "delay" | "part" | "onlyIf">[] };

const legsByRules = new WeakMap<object, Leg[]>();

/** The legs of a plan in order. The same list of steps gives the same list of legs. */
export function legsOf({ steps }: LegRules): readonly Leg[] {
  const found = legsByRules.get(steps);
  if (found) return found;
  const legs = steps.flatMap(({ channel, delay, part, onlyIf }, step): Leg[] => {
    const leg = { step, part, delay, onlyIf, isCopy: false, hasCopy: false };
    if (channel !== "both") return [{ ...leg, channel }];
    return [
      { ...leg, channel: "text", hasCopy: true },
      { ...leg, channel: "email", isCopy: true, delay: { amount: 0, unit: "minutes" } },
    ];
  });
  legsByRules.set(steps, legs);
  return legs;
}

/** A plan with no more than this many legs: six steps, each by both channels. */
export const MOST_LEGS = 12;

/**
 * Where an ask that has done `done` legs of one version stands in another: behind the last of its messages that is
 * still in the plan, wherever that moved to; and behind as many as it has had, where none of them is left.
 */
export function carryOver(before: PlanRules, after: PlanRules, done: number): number {
  const had = legsOf(before).slice(0, done);
  const now = legsOf(after);
  if (had.length === 0) return 0;
  const keys = new Set(had.map(({ step, isCopy }) => `${before.steps[step].key} ${isCopy}`));
  let last = -1;
  now.forEach(({ step, isCopy }, index) => {
    if (keys.has(`${after.steps[step].key} ${isCopy}`)) last = index;
  });
  return last >= 0 ? last + 1 : Math.min(done, now.length);
}
