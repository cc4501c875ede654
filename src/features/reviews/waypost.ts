import { z } from "zod";
import { readSiteStatus, type SiteProblem } from "@/core/reviews/siteProblems";
import { instantText } from "@/core/time/range";
import { discard } from "@/platform/hooks";
import { describeError, log } from "@/platform/log";
import { callOutside, RefusedAddress } from "@/platform/outbound";

/**
 * The connector to Waypost: stars from 1 to 5, one public reply to each review. Its interface is documented in
 * docs/town.md; every call carries the listing's own key.
 */

const review = z.object({
  id: z.string().min(1).max(100),
  author: z.string().max(200),
  stars: z.number().int().min(1).max(5),
  words: z.string().max(20_000),
  writtenAt: instantText,
  changedAt: instantText,
  deleted: z.boolean(),
  reply: z.object({ words: z.string(), at: instantText }).nullable(),
});
const page = z.object({ reviews: z.array(review).max(500), cursor: z.string(), more: z.boolean() });

export type WaypostReview = z.infer<typeof review>;
export type WaypostAccess = { url: string; key: string };

/** Thrown when Waypost refuses or cannot be understood. */
export class SiteUnreachable extends Error {
  constructor(readonly problem: SiteProblem) {
    super(problem.code);
  }
}

async function call(access: WaypostAccess, path: string, init: RequestInit = {}): Promise<unknown> {
  let response: Response;
  try {
    response = await callOutside(`${access.url}${path}`, {
      ...init,
      headers: { authorization: `Bearer ${access.key}`, "content-type": "application/json" },
    });
  } catch (error) {
    if (error instanceof RefusedAddress) throw new SiteUnreachable({ code: "private network" });
    log.warn({ site: "Waypost", ...describeError(error) }, "site not reached");
    throw new SiteUnreachable({ code: "not reached" });
  }
  if (!response.ok) {
    await discard(response);
    throw new SiteUnreachable(readSiteStatus(response.status));
  }
  return response.json().catch(() => {
    throw new SiteUnreachable({ code: "not readable" });
  });
}

/** Reviews that are new or changed since `cursor` (empty for all), a page at a time. */
export async function readReviews(access: WaypostAccess, cursor: string): Promise<z.infer<typeof page>> {
  const parsed = page.safeParse(await call(access, `/reviews?since=${encodeURIComponent(cursor)}`));
  if (!parsed.success) throw new SiteUnreachable({ code: "not readable" });
  return parsed.data;
}

/** Puts the reply to a review; doing it again replaces it. */
export async function putReply(access: WaypostAccess, reviewId: string, words: string): Promise<void> {
  await call(access, `/reviews/${encodeURIComponent(reviewId)}/reply`, {
    method: "PUT",
    body: JSON.stringify({ words }),
  });
}
