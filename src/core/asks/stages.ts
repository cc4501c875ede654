/** The way of an ask, from planned to reviewed. Whoever came further is taken to have passed what lies before. */
export const ASK_STAGES = [
  "planned",
  "asked",
  "delivered",
  "opened",
  "followed the link",
  "answered",
  "went to a site",
  "reviewed",
] as const;
export type AskStage = (typeof ASK_STAGES)[number];
