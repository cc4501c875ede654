/** Nothing going on for this long, in milliseconds of real time, is a standstill, however slow the machine. */
const STANDSTILL = 180_000;

/**
 * Watches something that goes up: throws when it stands still for so long that nothing will come any more. A test that
 * waits ends by this alone, and never because it took long.
 */
export function standstill(): (progress: number) => void {
  let last = Number.NaN;
  let since = Date.now();
  return (progress) => {
    if (progress !== last) {
      last = progress;
      since = Date.now();
    } else if (Date.now() - since > STANDSTILL)
      throw new Error(`Nothing has moved for ${STANDSTILL / 1000} seconds; it stands at ${progress}.`);
  };
}
