import { z } from "zod";
import { readGatewayStatus } from "@/core/contacts/gatewayReply";
import { environment } from "./environment";
import type { Handed } from "./mail";

const accepted = z.object({ id: z.string().min(1) });
const refusal = z.object({ error: z.string() });

/**
 * Hands one text to the gateway over HTTP: JSON with `from`, `to`, `body`, `reference` and, for one with a picture,
 * the `media` that the gateway fetches; an Idempotency-Key makes a repeat harmless. Never throws. A 4xx that names the number is a bounce; 429, 5xx and time-outs ask for
 * another try.
 */
export async function handOverText(text: {
  id: string;
  from: string;
  to: string;
  body: string;
  /** The address of a picture; null for a plain text. */
  media?: string | null;
}): Promise<Handed> {
  const { TEXT_GATEWAY_URL, TEXT_GATEWAY_KEY } = environment();
  try {
    const response = await fetch(`${TEXT_GATEWAY_URL}/messages`, {
      method: "POST",
      headers: {
        authorization: `Bearer ${TEXT_GATEWAY_KEY}`,
        "content-type": "application/json",
        "idempotency-key": text.id,
      },
      body: JSON.stringify({
        from: text.from,
        to: text.to,
        body: text.body,
        reference: text.id,
        ...(text.media ? { media: text.media } : {}),
      }),
      signal: AbortSignal.timeout(8_000),
    });
    const answer: unknown = await response.json().catch(() => ({}));
    if (response.ok) {
      const parsed = accepted.safeParse(answer);
      return parsed.success
        ? { kind: "sent", gatewayId: parsed.data.id }
        : { kind: "deferred", reply: { code: "not readable" }, said: null };
    }
    const said = refusal.safeParse(answer).data?.error.slice(0, 200) ?? null;
    const isBounce = response.status === 422 || response.status === 400;
    return { kind: isBounce ? "bounced" : "deferred", reply: readGatewayStatus(response.status), said };
  } catch (error) {
    return {
      kind: "deferred",
      reply: { code: (error as Error).name === "TimeoutError" ? "no answer in time" : "not reached" },
      said: null,
    };
  }
}

/** Whether texts may be sent from a number: what the gateway says of it, or that it could not be asked. */
export type NumberCheck = "yes" | "no" | "not reached";

/** Asks the gateway whether a number (E.164) is one that it sends from for this installation. Never throws. */
export async function mayTextFrom(number: string): Promise<NumberCheck> {
  const { TEXT_GATEWAY_URL, TEXT_GATEWAY_KEY } = environment();
  try {
    const response = await fetch(`${TEXT_GATEWAY_URL}/numbers/${encodeURIComponent(number)}`, {
      headers: { authorization: `Bearer ${TEXT_GATEWAY_KEY}` },
      signal: AbortSignal.timeout(5_000),
    });
    await response.body?.cancel();
    if (response.ok) return "yes";
    return response.status === 404 ? "no" : "not reached";
  } catch {
    return "not reached";
  }
}
