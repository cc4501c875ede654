/** Whether an answer on a page without a person was given by a machine. */

/** Nobody reads a question and taps within so little time. Milliseconds. */
export const FASTEST = 800;

export type Given = {
  /** How long the page had been shown; null where the form does not say. Milliseconds. */
  shownFor: number | null;
  /** What stands in the blank that people do not see. */
  trap: string;
};

/** A filled trap, a speed that is impossible, or a form that no page of ours made. */
export function isDoubtful({ shownFor, trap }: Given): boolean {
  return trap.trim() !== "" || shownFor === null || shownFor < FASTEST;
}
