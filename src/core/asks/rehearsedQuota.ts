import { openSlot, take } from "../time/ceiling";
import type { Channel } from "../time/sendHours";
import { HOUR, monthOf } from "../time/zone";
import type { RehearsedClient } from "./rehearsal";

/** What a client's senders have used in a rehearsal, month by month, and what left within the hour. */
export class RehearsedQuota {
  private readonly left: Record<Channel, number[]>;
  private readonly used = new Map<string, number>();

  constructor(
    private readonly client: RehearsedClient,
    now: number,
  ) {
    this.left = { text: [...client.recentSends.text], email: [...client.recentSends.email] };
    for (const channel of ["text", "email"] as const) this.used.set(this.month(channel, now), client.used[channel]);
  }

  /** Whether nothing may leave any more in this month. */
  isUsedUp(channel: Channel, at: number): boolean {
    const most = this.client.allowances[channel];
    return most !== null && this.usedAt(channel, at) >= most;
  }

  /** Whether the month's allowance holds this many more. */
  affords(channel: Channel, at: number, cost: number): boolean {
    const most = this.client.allowances[channel];
    return most === null || this.usedAt(channel, at) + cost <= most;
  }

  /**
   * When a message that could leave at `at` may, under the ceiling; the moment is kept for it. `promised` is a moment
   * it was given before.
   */
  slot(channel: Channel, at: number, promised: number | null, permit: (free: number) => number | null): number {
    const ceiling = this.client.ceilings[channel];
    if (ceiling === null || (promised !== null && promised >= at)) return at;
    const slot = openSlot(this.left[channel], ceiling, at, permit);
    if (slot.isOpen) take(this.left[channel], slot.at);
    return slot.at;
  }

  /** Counts what leaves at `at`. */
  count(channel: Channel, at: number, cost: number): void {
    this.used.set(this.month(channel, at), this.usedAt(channel, at) + cost);
    const left = this.left[channel];
    while (left[0] <= at - HOUR) left.shift();
  }

  private usedAt(channel: Channel, at: number): number {
    return this.used.get(this.month(channel, at)) ?? 0;
  }

  private month(channel: Channel, at: number): string {
    return `${channel} ${monthOf(this.client.zone, at)}`;
  }
}
