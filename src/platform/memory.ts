import type { Logger } from "drizzle-orm";

type Loaded = { writes: RegExp; value: Promise<unknown> };

/** Who else sees other rows from here on. */
const SEEN_OTHERWISE = /\bset_config\b|\brollback\b/i;
const READS = /^\s*\(?\s*select\b/i;

/**
 * What a transaction has loaded already, for as long as none of its statements writes to the tables it was loaded from.
 * It is told every statement before that runs. Writes by functions of the database and their triggers are not seen: no
 * table that is remembered may be written by one.
 */
export class Memory implements Logger {
  private readonly loaded = new Map<string, Loaded>();

  logQuery(statement: string): void {
    if (this.loaded.size === 0) return;
    if (SEEN_OTHERWISE.test(statement)) this.loaded.clear();
    else if (!READS.test(statement))
      for (const [key, { writes }] of this.loaded) if (writes.test(statement)) this.loaded.delete(key);
  }

  /** What was loaded under `key`, from these tables; loaded now where it is not known, or not known any more. */
  remember<T>(key: string, tables: readonly string[], load: () => Promise<T>): Promise<T> {
    const known = this.loaded.get(key);
    if (known) return known.value as Promise<T>;
    const value = load();
    const entry = { writes: new RegExp(`\\b(?:${tables.join("|")})\\b`), value };
    this.loaded.set(key, entry);
    value.catch(() => this.loaded.get(key) === entry && this.loaded.delete(key));
    return value;
  }
}
