/** Whether a step on a page without a person was taken by a machine. */

/** Nobody reads a question and taps within so little time. Milliseconds. */
export const FASTEST = 800;

export type Given = {
  /** What was done: a rating was tapped, or something was written (words, or how to be reached). */
  step: "tap" | "writing";
  /** How long the page had been shown; null where the form does not say. Milliseconds. */
  shownFor: number | null;
  /** What stands in the blank that people do not see. */
  trap: string;
};

/**
 * A filled trap, or a speed that is impossible. A tap from a form that no page of ours made is doubtful too; people
 * who write on such a page have only kept it open for long, or gone back to it.
 */
export function isDoubtful({ step, shownFor, trap }: Given): boolean {
  if (trap.trim() !== "") return true;
  return shownFor === null ? step === "tap" : shownFor < FASTEST;
}

/**
 * Whether an answer is doubtful after another step. Doubt belongs to one step: it ends with one that only a person takes,
 * and a doubtful step after one of those brings none.
 */
export function doubtAfter(before: boolean, isStepDoubtful: boolean): boolean {
  return before && isStepDoubtful;
}
