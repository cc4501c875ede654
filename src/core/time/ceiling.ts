import { HOUR } from "./zone";

/**
 * When the next message of a sender may leave that sends at most `perHour` in any 60 minutes: at `wanted` where it
 * fits among those that left or were promised a moment (`taken`, ascending), else behind them all. Instants are
 * milliseconds since the epoch.
 */
export function underCeiling(taken: readonly number[], perHour: number, wanted: number): number {
  if (fits(taken, perHour, wanted)) return wanted;
  const last = taken[taken.length - 1] ?? wanted;
  const full = taken.length >= perHour ? taken[taken.length - perHour] + HOUR : wanted;
  return Math.max(wanted, last, full);
}

/**
 * As `underCeiling`, where the hours close between: a moment that `permit` moves is tried again at the moment it moved
 * to. With `isOpen` false, `at` is the moment for which `permit` gave none: by then the message is of no use any more.
 */
export function openSlot(
  taken: readonly number[],
  perHour: number,
  wanted: number,
  permit: (at: number) => number | null,
): { at: number; isOpen: boolean } {
  let at = wanted;
  for (;;) {
    const free = underCeiling(taken, perHour, at);
    const moved = permit(free);
    if (moved === null) return { at: free, isOpen: false };
    if (moved === free) return { at: free, isOpen: true };
    at = moved;
  }
}

/** Adds a moment in its place. */
export function take(taken: number[], at: number): void {
  taken.splice(placeOf(taken, at), 0, at);
}

function placeOf(taken: readonly number[], at: number): number {
  let [low, high] = [0, taken.length];
  while (low < high) {
    const middle = (low + high) >> 1;
    if (taken[middle] <= at) low = middle + 1;
    else high = middle;
  }
  return low;
}

/** Whether one more at `at` keeps every window of an hour under the ceiling. */
function fits(taken: readonly number[], perHour: number, at: number): boolean {
  const place = placeOf(taken, at);
  const withIt = (index: number) => (index < place ? taken[index] : index === place ? at : taken[index - 1]);
  for (let first = Math.max(0, place - perHour); first <= place && first + perHour <= taken.length; first++)
    if (withIt(first + perHour) - withIt(first) < HOUR) return false;
  return true;
}
