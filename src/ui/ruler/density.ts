import type { RulerMessage, RulerVisit } from "./DayRuler";

/** More marks than this on one day cannot be told apart, nor pointed at: they are drawn by the quarter hour. */
export const MOST_MARKS = 240;
const QUARTER = 15 * 60_000;

/** Many marks of one quarter of an hour as one. */
export type Bundle = { at: number; visits: number; messages: number };

/** The marks of a crowded day by the quarter hour in which they lie, in order; null where each can be drawn by itself. */
export function bundlesOf(visits: readonly RulerVisit[], messages: readonly RulerMessage[]): Bundle[] | null {
  if (visits.length + messages.length <= MOST_MARKS) return null;
  const bundles = new Map<number, Bundle>();
  const bundleAt = (at: number) => {
    const start = Math.floor(at / QUARTER) * QUARTER;
    const known = bundles.get(start) ?? { at: start, visits: 0, messages: 0 };
    bundles.set(start, known);
    return known;
  };
  for (const { at } of visits) bundleAt(at).visits += 1;
  for (const { at } of messages) bundleAt(at).messages += 1;
  return [...bundles.values()].sort((a, b) => a.at - b.at);
}
