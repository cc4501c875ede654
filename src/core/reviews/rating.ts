/** Review sites' own scales, and the one that Estima compares on. */

export type Scale = "five" | "ten" | "recommend";

/** Whoever gives this much or less, of 1 to 5, is not happy. */
export const UNHAPPY_UP_TO = 3;

/**
 * A site's own value on Estima's 1 to 5. Ten points, in tenths, are halved upward: 6.1 is 4. A yes or no says less than
 * five steps do: "recommended" is a 4, as whoever recommends is not known to be delighted, and "not recommended" a 2.
 */
export function normaliseRating(value: number, scale: Scale): number {
  if (scale === "recommend") return value > 0 ? 4 : 2;
  if (scale === "ten") return Math.min(5, Math.max(1, Math.ceil(value / 2)));
  return Math.min(5, Math.max(1, Math.round(value)));
}

/** The value in words, as the site itself counts: "2 of 5", "7.4 of 10", "recommended". */
export function sayRating(value: number, scale: Scale = "five"): string {
  if (scale === "recommend") return value > 0 ? "recommended" : "not recommended";
  return `${Math.round(value * 10) / 10} of ${scale === "ten" ? 10 : 5}`;
}

/**
 * The average of a site's own values on 1 to 5, for sites that are compared: not rounded, as single values are. `sum` is
 * of its own values.
 */
export function averageOnFive(sum: number, count: number, scale: Scale): number {
  if (scale === "recommend") return 2 + (2 * sum) / count;
  return Math.max(1, scale === "ten" ? sum / count / 2 : sum / count);
}

/** What many values of a site come to, as it counts: "4.6 of 5", "8.3 of 10", "92% recommend"; `sum` is of its own values. */
export function sayAverage(sum: number, count: number, scale: Scale): string {
  if (scale === "recommend") return `${Math.round((100 * sum) / count)}% recommend`;
  return `${(sum / count).toFixed(1)} of ${scale === "ten" ? 10 : 5}`;
}
