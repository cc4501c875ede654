import { Journal } from "./journal";

/** An entry of a review site: each change gives it the next number. Instants are milliseconds since the epoch. */
export type BookEntry = { id: string; place: string; at: number; changedAt: number; change: number };

/** All entries of a review site, remembered in a journal; an entry is written whole each time it changes. */
export class SiteBook<Entry extends BookEntry> {
  readonly entries = new Map<string, Entry>();
  private changes = 0;
  private readonly journal: Journal<Entry>;

  /** `complete` fills what entries of older journals lack. */
  constructor(file: string | null, complete: (raw: Entry) => Entry = (raw) => raw) {
    this.journal = new Journal(file);
    this.journal.replay((raw) => {
      const entry = complete(raw);
      this.changes = Math.max(this.changes + 1, entry.change ?? 0);
      this.entries.set(entry.id, { ...entry, change: entry.change ?? this.changes });
    });
  }

  /** How often anything changed. */
  get version(): number {
    return this.changes;
  }

  put(entry: Omit<Entry, "change">): Entry {
    this.changes += 1;
    const kept = { ...entry, change: this.changes } as Entry;
    this.entries.set(kept.id, kept);
    this.journal.append(kept);
    return kept;
  }

  /** The entries of a place, newest first. */
  of(place: string): Entry[] {
    return [...this.entries.values()].filter((entry) => entry.place === place).sort((a, b) => b.at - a.at);
  }

  /** What changed at a place since a number, in the order in which it did. */
  since(place: string, change: number): Entry[] {
    return [...this.entries.values()]
      .filter((entry) => entry.place === place && entry.change > change)
      .sort((a, b) => a.change - b.change);
  }

  close(): Promise<void> {
    return this.journal.close();
  }
}
