import { z } from "zod";
import { type Scale, UNHAPPY_UP_TO } from "../reviews/rating";
import { nextPermitted, type SendCalendar } from "../time/sendHours";
import { DAY, dayNumber, HOUR, nextDay, toLocal } from "../time/zone";
import { LANGUAGES, type Language } from "../words/languages";
import type { Gravity } from "./gravity";

/** Rules for replying: which reviews they are for, what is done, and when. The first that fits decides. */

/** What a rule does, from the least to the most that happens by itself. */
export const REPLY_DEEDS = ["nothing", "suggest", "approve", "post"] as const;
export type ReplyDeed = (typeof REPLY_DEEDS)[number];

const WORDS = ["either", "with", "without"] as const;

export const REPLY_RULE = z.object({
  /** Names of sites; none for every site. */
  sites: z.array(z.string().max(60)).max(20).default([]),
  /** Which of 1 to 5, where the site counts. */
  ratings: z.array(z.int().min(1).max(5)).max(5).default([4, 5]),
  /** Where it only knows recommended (true) or not (false). */
  recommends: z.array(z.boolean()).max(2).default([true]),
  words: z.enum(WORDS).default("either"),
  /** None for every branch. */
  branchIds: z.array(z.uuid()).max(200).default([]),
  /** None for any language. */
  languages: z.array(z.enum(LANGUAGES)).max(LANGUAGES.length).default([]),
  deed: z.enum(REPLY_DEEDS).default("suggest"),
  /** Saved replies that are used in turn; none for drafts from the review's own words. */
  savedReplyIds: z.array(z.uuid()).max(50).default([]),
  /** Hours from when the review was read until it is posted. */
  afterHours: z.number().min(0).max(168).default(3),
  hours: z.enum(["office", "any"]).default("office"),
  /** How many it posts on one day of the client at most. */
  mostPerDay: z.int().min(1).max(200).default(10),
  /** Who agreed that it answers the unhappy by itself; null where nobody did. */
  agreedBy: z.string().max(120).nullable().default(null),
});
export type ReplyRule = z.infer<typeof REPLY_RULE>;

export type KeptRule = ReplyRule & { id: string };

/** What a rule goes by. `value` is the site's own. */
export type ReviewFacts = {
  site: string;
  scale: Scale;
  value: number;
  /** On 1 to 5. */
  rating: number;
  hasWords: boolean;
  branchId: string;
  language: Language;
  /** Whether its words tell that language; true where there are none. */
  isLanguageSure: boolean;
  /** What it speaks of that a person has to answer; null for nothing of the kind. */
  gravity: Gravity | null;
};

export function fits(rule: ReplyRule, it: ReviewFacts): boolean {
  if (rule.sites.length > 0 && !rule.sites.some((site) => site.toLowerCase() === it.site.toLowerCase())) return false;
  if (it.scale === "recommend" ? !rule.recommends.includes(it.value > 0) : !rule.ratings.includes(it.rating))
    return false;
  if (rule.words === "with" && !it.hasWords) return false;
  if (rule.words === "without" && it.hasWords) return false;
  if (rule.branchIds.length > 0 && !rule.branchIds.includes(it.branchId)) return false;
  return rule.languages.length === 0 || rule.languages.includes(it.language);
}

/**
 * What is done about a review, and which rule says so. Nobody unhappy is answered automatically unless that was agreed
 * to, nobody whose language is not told by what they wrote, and nobody who speaks of a loss, an illness, danger or something they accuse the business of.
 */
export type Decision = {
  rule: KeptRule;
  deed: ReplyDeed;
  /** It would post, but must not. */
  heldBack: boolean;
  /** It is held back since nobody can be sure in which language to answer. */
  isUnsure: boolean;
};

/** The first rule that fits, in their order; null where none does. */
export function decideReply(rules: readonly KeptRule[], it: ReviewFacts): Decision | null {
  const rule = rules.find((each) => fits(each, it));
  if (!rule) return null;
  // Nor does anything a rule wrote wait for a quick approval: a person begins there.
  if (it.gravity && rule.deed !== "nothing")
    return { rule, deed: "suggest", heldBack: rule.deed === "post", isUnsure: false };
  const isUnhappy = it.rating <= UNHAPPY_UP_TO && rule.agreedBy === null;
  const heldBack = rule.deed === "post" && (isUnhappy || !it.isLanguageSure);
  return { rule, deed: heldBack ? "approve" : rule.deed, heldBack, isUnsure: heldBack && !isUnhappy };
}

/**
 * When a reply is posted by itself: so many hours after `from`, in the branch's hours where the rule keeps them, on the
 * first day that has room. `posted` are the instants of this rule's replies, planned ones too. Null where nothing opens
 * within sixty days, or every day until then is full.
 */
export function postAt(
  rule: ReplyRule,
  from: number,
  calendar: SendCalendar,
  posted: readonly number[],
): number | null {
  const { zone } = calendar;
  const dayOf = (at: number) => dayNumber(toLocal(zone, at));
  const perDay = new Map<number, number>();
  for (const at of posted) perDay.set(dayOf(at), (perDay.get(dayOf(at)) ?? 0) + 1);
  let at = from + rule.afterHours * HOUR;
  const last = at + 60 * DAY;
  while (at <= last) {
    if (rule.hours === "office") {
      const open = nextPermitted(at, "email", calendar);
      if (!open) return null;
      at = open.at;
    }
    if ((perDay.get(dayOf(at)) ?? 0) < rule.mostPerDay) return at;
    at = nextDay(zone, at);
  }
  return null;
}

/** Saved replies are used in turn: the one used least, of equals the first. */
export function nextInTurn<T extends { id: string; uses: number }>(list: readonly T[], ids: readonly string[]): T[] {
  return ids
    .flatMap((id) => list.find((each) => each.id === id) ?? [])
    .map((each, index) => ({ each, index }))
    .sort((a, b) => a.each.uses - b.each.uses || a.index - b.index)
    .map(({ each }) => each);
}

/** Why a reply stands as it does. */
export const REPLY_WHY = z.object({
  /** The rule as it read then, in words. */
  rule: z.string(),
  heldBack: z.boolean().default(false),
  isUnsure: z.boolean().default(false),
  /** What the guards would not let pass: then nothing was written. */
  refused: z.array(z.object({ guard: z.string(), words: z.string() })).default([]),
});
export type ReplyWhy = z.infer<typeof REPLY_WHY>;
