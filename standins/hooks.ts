import { randomUUID } from "node:crypto";
import { Webhook } from "standardwebhooks";

/** Sends signed deliveries (Standard Webhooks) to Estima and tries again when they do not get through. */
export class HookSender {
  private readonly webhook: Webhook;
  private readonly waiting = new Set<Promise<void>>();
  private readonly receipts = new Set<Promise<void>>();
  failed = 0;

  constructor(
    private readonly address: string,
    secret: string,
  ) {
    this.webhook = new Webhook(secret.startsWith("whsec_") ? secret : Buffer.from(secret).toString("base64"));
  }

  /**
   * Hands one event over; resolves once it was taken or given up after `tries`. Receipts are nothing that anybody
   * waits for.
   */
  send(type: string, data: Record<string, unknown>, tries = 5, timestamp?: string): Promise<void> {
    const delivery = this.deliver(JSON.stringify({ type, timestamp, data }), `msg_${randomUUID()}`, tries);
    const list = type.endsWith(".delivered") ? this.receipts : this.waiting;
    list.add(delivery);
    return delivery.finally(() => list.delete(delivery));
  }

  private async deliver(body: string, id: string, tries: number): Promise<void> {
    for (let attempt = 1; attempt <= tries; attempt++) {
      const at = new Date();
      try {
        const response = await fetch(this.address, {
          method: "POST",
          headers: {
            "content-type": "application/json",
            "webhook-id": id,
            "webhook-timestamp": String(Math.floor(at.getTime() / 1000)),
            "webhook-signature": this.webhook.sign(id, at, body),
          },
          body,
          signal: AbortSignal.timeout(10_000),
        });
        await response.arrayBuffer();
        if (response.ok) return;
      } catch {
        // Estima may be starting: try again.
      }
      await new Promise((next) => setTimeout(next, 200 * 2 ** attempt));
    }
    this.failed += 1;
  }

  /** Resolves when nothing that Estima acts on is on its way any more; with `receipts`, nothing at all. */
  async settled(receipts = false): Promise<void> {
    while (this.waiting.size > 0 || (receipts && this.receipts.size > 0))
      await Promise.all([...this.waiting, ...(receipts ? this.receipts : [])]);
  }
}
