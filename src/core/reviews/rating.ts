/** Review sites' own scales, and the one that Estima compares on. */

export type Scale = "five" | "ten" | "recommend";

/** A site's own value on Estima's 1 to 5: ten points are halved upward, "recommended" is 5 and "not recommended" 1. */
export function normaliseRating(value: number, scale: Scale): number {
  if (scale === "recommend") return value > 0 ? 5 : 1;
  if (scale === "ten") return Math.min(5, Math.max(1, Math.ceil(value / 2)));
  return Math.min(5, Math.max(1, Math.round(value)));
}

/** The value in words, as the site itself counts: "2 of 5", "7 of 10", "recommended". */
export function sayRating(value: number, scale: Scale = "five"): string {
  if (scale === "recommend") return value > 0 ? "recommended" : "not recommended";
  return `${value} of ${scale === "ten" ? 10 : 5}`;
}
