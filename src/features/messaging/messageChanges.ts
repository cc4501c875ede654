import { sql } from "drizzle-orm";
import type { Tx } from "@/platform/database";
import type { Message } from "./claims";

export type Change = { id: string } & Partial<Omit<Message, "id">>;

/** Writes all changes of a batch in one statement. Fields that a change does not name stay as they are. */
export async function writeChanges(tx: Tx, changes: Change[]): Promise<void> {
  if (changes.length === 0) return;
  await tx.execute(sql`
    update messages m set
      state = case when d.state = 'sent' and m.delivered_at is not null then 'delivered' else d.state end, channel = coalesce(d.channel, m.channel), reason = coalesce(d.reason, m.reason),
      gateway_said = coalesce(d."gatewaySaid", m.gateway_said),
      address = coalesce(d.address, m.address), subject = coalesce(d.subject, m.subject), body = coalesce(d.body, m.body),
      step_name = coalesce(d."stepName", m.step_name), wording = coalesce(d.wording, m.wording), hold = null,
      variant = coalesce(d.variant, m.variant), picture = coalesce(d.picture, m.picture),
      parts = coalesce(d.parts, m.parts), attempts = coalesce(d.attempts, m.attempts),
      gateway_id = coalesce(d."gatewayId", m.gateway_id), sent_at = coalesce(to_timestamp(d."sentAt" / 1000.0), m.sent_at),
      ended_at = coalesce(to_timestamp(d."endedAt" / 1000.0), m.ended_at), due_at = coalesce(to_timestamp(d."dueAt" / 1000.0), m.due_at),
      claimed_until = case when d.state = 'sending' then m.claimed_until end
    from jsonb_to_recordset(${JSON.stringify(changes)}::jsonb) as d(
      id uuid, state text, channel text, reason jsonb, "gatewaySaid" text, address text, subject text, body text, parts int, attempts int, "stepName" text, wording text, variant text, picture text,
      "gatewayId" text, "sentAt" numeric, "endedAt" numeric, "dueAt" numeric)
    where m.id = d.id`);
}
