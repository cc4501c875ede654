import type { Language } from "@/core/words/languages";

/** What a poster shows, and the papers it is printed on. */

export const POSTER_FORMATS = ["a4", "a6", "cards"] as const;
export type PosterFormat = (typeof POSTER_FORMATS)[number];

export type Poster = {
  format: PosterFormat;
  language: Language;
  /** The address in the code, as a browser opens it. */
  link: string;
  business: string;
  /** #RRGGBB, readable on white. */
  colour: string;
  /** The logo as PNG, with its size in any unit; null for the first letter of the name. */
  logo: { png: Buffer; width: number; height: number } | null;
  title: string;
  says: string;
  /** How to come there without a camera. */
  typed: string;
};

/** Draws it as a PDF. What draws is loaded at the first one. */
export async function renderPoster(poster: Poster): Promise<Buffer> {
  return (await import("./poster")).renderPoster(poster);
}
