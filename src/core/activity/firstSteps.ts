/** What is left between a client that was just started and its first ask, in the order in which it is best done. */

export const FIRST_STEPS = ["pages", "words", "visits", "rehearse", "start", "team"] as const;
export type FirstStep = (typeof FIRST_STEPS)[number];

export type FirstStepsFacts = {
  /** The review pages: whether each was found to open; null where nobody has looked yet. */
  pages: readonly (boolean | null)[];
  /** Whether somebody has sent themselves a sample of what customers get. */
  hasSample: boolean;
  /** Feeds that are on (a drop-off page, which each client has, brings nothing yet), lists imported, and visits. */
  sources: number;
  /** How many plans run, and whether any has ever run. */
  running: number;
  hasRun: boolean;
  /** People with access, and those who are invited. */
  team: number;
};

/** Every step, each done or not. A plan that has run needs no rehearsal before it starts. */
export function firstSteps(facts: FirstStepsFacts): { step: FirstStep; isDone: boolean }[] {
  const isDone: Record<FirstStep, boolean> = {
    pages: facts.pages.length > 0 && facts.pages.every((opens) => opens === true),
    words: facts.hasSample,
    visits: facts.sources > 0,
    rehearse: facts.hasRun,
    start: facts.running > 0,
    team: facts.team > 1,
  };
  return FIRST_STEPS.map((step) => ({ step, isDone: isDone[step] }));
}

/** Whether asks can go out once visits end: the steps without which none does are done. */
export const isReady = (steps: readonly { step: FirstStep; isDone: boolean }[]): boolean =>
  steps.every(({ step, isDone }) => isDone || (step !== "visits" && step !== "start"));
