import type { Polarity, Theme } from "../../themes/themes";

/** What a reply answers with in one language. */

export const TONES = ["plain", "warm", "formal"] as const;
export type Tone = (typeof TONES)[number];

/** How somebody was on the whole. */
export const MOODS = ["happy", "mixed", "unhappy"] as const;
export type Mood = (typeof MOODS)[number];

/** Sentences of one language. `{name}` is how the writer is greeted, `{business}` who answers. */
export type Bank = {
  greeting: Record<Tone, { named: string; nameless: string }>;
  opening: Record<Mood, Record<Tone, readonly string[]>>;
  closing: Record<Mood, Record<Tone, readonly string[]>>;
  /** Words by which a sentence apologises: a reply says so once or twice, not in each sentence. */
  apologises: RegExp;
  /** For a loss, an illness or danger: the whole reply, of one or two sentences, without joy and without promises. */
  sober: Record<"happy" | "unhappy", readonly string[]>;
  /** For a rating without words. */
  wordless: Record<Mood, readonly string[]>;
  /** What is said of each thing that was named; null where a language answers the review as a whole. */
  themes: Record<Theme, Record<Polarity, readonly string[]>> | null;
};
