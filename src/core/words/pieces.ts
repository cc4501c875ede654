import { isLanguage, type Language } from "./languages";

/**
 * A piece is one text of one place in one language. Places of the starter words (and so of an agency's) are named by
 * what they are for: "first.job/text", "page/happy". Those of a plan's messages are named by the step:
 * "step.second/email"; its pages' as the starters'. A piece of a plan may be for one service only.
 */

/** What a visit is called, and so how it is asked about. */
export const OCCASIONS = ["appointment", "job", "order", "stay", "lessons"] as const;
export type Occasion = (typeof OCCASIONS)[number];

export const MESSAGES = [
  "first.appointment",
  "first.job",
  "first.order",
  "first.stay",
  "first.lessons",
  "first.invoice",
  "second",
  "reawaken",
  "put-right",
  "feeling",
  "review",
  "review.second",
] as const;
export type MessageName = (typeof MESSAGES)[number];
export const isMessageName = (name: string): name is MessageName => (MESSAGES as readonly string[]).includes(name);

export const FIELDS = ["text", "subject", "email"] as const;
export type Field = (typeof FIELDS)[number];

export const PAGE_PLACES = [
  "question.appointment",
  "question.job",
  "question.order",
  "question.stay",
  "question.lessons",
  "question.member",
  "two.appointment",
  "two.job",
  "two.order",
  "two.stay",
  "two.lessons",
  "two.member",
  "below",
  "happy",
  "happy.invite",
  "happy.prompt",
  "unhappy",
  "unhappy.prompt",
  "thanks.happy",
  "thanks.unhappy",
  "thanks.site",
  "thanks.later",
  "thanks.would",
  "thanks.undecided",
  "thanks.wouldnot",
  "picture",
] as const;
export type PagePlace = (typeof PAGE_PLACES)[number];

export type MessageWords = Record<Field, string>;
export type StarterWords = {
  messages: Record<MessageName, MessageWords>;
  page: Record<PagePlace, string>;
};

/** How many characters a piece may have. */
export const LONGEST: Record<Field | "page", number> = { text: 600, subject: 150, email: 4000, page: 240 };

/** "es:first.job/text", and "es:step.second/email@<service>" within a plan. */
export function pieceKey(language: Language, place: string, serviceId: string | null = null): string {
  return `${language}:${place}${serviceId ? `@${serviceId}` : ""}`;
}

export type PieceName = { language: Language; place: string; serviceId: string | null };

/** What a key names; null for what is none. */
export function readKey(key: string): PieceName | null {
  const read = /^([a-z]{2}):([a-z][a-z0-9 .-]*\/[a-z0-9. ]+)(?:@([0-9a-f-]{36}))?$/.exec(key);
  return read && isLanguage(read[1]) ? { language: read[1], place: read[2], serviceId: read[3] ?? null } : null;
}

/** Of which kind the words of a place are. */
export function kindOf(place: string): Field | "page" {
  const end = place.slice(place.lastIndexOf("/") + 1);
  return place.startsWith("page/") ? "page" : (FIELDS as readonly string[]).includes(end) ? (end as Field) : "page";
}

/** Every place of the starter words, in reading order. */
export const STARTER_PLACES: readonly string[] = [
  ...MESSAGES.flatMap((name) => FIELDS.map((field) => `${name}/${field}`)),
  ...PAGE_PLACES.map((place) => `page/${place}`),
];
