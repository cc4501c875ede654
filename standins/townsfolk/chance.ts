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

/** One of a list by weight: `share` says how often each comes up, in any unit. */
export function pickByShare<T>(list: readonly T[], share: (item: T) => number, chance: () => number): T {
  let rest = chance() * list.reduce((sum, item) => sum + share(item), 0);
  for (const item of list) {
    rest -= share(item);
    if (rest <= 0) return item;
  }
  return list[list.length - 1];
}
