import { z } from "zod";
import { sayAverage } from "@/core/reviews/rating";
import { environment } from "@/platform/environment";
import { discard } from "@/platform/hooks";
import { answerOf, askSite, callSite, MOST_WORDS, shortText } from "../call";
import type { Connector } from "../connector";

/**
 * Tenfold: points from 1 to 10 in tenths, and no replies. Open to everybody, by pages of 50 with an ETag that stands for
 * all of them: as long as it is the same nothing changed, and once it is another everything is read again. It tells how
 * many calls are left. Its interface is documented in docs/town.md.
 */

const page = z.object({
  reviews: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        name: shortText(200),
        points: z.number().min(1).max(10),
        comment: shortText(MOST_WORDS),
        /** Seconds since the epoch. */
        date: z.int().min(0).max(100_000_000_000),
        updated: z.int().min(0).max(100_000_000_000),
      }),
    )
    .max(500),
  pages: z.int().min(0),
  total: z.int().min(0),
});
const found = z.object({
  results: z
    .array(
      z.object({
        place: z.string().min(1).max(100),
        name: z.string().max(200),
        address: z.string().max(300),
        points: z.number().nullable(),
        reviews: z.int().min(0),
        page: z.url(),
      }),
    )
    .max(100),
});

const NAME = "Tenfold";
const base = () => environment().TENFOLD_URL ?? "";

/** How far a reading of all is, and of which state of the site: "3 <ETag>". With page 0 nothing is under way. */
function readCursor(cursor: string): { next: number; etag: string } {
  const [, next = "0", etag = ""] = /^(\d{1,6}) (.+)$/s.exec(cursor) ?? [];
  return { next: Number(next), etag };
}

/** Seconds to rest where hardly a call is left. */
function restOf(response: Response): number | null {
  const left = Number(response.headers.get("x-ratelimit-remaining") ?? Number.NaN);
  const reset = Number(response.headers.get("x-ratelimit-reset") ?? Number.NaN);
  return left <= 1 && reset > 0 ? Math.min(reset, 3600) : null;
}

export const tenfold: Connector = {
  id: "tenfold",
  name: NAME,
  scale: "ten",
  access: "open",
  reply: null,
  isReachable: () => base() !== "",
  placeUrl: (placeId) => `${base()}/api/places/${encodeURIComponent(placeId)}`,
  search: async (name, town) => {
    const { results } = await askSite(NAME, `${base()}/api/search?${new URLSearchParams({ q: name, town })}`, found);
    return results.map(({ place, name, address, points, reviews, page }) => ({
      id: place,
      name,
      address,
      url: page,
      rating: points === null ? null : sayAverage(points, 1, "ten"),
      count: reviews,
    }));
  },
  read: async ({ url }, cursor) => {
    const { next, etag: before } = readCursor(cursor);
    const asked = next === 0 ? 1 : next;
    const response = await callSite(NAME, `${url}/reviews?page=${asked}`, {
      headers: next === 0 && before ? { "if-none-match": before } : {},
      takes: [304],
    });
    const restSeconds = restOf(response);
    if (response.status === 304) {
      await discard(response);
      return { reviews: [], cursor, more: false, total: null, holds: "changes", restSeconds };
    }
    const etag = response.headers.get("etag") ?? "";
    const read = await answerOf(response, page);
    // Something changed while its pages were read: page by page, some would be missed. It begins anew.
    if (next > 0 && etag !== before)
      return { reviews: [], cursor: "", more: true, total: null, holds: "all, from the start", restSeconds };
    const more = asked < read.pages;
    return {
      reviews: read.reviews.map((it) => ({
        id: it.id,
        author: it.name,
        value: it.points,
        words: it.comment,
        writtenAt: it.date * 1000,
        changedAt: it.updated * 1000,
        isDeleted: false,
        isReported: false,
      })),
      cursor: `${more ? asked + 1 : 0} ${etag}`,
      more,
      total: read.total,
      holds: asked === 1 ? "all, from the start" : "all, going on",
      restSeconds,
    };
  },
};
