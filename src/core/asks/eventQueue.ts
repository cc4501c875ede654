/**
 * Something that happens at a moment (milliseconds since the epoch). Of one moment first what `round` says: what
 * becomes due by a message that leaves at that moment leaves after all that were due already.
 */
export type Event = { at: number; round: number; rank: number; tie: string; run: (at: number) => void };

/** A binary heap of events: earliest first, then by round, by rank and by tie. */
export class EventQueue {
  private readonly list: Event[] = [];

  private isBefore(a: Event, b: Event): boolean {
    return a.at !== b.at
      ? a.at < b.at
      : a.round !== b.round
        ? a.round < b.round
        : a.rank !== b.rank
          ? a.rank < b.rank
          : a.tie < b.tie;
  }

  push(event: Event): void {
    const { list } = this;
    list.push(event);
    let index = list.length - 1;
    while (index > 0) {
      const parent = (index - 1) >> 1;
      if (!this.isBefore(list[index], list[parent])) break;
      [list[index], list[parent]] = [list[parent], list[index]];
      index = parent;
    }
  }

  pop(): Event | undefined {
    const { list } = this;
    const top = list[0];
    const last = list.pop();
    if (!top || !last || list.length === 0) return top;
    list[0] = last;
    let index = 0;
    for (;;) {
      const [a, b] = [2 * index + 1, 2 * index + 2];
      let least = index;
      if (a < list.length && this.isBefore(list[a], list[least])) least = a;
      if (b < list.length && this.isBefore(list[b], list[least])) least = b;
      if (least === index) return top;
      [list[index], list[least]] = [list[least], list[index]];
      index = least;
    }
  }
}
