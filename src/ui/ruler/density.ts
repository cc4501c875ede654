/** More marks than this on one day cannot be told apart, nor pointed at: they are drawn by the quarter hour. */
export const MOST_MARKS = 240;

/** Many marks of one quarter of an hour as one; `at` is the quarter's start. */
export type Quarter = { at: number; visits: number; messages: number };

/** Counts of visits and of messages by the quarter hour, put together and in order. */
export function quartersOf(
  visits: readonly { at: number; count: number }[],
  messages: readonly { at: number; count: number }[],
): Quarter[] {
  const quarters = new Map<number, Quarter>();
  const quarterAt = (at: number) => {
    const known = quarters.get(at) ?? { at, visits: 0, messages: 0 };
    quarters.set(at, known);
    return known;
  };
  for (const { at, count } of visits) quarterAt(at).visits += count;
  for (const { at, count } of messages) quarterAt(at).messages += count;
  return [...quarters.values()].sort((a, b) => a.at - b.at);
}
