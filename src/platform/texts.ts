import { z } from "zod";
import { environment } from "./environment";
import type { Handed } from "./mail";

const accepted = z.object({ id: z.string().min(1) });

/**
 * Hands one text to the gateway over HTTP: JSON with `from`, `to`, `body` and `reference`, and an Idempotency-Key that
 * makes a repeat harmless. Never throws. A 4xx that names the number is a bounce; 429, 5xx and time-outs ask for
 * another try.
 */
export async function handOverText(text: { id: string; from: string; to: string; body: string }): Promise<Handed> {
  const { TEXT_GATEWAY_URL, TEXT_GATEWAY_KEY } = environment();
  try {
    const response = await fetch(`${TEXT_GATEWAY_URL}/messages`, {
      method: "POST",
      headers: {
        authorization: `Bearer ${TEXT_GATEWAY_KEY}`,
        "content-type": "application/json",
        "idempotency-key": text.id,
      },
      body: JSON.stringify({ from: text.from, to: text.to, body: text.body, reference: text.id }),
      signal: AbortSignal.timeout(8_000),
    });
    const answer: unknown = await response.json().catch(() => ({}));
    if (response.ok) {
      const parsed = accepted.safeParse(answer);
      return parsed.success
        ? { kind: "sent", gatewayId: parsed.data.id }
        : { kind: "deferred", reason: "The gateway gave an answer that could not be read." };
    }
    const reason = `${(answer as { error?: string }).error ?? "The gateway refused"} (${response.status})`.slice(
      0,
      200,
    );
    if (response.status === 422 || response.status === 400) return { kind: "bounced", reason };
    return { kind: "deferred", reason };
  } catch (error) {
    return {
      kind: "deferred",
      reason:
        (error as Error).name === "TimeoutError"
          ? "The gateway did not answer in time."
          : "The gateway could not be reached.",
    };
  }
}
