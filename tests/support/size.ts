/**
 * How much of a long proof runs: in `npm test` enough to catch the faults that it has caught, in `npm run prove` the
 * whole of it.
 */
const isWhole = process.env.ESTIMA_PROVE === "1";

/** `inTests` of something in `npm test`, `whole` in `npm run prove`. */
export function size<T>(inTests: T, whole: T): T {
  return isWhole ? whole : inTests;
}

/** The runs of a property test: thirty times as many in `npm run prove`, where they come to a million in all. */
export function runs(inTests: number): number {
  return size(inTests, inTests * 30);
}
