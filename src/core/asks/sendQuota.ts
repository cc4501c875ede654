import { openSlot, take } from "../time/ceiling";
import type { Channel } from "../time/sendHours";
import { HOUR, monthOf } from "../time/zone";

/** What a client's senders may: an allowance a month (parts of texts, or emails), a ceiling an hour; null where none. */
export type SendLimits = {
  /** The zone in which a month begins. */
  zone: string;
  allowances: Record<Channel, number | null>;
  ceilings: Record<Channel, number | null>;
};

export type Slot = { at: number; isKept: boolean };

/**
 * What a client's senders have used, month by month, and what left within the hour: who may still leave. Sending and
 * rehearsing count with it; instants are milliseconds since the epoch.
 */
export class SendQuota {
  protected readonly recentSends: Record<Channel, number[]>;
  private readonly used = new Map<string, number>();
  /** Whether a moment under a ceiling was kept for somebody. */
  protected hasTaken = false;

  /** `used` is what the month of `now` has used so far. */
  constructor(
    private readonly limits: SendLimits,
    recentSends: Readonly<Record<Channel, readonly number[]>>,
    used: Readonly<Record<Channel, number>>,
    now: number,
  ) {
    this.recentSends = { text: [...recentSends.text], email: [...recentSends.email] };
    for (const channel of ["text", "email"] as const) this.used.set(this.month(channel, now), used[channel]);
  }

  /** Whether nothing may leave any more in this month. */
  isUsedUp(channel: Channel, at: number): boolean {
    const most = this.limits.allowances[channel];
    return most !== null && this.usedAt(channel, at) >= most;
  }

  /** Whether the month's allowance holds this many more. */
  affords(channel: Channel, at: number, cost: number): boolean {
    const most = this.limits.allowances[channel];
    return most === null || this.usedAt(channel, at) + cost <= most;
  }

  /**
   * When a message that could leave at `at` may, as far as its ceiling goes: `at`, or a later moment, which is kept for
   * it where `isKept`. `promised` is the moment this channel kept for it before: one that the other channel kept holds
   * nothing here. `permit` moves a moment into the open hours, null when the message would no longer go this way.
   */
  slot(channel: Channel, at: number, promised: number | null, permit: (free: number) => number | null): Slot {
    const ceiling = this.limits.ceilings[channel];
    const taken = this.recentSends[channel];
    if (ceiling === null || (promised !== null && promised >= at)) return { at, isKept: true };
    const slot = openSlot(taken, ceiling, at, permit);
    if (slot.isOpen) {
      take(taken, slot.at);
      this.hasTaken = true;
    }
    return { at: slot.at, isKept: slot.isOpen };
  }

  /** Counts what leaves at `at`. */
  count(channel: Channel, at: number, cost: number): void {
    this.used.set(this.month(channel, at), this.usedAt(channel, at) + cost);
    const taken = this.recentSends[channel];
    while (taken[0] <= at - HOUR) taken.shift();
  }

  protected usedAt(channel: Channel, at: number): number {
    return this.used.get(this.month(channel, at)) ?? 0;
  }

  private month(channel: Channel, at: number): string {
    return `${channel} ${monthOf(this.limits.zone, at)}`;
  }
}
