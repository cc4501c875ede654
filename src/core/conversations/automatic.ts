import { z } from "zod";
import { HOUR } from "../time/zone";
import { LANGUAGES } from "../words/languages";

/** What is said by itself in a conversation. */

/** What people get who write while nobody is there: whether, and in which words; a language without any has the starters. */
export const AWAY_WORD = z.object({
  isOn: z.boolean(),
  words: z.partialRecord(z.enum(LANGUAGES), z.string().max(600)),
});
export type AwayWord = z.infer<typeof AWAY_WORD>;

/** Which automatic word: nobody is there; who writes, and how to reach them; no more texts; texts again; which client is meant. */
export const AUTOMATIC = ["away", "help", "stopped", "started"] as const;
export type Automatic = (typeof AUTOMATIC)[number];

/** Somebody who asks twice within so long is not answered by a machine twice: two machines would go on for ever. */
export const HELP_AGAIN_AFTER = HOUR;

/**
 * Whether the away word is said now: somebody writes while nobody is there, and has not had it since somebody last was.
 * `lastClosedAt` is when the hours last ended.
 */
export function saysAway(
  it: { isOpen: boolean; lastClosedAt: number | null; awayToldAt: number | null },
  awayWord: AwayWord | null,
): boolean {
  if (it.isOpen || awayWord?.isOn === false) return false;
  return it.awayToldAt === null || (it.lastClosedAt !== null && it.awayToldAt < it.lastClosedAt);
}

/** The places of an away word that a business writes itself. */
const AWAY_PLACES = ["business", "opens"] as const;

/** An away word with its places filled; what is in other braces stays. */
export function fillAway(words: string, values: Record<(typeof AWAY_PLACES)[number], string>): string {
  return words.replace(/\{\s*(business|opens)\s*\}/g, (_, place: keyof typeof values) => values[place]);
}
