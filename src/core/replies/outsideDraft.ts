import { z } from "zod";
import { LANGUAGES } from "../words/languages";
import { TONES } from "./sentences/bank";

/**
 * What an outside text service is asked for, and nothing else: the review itself, which is public, and how the reply is
 * to sound. No author, no customer, no visit. Documented in docs/text-service.md.
 */
const OUTSIDE_REQUEST = z.object({
  review: z.object({
    words: z.string(),
    /** On 1 to 5. */
    rating: z.int().min(1).max(5),
    language: z.enum(LANGUAGES),
  }),
  reply: z.object({
    tone: z.enum(TONES),
    /** Characters, at most. */
    longest: z.int().positive(),
    business: z.string(),
  }),
});
export type OutsideRequest = z.infer<typeof OUTSIDE_REQUEST>;

export const OUTSIDE_ANSWER = z.object({ text: z.string().trim().min(1).max(4000) });

/** Why there is no draft from outside. */
const OUTSIDE_PROBLEMS = ["not set up", "refused key", "busy", "not reached", "not readable"] as const;
export type OutsideProblem = (typeof OUTSIDE_PROBLEMS)[number];

/** The longest part of a review that is sent, in characters. */
const MOST_SENT = 4000;

/** What is sent for a review. Signs that no text service needs (addresses, numbers of phones) are taken out of its words. */
export function outsideRequest(
  review: { words: string; rating: number; language: OutsideRequest["review"]["language"] },
  reply: OutsideRequest["reply"],
): OutsideRequest {
  const words = review.words
    .slice(0, MOST_SENT)
    .replace(/[\w.+-]+@[\w-]+(?:\.[\w-]+)+/g, "[address]")
    .replace(/\bhttps?:\/\/\S+/g, "[link]")
    .replace(/\+?\d[\d\s()/-]{7,}\d/g, "[number]");
  return { review: { ...review, words }, reply };
}
