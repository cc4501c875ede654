import { Webhook } from "standardwebhooks";
import { newId } from "@/schema/columns";

/** Deliveries a second that a webhook takes, beside a bare route that inserts one row. Signed before the clock runs. */

type Sending = { body: string; headers: Record<string, string> };

export function signDeliveries(secret: string, count: number): Sending[] {
  const webhook = new Webhook(secret);
  const at = new Date();
  return Array.from({ length: count }, (_, n) => {
    const body = JSON.stringify({
      type: "visit.finished",
      timestamp: at.toISOString(),
      data: {
        visit: { id: `V${n}`, service: "Check-up", ends_at: at.toISOString() },
        person: { id: `P${n}`, name: `Given${n} Family`, email: `p${n}@post.example` },
      },
    });
    const id = `msg_${newId()}`;
    return {
      body,
      headers: {
        "content-type": "application/json",
        "webhook-id": id,
        "webhook-timestamp": String(Math.floor(at.getTime() / 1000)),
        "webhook-signature": webhook.sign(id, at, body),
      },
    };
  });
}

/** Sends all of them with 32 at a time; gives how many a second were taken. Throws when one is not. */
export async function sendAll(address: string, sendings: readonly Sending[]): Promise<number> {
  let next = 0;
  const began = performance.now();
  const lane = async () => {
    while (next < sendings.length) {
      const { body, headers } = sendings[next++];
      const response = await fetch(address, { method: "POST", body, headers });
      await response.arrayBuffer();
      if (response.status !== 202) throw new Error(`Answered ${response.status}`);
    }
  };
  await Promise.all(Array.from({ length: 32 }, lane));
  return sendings.length / ((performance.now() - began) / 1000);
}
