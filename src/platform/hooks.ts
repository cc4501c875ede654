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
    new Webhook(secret.startsWith("whsec_") ? secret : Buffer.from(secret).toString("base64")).verify(text, headers);
    return { id: headers["webhook-id"], body: readJson(text) };
  } catch (error) {
    if (error instanceof SyntaxError) return problem(400, "The body is not JSON.");
    return problem(401, "The signature does not fit this delivery, or it is older than five minutes.");
  }
}

/**
 * JSON whose texts the database can hold: without NUL characters and halves of surrogate pairs. Throws SyntaxError, also for
 * nesting deeper than sixty levels, which nobody means.
 */
export function readJson(text: string): unknown {
  const clean = (value: unknown, depth: number): unknown => {
    if (depth > 60) throw new SyntaxError("Nested too deeply.");
    if (typeof value === "string") return storable(value);
    if (Array.isArray(value)) return value.map((each) => clean(each, depth + 1));
    if (value !== null && typeof value === "object") return Object.fromEntries(Object.entries(value).map(([name, inner]) => [storable(name), clean(inner, depth + 1)]));
    return value;
  };
  return clean(JSON.parse(text), 0);
}

const HALF_PAIR = /[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/g;

function storable(text: string): string {
  return text.replaceAll("\u0000", "").replace(HALF_PAIR, "\ufffd");
}

/** The body as text, or null when it is longer than `most` bytes. */
export async function readBounded(request: Request | Response, most: number): Promise<string | null> {
  const bytes = await readBytes(request, most);
  return bytes && Buffer.from(bytes).toString("utf8");
}

/** The body as bytes, or null when it is longer than `most`. */
export async function readBytes(request: Request | Response, most: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get("content-length") ?? 0) > most) return null;
  if (!request.body) return new Uint8Array();
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    if (size > most) return null;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/** An error as problem details (RFC 9457). */
export function problem(status: number, detail: string): Response {
  return Response.json({ status, detail }, { status, headers: { "content-type": "application/problem+json" } });
}
