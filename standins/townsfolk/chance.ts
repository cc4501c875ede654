/** Repeatable chance: the same seed and name give the same numbers. */
export function chanceFor(seed: number, name: string): () => number {
  let state = 2166136261 ^ seed;
  for (let index = 0; index < name.length; index++) state = Math.imul(state ^ name.charCodeAt(index), 16777619);
  return () => {
    state = (state + 0x6d2b79f5) | 0;
    let mixed = Math.imul(state ^ (state >>> 15), 1 | state);
    mixed = (mixed + Math.imul(mixed ^ (mixed >>> 7), 61 | mixed)) ^ mixed;
    return ((mixed ^ (mixed >>> 14)) >>> 0) / 4294967296;
  };
}

/** One of a list. */
export function pick<T>(list: readonly T[], chance: () => number): T {
  return list[Math.floor(chance() * list.length)];
}
