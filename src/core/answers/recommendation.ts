import type { MoreQuestions } from "../plans/planRules";

/** "Would you recommend us?": ten answers from 0 to 10, or three of them, kept as 10, 7 and 0. */
export const THREE = { yes: 10, maybe: 7, no: 0 } as const;

export const GROUPS = ["would recommend", "undecided", "would not"] as const;
export type Group = (typeof GROUPS)[number];

/** The group of an answer from 0 to 10: 9 and 10 would, 7 and 8 are undecided, the rest would not. */
export function groupOf(recommend: number | null): Group | null {
  if (recommend === null) return null;
  return recommend >= 9 ? "would recommend" : recommend >= 7 ? "undecided" : "would not";
}

/** The part of an answer that doors can look at. */
export type Judged = { rating: number; recommend: number | null; aspects: Readonly<Record<string, number | null>> };

/**
 * The rating, from 1 to 5, by which doors open: the one that was given, or where the plan says so, what stands for the
 * recommendation (10 is 5, 7 is 4, 6 is 3, 0 is 1) or the lowest aspect. What was not answered yet decides nothing.
 */
export function doorRating(more: MoreQuestions | null | undefined, { rating, recommend, aspects }: Judged): number {
  if (more?.doorsLookAt === "recommendation" && recommend !== null) return Math.max(1, Math.round(recommend / 2));
  if (more?.doorsLookAt === "lowest aspect") {
    const given = Object.values(aspects).filter((value): value is number => value !== null);
    if (given.length > 0) return Math.min(rating, ...given);
  }
  return rating;
}
