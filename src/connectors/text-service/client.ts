import { OUTSIDE_ANSWER, type OutsideProblem, type OutsideRequest } from "@/core/replies/outsideDraft";
import { discard, readBounded } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { callOutside } from "@/platform/outbound";

/** The longest answer that is read, in bytes. */
const MOST_ANSWER = 100_000;

/**
 * Asks an outside text service for a draft: `POST <address>` with JSON and a bearer key, answered by `{"text": "..."}`
 * (docs/text-service.md). Never throws.
 */
export async function askTextService(
  { address, key }: { address: string; key: string },
  request: OutsideRequest,
): Promise<{ text: string } | { problem: OutsideProblem }> {
  try {
    const response = await callOutside(address, {
      method: "POST",
      headers: { authorization: `Bearer ${key}`, "content-type": "application/json", accept: "application/json" },
      body: JSON.stringify(request),
    });
    if (!response.ok) {
      await discard(response);
      if (response.status === 401 || response.status === 403) return { problem: "refused key" };
      return { problem: response.status === 429 || response.status === 503 ? "busy" : "not readable" };
    }
    const body = await readBounded(response, MOST_ANSWER);
    const read = OUTSIDE_ANSWER.safeParse(body === null ? null : JSON.parse(body));
    return read.success ? { text: read.data.text } : { problem: "not readable" };
  } catch (error) {
    if (error instanceof SyntaxError) return { problem: "not readable" };
    log.warn(describeError(error), "text service not reached");
    return { problem: "not reached" };
  }
}
