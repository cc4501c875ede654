/** A list by what each of it has in common, in the order in which that came up first. */
export function groupBy<T, Key>(list: Iterable<T>, keyOf: (one: T) => Key): Map<Key, T[]> {
  const groups = new Map<Key, T[]>();
  for (const one of list) {
    const key = keyOf(one);
    const group = groups.get(key);
    if (group) group.push(one);
    else groups.set(key, [one]);
  }
  return groups;
}
