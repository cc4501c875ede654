/** In which order what was heard is read, whatever kind it is. */

export const READING_ORDERS = ["unhappiest", "date"] as const;
export type ReadingOrder = (typeof READING_ORDERS)[number];

/** Something that was heard. */
export type Heard = {
  /** From 1 to 5; null where nobody rated anything: it stands in the middle. */
  rating: number | null;
  /** Since when it waits, or when it came, in milliseconds. */
  at: number;
  /** Somebody has answered it already; it is only not over yet. */
  isAnswered?: boolean;
};

const MIDDLE = 3;

/**
 * Everything in one order: what waits before what is answered, the unhappiest first, then what has waited longest; or by
 * date, the latest first. Equal ones stay as they were.
 */
export function inReadingOrder<T extends Heard>(list: readonly T[], order: ReadingOrder): T[] {
  const rank = (it: Heard) => (it.isAnswered ? 10 : 0) + (it.rating ?? MIDDLE);
  return [...list].sort((a, b) => (order === "date" ? b.at - a.at : rank(a) - rank(b) || a.at - b.at));
}
