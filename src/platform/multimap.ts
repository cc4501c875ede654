/**
 * Several values under one key, each once and in the order in which they came. Made for a hundred thousand keys of which
 * nearly all have one value: that one is kept without a list around it.
 */
export class Multimap<Value extends object> {
  private readonly map = new Map<string, Value | Value[]>();

  add(key: string, value: Value): void {
    const found = this.map.get(key);
    if (found === undefined) this.map.set(key, value);
    else if (!Array.isArray(found)) {
      if (found !== value) this.map.set(key, [found, value] as Value[]);
    } else if (!found.includes(value)) found.push(value);
  }

  get(key: string): readonly Value[] {
    const found = this.map.get(key);
    return found === undefined ? [] : Array.isArray(found) ? found : [found as Value];
  }
}
