/**
 * The time in town: real time until it is told otherwise, running on from what it was told. Milliseconds since the
 * epoch.
 */
export class TownClock {
  private offset = 0;
  private stands: number | null = null;

  now(): number {
    return this.stands ?? Date.now() + this.offset;
  }

  /** Sets the time; `stands` keeps it there until it is set again. */
  set(at: number, stands = false): void {
    this.offset = at - Date.now();
    this.stands = stands ? at : null;
  }
}
