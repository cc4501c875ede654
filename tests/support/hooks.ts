import { Webhook } from "standardwebhooks";
import { newId } from "@/schema/columns";
import type { Harness } from "./harness";

/** What the gateways sign with in the tests. */
export const HOOK_SECRETS = { texts: "text-hook-secret", mail: "mail-hook-secret" };

/** Delivers a signed event as a gateway does, and gives the answer. */
export async function sendHook(
  harness: Harness,
  to: "texts" | "mail",
  event: unknown,
  change: { at?: Date; secret?: string; id?: string; body?: string } = {},
): Promise<{ status: number; body: Record<string, unknown> }> {
  const body = change.body ?? JSON.stringify(event);
  const [id, at] = [change.id ?? `msg_${newId()}`, change.at ?? new Date()];
  const signature = new Webhook(Buffer.from(change.secret ?? HOOK_SECRETS[to]).toString("base64")).sign(id, at, body);
  const response = await fetch(`${harness.env.APP_URL}/hooks/${to}`, {
    method: "POST",
    body,
    headers: {
      "content-type": "application/json",
      "webhook-id": id,
      "webhook-timestamp": String(Math.floor(at.getTime() / 1000)),
      "webhook-signature": signature,
    },
  });
  return { status: response.status, body: (await response.json()) as Record<string, unknown> };
}
