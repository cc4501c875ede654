import { Webhook } from "standardwebhooks";
import { cleanText } from "@/core/words/clean";
import { environment } from "./environment";
import { isStillWelcome, isWelcome } from "./publicLimit";

export const MOST_HOOK_BYTES = 256 * 1024;

/**
 * Reads a signed delivery (Standard Webhooks: `webhook-id`, `webhook-timestamp`, `webhook-signature`, five minutes of
 * tolerance) and gives its JSON, or the answer to refuse it with.
 */
export async function readHook(request: Request, secret: string): Promise<{ id: string; body: unknown } | Response> {
  const text = await readBounded(request, MOST_HOOK_BYTES);
  if (text === null) return problem(413, "The delivery is larger than 256 KB.");
  return checkHook(request.headers, text, secret) ?? readHookBody(request.headers, text);
}

/** The JSON of a delivery whose signature was checked. */
export function readHookBody(headers: Headers, text: string): { id: string; body: unknown } | Response {
  try {
    return { id: headers.get("webhook-id") ?? "", body: readJson(text) };
  } catch {
    return problem(400, "The body is not JSON.");
  }
}

/** Null when a delivery is signed with `secret` and of now, else the answer to refuse it with. */
export function checkHook(headers: Headers, text: string, secret: string): Response | null {
  try {
    const webhook = secret.startsWith("whsec_") ? new Webhook(secret) : new Webhook(secret, { format: "raw" });
    webhook.verify(text, Object.fromEntries(headers), { jsonParse: false });
    return null;
  } catch {
    return problem(401, "The signature doesn't match this delivery, or it's more than five minutes old.");
  }
}

/** Escapes of what no text in the database can hold. */
const UNSTORABLE = /\\u(?:0000|d[89a-f])/i;
const MOST_LEVELS = 60;

/**
 * JSON whose texts the database can hold: without NUL characters and halves of surrogate pairs. Throws SyntaxError,
 * also for nesting deeper than sixty levels, which nobody means.
 */
export function readJson(text: string): unknown {
  if (isDeep(text)) throw new SyntaxError("Nested too deeply.");
  const value = JSON.parse(text) as unknown;
  return UNSTORABLE.test(text) ? clean(value) : value;
}

/** Counts brackets outside of texts. */
function isDeep(text: string): boolean {
  let depth = 0;
  for (let index = 0, inText = false; index < text.length; index++) {
    const code = text.charCodeAt(index);
    if (code === 0x5c && inText) index += 1;
    else if (code === 0x22) inText = !inText;
    else if (!inText && (code === 0x5b || code === 0x7b) && ++depth > MOST_LEVELS) return true;
    else if (!inText && (code === 0x5d || code === 0x7d)) depth -= 1;
  }
  return false;
}

function clean(value: unknown): unknown {
  if (typeof value === "string") return cleanText(value);
  if (Array.isArray(value)) return value.map(clean);
  if (value !== null && typeof value === "object")
    return Object.fromEntries(Object.entries(value).map(([name, inner]) => [cleanText(name), clean(inner)]));
  return value;
}

/** The body as text, or null when it is longer than `most` bytes once unpacked. */
export async function readBounded(request: Request | Response, most: number): Promise<string | null> {
  const length = request.headers.get("content-length");
  if (length !== null && Number(length) > most) return discard(request);
  // The server holds a body to the length it names; one that is packed, or names none, has to be watched as it comes.
  if (length !== null && request instanceof Request && request.headers.get("content-encoding") === null)
    return request.text();
  const bytes = await readBytes(request, most);
  return bytes && Buffer.from(bytes).toString("utf8");
}

/** Gives a body up unread, so that nobody goes on sending it. */
export async function discard(message: Request | Response): Promise<null> {
  await message.body?.cancel().catch(() => {});
  return null;
}

/** The body as bytes, or null when it is longer than `most`. */
export async function readBytes(request: Request | Response, most: number): Promise<Uint8Array | null> {
  if (Number(request.headers.get("content-length") ?? 0) > most) return discard(request);
  if (!request.body) return new Uint8Array();
  const chunks: Uint8Array[] = [];
  let size = 0;
  for await (const chunk of request.body as unknown as AsyncIterable<Uint8Array>) {
    size += chunk.byteLength;
    // Leaving the loop ends the stream.
    if (size > most) return null;
    chunks.push(chunk);
  }
  return Buffer.concat(chunks);
}

/**
 * The answer to a request that another site made a browser send: for what changes or gives away something by the
 * session's cookie alone. Null for the application's own pages, and for programs that are no browser.
 */
export function refuseForeign(request: Request): Response | null {
  const origin = request.headers.get("origin");
  const site = request.headers.get("sec-fetch-site");
  const isForeign =
    (origin !== null && origin !== new URL(environment().APP_URL).origin) ||
    (site !== null && site !== "same-origin" && site !== "none");
  return isForeign ? problem(403, "This can only be done from Estima's own pages.") : null;
}

/** An error as problem details (RFC 9457). */
export function problem(status: number, detail: string): Response {
  return Response.json({ status, detail }, { status, headers: { "content-type": "application/problem+json" } });
}

/** As many files that cannot be read as one owner may send in a minute: reading them takes everyone's time. */
const UNREADABLE = { most: 8, seconds: 60 };

/** Counts a file of an owner that could not be read. */
export const noteUnreadable = (owner: string): Promise<boolean> =>
  isWelcome(`unreadable ${owner}`, UNREADABLE.most, UNREADABLE.seconds);

/** The answer to an owner who sent too many files that could not be read; null while they may go on. */
export async function refuseUnreadable(request: Request, owner: string): Promise<Response | null> {
  if (await isStillWelcome(`unreadable ${owner}`, UNREADABLE.most, UNREADABLE.seconds)) return null;
  await discard(request);
  return problem(429, "We couldn’t read several of your files in a row. Wait a minute, then try again.");
}

/**
 * The fields of a form with a file, as a browser sends it (multipart/form-data), or the answer to refuse it with. `most`
 * is how many bytes the file may have.
 */
export async function readUpload(request: Request, most: number, tooLarge: string): Promise<FormData | Response> {
  const bytes = await readBytes(request, most + 200_000);
  if (bytes === null) return problem(413, tooLarge);
  try {
    return await new Response(Buffer.from(bytes), {
      headers: { "content-type": request.headers.get("content-type") ?? "" },
    }).formData();
  } catch {
    return problem(400, "The upload didn't finish. Try again.");
  }
}
