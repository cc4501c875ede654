import { z } from "zod";
import { sayAverage } from "@/core/reviews/rating";
import { instantText } from "@/core/time/range";
import { environment } from "@/platform/environment";
import { askSite, MOST_WORDS, shortText, tellSite } from "../call";
import type { Connector } from "../connector";

/**
 * Waypost: stars from 1 to 5, one public reply to each review, and a signed hook when one is written. Its interface is
 * documented in docs/town.md; every call carries the place's own key.
 */

const review = z.object({
  id: z.string().min(1).max(100),
  author: shortText(200),
  stars: z.number().int().min(1).max(5),
  words: shortText(MOST_WORDS),
  writtenAt: instantText,
  changedAt: instantText,
  deleted: z.boolean(),
  reported: z.boolean().default(false),
  reply: z.object({ words: z.string(), at: instantText }).nullable(),
});
const page = z.object({ reviews: z.array(review).max(500), cursor: z.string().max(100), more: z.boolean() });
const found = z.object({
  places: z
    .array(
      z.object({
        id: z.string().min(1).max(100),
        name: z.string().max(200),
        address: z.string().max(300),
        stars: z.number().nullable(),
        reviews: z.int().min(0),
        url: z.url(),
      }),
    )
    .max(100),
});

const NAME = "Waypost";
const base = () => environment().WAYPOST_URL ?? "";
const replyAt = (url: string, reviewId: string) => `${url}/reviews/${encodeURIComponent(reviewId)}/reply`;

export const waypost: Connector = {
  id: "waypost",
  name: NAME,
  scale: "five",
  access: "key",
  keyPage: "/owner",
  reply: { longest: 4000 },
  isReachable: () => base() !== "",
  placeUrl: (placeId) => `${base()}/api/places/${encodeURIComponent(placeId)}`,
  search: async (name, town) => {
    const { places } = await askSite(NAME, `${base()}/api/search?${new URLSearchParams({ name, town })}`, found);
    return places.map(({ id, name, address, stars, reviews, url }) => ({
      id,
      name,
      address,
      url,
      rating: stars === null ? null : sayAverage(stars, 1, "five"),
      count: reviews,
    }));
  },
  read: async ({ url, secret }, cursor) => {
    const read = await askSite(NAME, `${url}/reviews?since=${encodeURIComponent(cursor)}`, page, { secret });
    return {
      reviews: read.reviews.map((it) => ({
        id: it.id,
        author: it.author,
        value: it.stars,
        words: it.words,
        writtenAt: Date.parse(it.writtenAt),
        changedAt: Date.parse(it.changedAt),
        isDeleted: it.deleted,
        isReported: it.reported,
        reply: it.reply && { words: it.reply.words, at: Date.parse(it.reply.at) },
      })),
      cursor: read.cursor,
      more: read.more && read.reviews.length > 0,
      total: null,
      holds: "changes",
      restSeconds: null,
    };
  },
  putReply: ({ url, secret }, reviewId, words) =>
    tellSite(NAME, replyAt(url, reviewId), { method: "PUT", secret, json: { words } }),
  takeDownReply: ({ url, secret }, reviewId) => tellSite(NAME, replyAt(url, reviewId), { method: "DELETE", secret }),
  listen: ({ url, secret }, hook) => tellSite(NAME, `${url}/hook`, { method: "PUT", secret, json: hook }),
};
