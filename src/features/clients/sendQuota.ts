import { sql } from "drizzle-orm";
import { openSlot, take } from "@/core/time/ceiling";
import type { Channel } from "@/core/time/sendHours";
import { HOUR, monthOf as localMonth } from "@/core/time/zone";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import type { Setting } from "./queries";

/** What a client's senders have used this month, and how many left within the hour: who may still leave now. */

export type Usage = { channel: Channel; messages: number; used: number };

/** "2026-11": the month it is at the client. */
export function monthOf(setting: Setting, now: number): string {
  return localMonth(setting.client.zone, now);
}

/** What was used in a month. */
export async function usageOf(tx: Tx, scope: Scope, month: string): Promise<Record<Channel, Usage>> {
  const rows = await rowsIn<Usage>(
    tx,
    sql`select channel, messages, used from senders where client_id = ${scope.clientId} and month = ${month}`,
  );
  const of = (channel: Channel) => rows.find((row) => row.channel === channel) ?? { channel, messages: 0, used: 0 };
  return { text: of("text"), email: of("email") };
}

type Row = { messages: number; used: number; recentSends: number[] };

/** Counts what leaves. Where a ceiling or an allowance binds, the sender's row is locked until the transaction ends. */
export class SendQuota {
  private readonly before: Record<Channel, Row>;
  private isChanged = false;

  private constructor(
    private readonly setting: Setting,
    private readonly month: string,
    private readonly rows: Record<Channel, Row>,
    private readonly now: number,
  ) {
    this.before = { text: { ...rows.text }, email: { ...rows.email } };
  }

  static async load(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<SendQuota> {
    const month = monthOf(setting, now);
    const rows: Record<Channel, Row> = {
      text: { messages: 0, used: 0, recentSends: [] },
      email: { messages: 0, used: 0, recentSends: [] },
    };
    const bound = (["email", "text"] as const).filter(
      (channel) => ceilingOf(setting, channel) !== null || allowanceOf(setting, channel) !== null,
    );
    for (const channel of bound) {
      await tx.execute(
        sql`insert into senders (client_id, channel, month) values (${scope.clientId}, ${channel}, ${month}) on conflict do nothing`,
      );
      const [row] = await rowsIn<Row>(
        tx,
        sql`select messages, used, recent_sends as "recentSends" from senders where client_id = ${scope.clientId} and channel = ${channel} and month = ${month} for update`,
      );
      // A ceiling looks back over the turn of the month.
      const [last] =
        ceilingOf(setting, channel) === null
          ? []
          : await rowsIn<Row>(
              tx,
              sql`select messages, used, recent_sends as "recentSends" from senders where client_id = ${scope.clientId} and channel = ${channel} and month < ${month} order by month desc limit 1`,
            );
      rows[channel] = {
        ...row,
        recentSends: [...(last?.recentSends ?? []), ...row.recentSends].filter((at) => at > now - HOUR),
      };
    }
    return new SendQuota(setting, month, rows, now);
  }

  /**
   * When a message of this sender may leave, as far as its ceiling goes: `now`, or a later moment that is kept for it.
   * `promised` is the moment it was given before; `permit` moves a moment into the open hours, null when it would come
   * too late.
   */
  slot(channel: Channel, promised: number | null, permit: (at: number) => number | null): number {
    const ceiling = ceilingOf(this.setting, channel);
    const { recentSends: left } = this.rows[channel];
    if (ceiling === null || (promised !== null && left.includes(promised))) return this.now;
    const { at, isOpen } = openSlot(left, ceiling, this.now, permit);
    if (isOpen) {
      take(left, at);
      this.isChanged = true;
    }
    return at;
  }

  /** Whether the month's allowance holds this many more. */
  affords(channel: Channel, cost: number): boolean {
    const most = allowanceOf(this.setting, channel);
    return most === null || this.rows[channel].used + cost <= most;
  }

  /** Counts one message. */
  count(channel: Channel, cost: number): void {
    const row = this.rows[channel];
    row.messages += 1;
    row.used += cost;
  }

  /** Keeps what was counted. */
  async keep(tx: Tx, scope: Scope): Promise<void> {
    for (const channel of ["email", "text"] as const) {
      const [row, before] = [this.rows[channel], this.before[channel]];
      if (row.messages === before.messages && !(this.isChanged && ceilingOf(this.setting, channel) !== null)) continue;
      const left = JSON.stringify(row.recentSends);
      await tx.execute(sql`
        insert into senders as s (client_id, channel, month, messages, used, recent_sends)
        values (${scope.clientId}, ${channel}, ${this.month}, ${row.messages - before.messages}, ${row.used - before.used}, ${left}::jsonb)
        on conflict (client_id, channel, month) do update set messages = s.messages + excluded.messages, used = s.used + excluded.used, recent_sends = excluded.recent_sends`);
    }
  }
}

/** At most so many an hour, or null. */
export function ceilingOf({ client }: Setting, channel: Channel): number | null {
  return channel === "text" ? client.textsAnHour : client.emailsAnHour;
}

/** At most so many a month (parts of texts, or emails), or null. */
export function allowanceOf({ client }: Setting, channel: Channel): number | null {
  return channel === "text" ? client.textsAMonth : client.emailsAMonth;
}
