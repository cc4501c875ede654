import { Webhook } from "standardwebhooks";

export const MOST_HOOK_BYTES = 256 * 1024;

/**
 * Reads a signed delivery (Standard Webhooks: `webhook-id`, `webhook-timestamp`, `webhook-signature`, five minutes of
 * tolerance) and gives its JSON, or the answer to refuse it with.
 */
export async function readHook(request: Request, secret: string): Promise<{ id: string; body: unknown } | Response> {
  const text = await readBounded(request, MOST_HOOK_BYTES);
  if (text === null) return problem(413, "The delivery is larger than 256 KB.");
  const headers = {
    "webhook-id": request.headers.get("webhook-id") ?? "",
    "webhook-timestamp": request.headers.get("webhook-timestamp") ?? "",
    "webhook-signature": request.headers.get("webhook-signature") ?? "",
  };
  try {
    new Webhook(Buffer.from(secret).toString("base64")).verify(text, headers);
    // No text of ours can hold the NUL character.
    return { id: headers["webhook-id"], body: JSON.parse(text.replaceAll("\\u0000", "")) };
  } catch (error) {
    if (error instanceof SyntaxError) return problem(400, "The body is not JSON.");
    return problem(401, "The signature does not fit this delivery, or it is older than five minutes.");
  }
}

/** The body as text, or null when it is longer than `most` bytes. */
export async function readBounded(request: Request, most: number): Promise<string | null> {
  if (Number(request.headers.get("content-length") ?? 0) > most) return null;
  if (!request.body) return "";
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    if (size > most) return null;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString("utf8");
}

/** An error as problem details (RFC 9457). */
export function problem(status: number, detail: string): Response {
  return Response.json({ status, detail }, { status, headers: { "content-type": "application/problem+json" } });
}
