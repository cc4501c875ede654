/** What came of a concern, said by whoever closes it. */
export const CONCERN_OUTCOMES = [
  "put right",
  "apologised",
  "explained",
  "could not be reached",
  "nothing to put right",
] as const;
export type ConcernOutcome = (typeof CONCERN_OUTCOMES)[number];
