import { sql } from "drizzle-orm";
import { type SendLimits, SendQuota, type Slot } from "@/core/asks/sendQuota";
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

type Row = { used: number; recentSends: number[] };

/** The quota of a client as its rows say. Where a ceiling or an allowance binds, the sender's row is locked. */
export class StoredQuota extends SendQuota {
  private readonly counted: Record<Channel, { messages: number; used: number }> = {
    text: { messages: 0, used: 0 },
    email: { messages: 0, used: 0 },
  };

  private constructor(
    private readonly setting: Setting,
    rows: Record<Channel, Row>,
    private readonly now: number,
  ) {
    super(
      limitsOf(setting),
      { text: rows.text.recentSends, email: rows.email.recentSends },
      { text: rows.text.used, email: rows.email.used },
      now,
    );
  }

  static async load(tx: Tx, scope: Scope, setting: Setting, now: number): Promise<StoredQuota> {
    const month = monthOf(setting, now);
    const rows: Record<Channel, Row> = { text: { used: 0, recentSends: [] }, email: { used: 0, recentSends: [] } };
    const bound = (["email", "text"] as const).filter(
      (channel) => ceilingOf(setting, channel) !== null || allowanceOf(setting, channel) !== null,
    );
    for (const channel of bound) {
      await tx.execute(
        sql`insert into senders (client_id, channel, month) values (${scope.clientId}, ${channel}, ${month}) on conflict do nothing`,
      );
      const [row] = await rowsIn<Row>(
        tx,
        sql`select used, recent_sends as "recentSends" from senders where client_id = ${scope.clientId} and channel = ${channel} and month = ${month} for update`,
      );
      // A ceiling looks back over the turn of the month.
      const [last] =
        ceilingOf(setting, channel) === null
          ? []
          : await rowsIn<Row>(
              tx,
              sql`select used, recent_sends as "recentSends" from senders where client_id = ${scope.clientId} and channel = ${channel} and month < ${month} order by month desc limit 1`,
            );
      rows[channel] = {
        ...row,
        recentSends: [...(last?.recentSends ?? []), ...row.recentSends].filter((at) => at > now - HOUR),
      };
    }
    return new StoredQuota(setting, rows, now);
  }

  /** A worker comes a little after the moment that was promised: that one still holds. */
  override slot(channel: Channel, at: number, promised: number | null, permit: (free: number) => number | null): Slot {
    const isPromised = promised !== null && this.recentSends[channel].includes(promised);
    return super.slot(channel, at, isPromised ? at : null, permit);
  }

  override count(channel: Channel, at: number, cost: number): void {
    super.count(channel, at, cost);
    this.counted[channel].messages += 1;
    this.counted[channel].used += cost;
  }

  /** Keeps what was counted. */
  async keep(tx: Tx, scope: Scope): Promise<void> {
    const month = monthOf(this.setting, this.now);
    for (const channel of ["email", "text"] as const) {
      const { messages, used } = this.counted[channel];
      if (messages === 0 && !(this.hasTaken && ceilingOf(this.setting, channel) !== null)) continue;
      const recent = JSON.stringify(this.recentSends[channel]);
      await tx.execute(sql`
        insert into senders as s (client_id, channel, month, messages, used, recent_sends)
        values (${scope.clientId}, ${channel}, ${month}, ${messages}, ${used}, ${recent}::jsonb)
        on conflict (client_id, channel, month) do update set messages = s.messages + excluded.messages, used = s.used + excluded.used, recent_sends = excluded.recent_sends`);
    }
  }
}

/** What a client's senders may. */
function limitsOf(setting: Setting): SendLimits {
  const each = (of: typeof ceilingOf) => ({ text: of(setting, "text"), email: of(setting, "email") });
  return { zone: setting.client.zone, allowances: each(allowanceOf), ceilings: each(ceilingOf) };
}

/** At most so many an hour, or null. */
export function ceilingOf({ client }: Setting, channel: Channel): number | null {
  return channel === "text" ? client.textsAnHour : client.emailsAnHour;
}

/** At most so many a month (parts of texts, or emails), or null. */
export function allowanceOf({ client }: Setting, channel: Channel): number | null {
  return channel === "text" ? client.textsAMonth : client.emailsAMonth;
}
