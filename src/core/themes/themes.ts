/** What people name when they say how it was: the themes that come with Estima, and whether it pleased them. */

export const THEMES = [
  "waiting",
  "price",
  "explanation",
  "kindness",
  "result",
  "booking",
  "cleanliness",
  "access",
  "follow-up",
  "damage",
  "thoroughness",
  "honesty",
] as const;
export type Theme = (typeof THEMES)[number];

/** Goes up whenever texts are read for themes in another way: what was read before is then read again. */
export const READER = 1;

/** Happier or unhappier with it. */
export type Polarity = "happy" | "unhappy";

/** Something that was named, and how. */
export type Named = { theme: Theme; polarity: Polarity };
