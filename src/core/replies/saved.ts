import { greetedAs } from "./draft";

/** Words for replies that somebody has kept, with places to fill: {first name|there}, {business}, {branch}, {signature}. */

export const REPLY_PLACES = ["first name", "business", "branch", "signature"] as const;
export type ReplyPlace = (typeof REPLY_PLACES)[number];

/** Names in braces that are none of the places. */
export function unknownPlaces(words: string): string[] {
  return [...words.matchAll(/\{([^{}|]*)(?:\|[^{}]*)?\}/g)].flatMap(([, name]) =>
    (REPLY_PLACES as readonly string[]).includes(name.trim().toLowerCase()) ? [] : [name.trim()],
  );
}

export type FilledFrom = { author: string; business: string; branch: string; signature: string };

/** Fills the places; what is not known is its fallback ("{first name|there}"), or falls away. */
export function fillReply(words: string, it: FilledFrom): string {
  const known: Record<ReplyPlace, string> = {
    "first name": greetedAs(it.author) ?? "",
    business: it.business,
    branch: it.branch,
    signature: it.signature,
  };
  return words
    .replace(/\{([^{}|]*)(?:\|([^{}]*))?\}/g, (whole, name: string, fallback = "") => {
      const place = name.trim().toLowerCase();
      return place in known ? known[place as ReplyPlace] || fallback.trim() : whole;
    })
    .replace(/[ \t]+([,.;:!?])/g, "$1")
    .replace(/[ \t]{2,}/g, " ")
    .trim();
}
