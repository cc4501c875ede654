import { z } from "zod";
import { readSiteStatus, type SiteProblem } from "@/core/reviews/siteProblems";
import { discard, readBounded } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { callOutside, RefusedAddress } from "@/platform/outbound";

/** Calls to review sites: what went wrong is told in one way. */

/** Thrown when a site refuses or cannot be understood; `waitSeconds` is how long it asks to be left alone. */
export class SiteUnreachable extends Error {
  constructor(
    readonly problem: SiteProblem,
    readonly waitSeconds: number | null = null,
  ) {
    super(problem.code);
  }
}

/** The longest answer that is read, in bytes. */
const MOST_ANSWER = 32_000_000;
/** Longer words of a review are cut, in characters: one review must not keep all others from being read. */
export const MOST_WORDS = 100_000;

/** A text that is cut where it is longer. */
export const shortText = (most: number) => z.string().transform((text) => text.slice(0, most));
/** The longest time that a site may ask to be left alone: a day. */
const LONGEST_WAIT = 86_400;

/** "120", or a date (RFC 9110). */
function retryAfter(response: Response): number | null {
  const value = response.headers.get("retry-after");
  if (!value) return null;
  const seconds = /^\d+$/.test(value) ? Number(value) : (Date.parse(value) - Date.now()) / 1000;
  return Number.isFinite(seconds) ? Math.min(LONGEST_WAIT, Math.max(0, Math.ceil(seconds))) : null;
}

export type SiteCall = {
  method?: string;
  secret?: string | null;
  /** Sent as JSON. */
  json?: unknown;
  /** Sent as a form. */
  form?: Record<string, string>;
  headers?: Record<string, string>;
  /** Statuses beyond 200 to 299 that are answers as well. */
  takes?: readonly number[];
};

/** Calls a site; gives any answer that is taken. Throws `SiteUnreachable`. */
export async function callSite(site: string, address: string, it: SiteCall = {}): Promise<Response> {
  let response: Response;
  try {
    response = await callOutside(address, {
      method: it.method ?? "GET",
      headers: {
        accept: "application/json",
        ...(it.secret ? { authorization: `Bearer ${it.secret}` } : {}),
        ...(it.json === undefined ? {} : { "content-type": "application/json" }),
        ...(it.form ? { "content-type": "application/x-www-form-urlencoded" } : {}),
        ...it.headers,
      },
      body: it.json !== undefined ? JSON.stringify(it.json) : it.form ? new URLSearchParams(it.form).toString() : null,
    });
  } catch (error) {
    if (error instanceof RefusedAddress) throw new SiteUnreachable({ code: "private network" });
    log.warn({ site, ...describeError(error) }, "site not reached");
    throw new SiteUnreachable({ code: "not reached" });
  }
  if (response.ok || it.takes?.includes(response.status)) return response;
  const wait = retryAfter(response);
  if (response.status === 422) {
    const said = z.object({ error: z.string() }).safeParse(await jsonOf(response).catch(() => null));
    throw new SiteUnreachable({ code: "not taken", why: said.success ? said.data.error.slice(0, 200) : "" });
  }
  await discard(response);
  throw new SiteUnreachable(readSiteStatus(response.status), wait);
}

async function jsonOf(response: Response): Promise<unknown> {
  const text = await readBounded(response, MOST_ANSWER).catch(() => null);
  try {
    return JSON.parse(text ?? "");
  } catch {
    throw new SiteUnreachable({ code: "not readable" });
  }
}

/** The body of an answer, as it has to be. Throws `SiteUnreachable` for anything else. */
export async function answerOf<T extends z.ZodType>(response: Response, shape: T): Promise<z.output<T>> {
  const read = shape.safeParse(await jsonOf(response));
  if (!read.success) throw new SiteUnreachable({ code: "not readable" });
  return read.data;
}

/** Calls a site and reads its answer. */
export async function askSite<T extends z.ZodType>(
  site: string,
  address: string,
  shape: T,
  it: SiteCall = {},
): Promise<z.output<T>> {
  return answerOf(await callSite(site, address, it), shape);
}

/** Calls a site of which only that it took something matters. */
export async function tellSite(site: string, address: string, it: SiteCall): Promise<void> {
  await discard(await callSite(site, address, it));
}
