import type { MoreQuestions } from "../plans/planRules";

/**
 * What a customer says on their page, and what an answer is after it. Instants are milliseconds.
 *
 * Nothing that was sent is lost: a page that was opened before something else was sent (on another phone, in another tab)
 * adds to it and takes nothing away. What a field showed when its page was opened is known by its fingerprint.
 */

/** A short sign of a text, without regard to the ends of its lines: equal texts have the same. */
export function fingerprint(text: string): string {
  let hash = 0x811c9dc5;
  for (const letter of text.replaceAll("\r\n", "\n").trim())
    hash = Math.imul(hash ^ (letter.codePointAt(0) ?? 0), 0x01000193) >>> 0;
  return hash.toString(36);
}

/** What was sent before with what is sent now: whichever contains the other, else one below the other. */
export function joined(before: string, text: string): string {
  // Someone who goes on writing replaces the full stop.
  if (text.includes(before.replace(/[\s.!?…]+$/u, ""))) return text;
  return before.includes(text) ? before : `${before}\n\n${text}`;
}

/** The fingerprints of what the fields of a page showed when it was opened. */
export type Shown = { words?: string; more?: readonly (string | undefined)[] };

/** What someone says in one request: nothing that is left out changes. */
export type Given = {
  rating?: number;
  words?: string;
  /** Whether their words may be shown on the business's own page. */
  mayShow?: boolean;
  /** One side of the visit, by its place among those that are asked about; null for "does not apply". */
  aspect?: { index: number; value: number | null };
  /** 0 to 10. */
  recommend?: number;
  /** Answers to the open questions, by their place. */
  more?: readonly (string | undefined)[];
  shown?: Shown;
};

/** What stood in the fields of a page when something else on it was tapped: kept as a draft, it answers nothing. */
export type Typed = { words?: string; more?: readonly (string | undefined)[]; shown?: Shown };

/** What of an answer changes by what its customer says. */
export type Said = {
  rating: number | null;
  /** Every rating given, the first one first. */
  ratings: readonly { rating: number; at: number }[];
  words: string | null;
  draftWords: string | null;
  aspects: Record<string, number | null>;
  recommend: number | null;
  more: Record<string, string>;
  draftMore: Record<string, string>;
  mayShowAt: number | null;
};

const NOTHING: Said = {
  rating: null,
  ratings: [],
  words: null,
  draftWords: null,
  aspects: {},
  recommend: null,
  more: {},
  draftMore: {},
  mayShowAt: null,
};

/** The parts of an answer that change, or are new; those of its reader too: what is new in writing is read anew. */
export type Change = Partial<Said> & { wordsAt?: number; isUnread?: true; readAt?: null; readBy?: null };

type Field = { question: string; text: string; shown: string | undefined };

/** The fields of the questions with what is written in them; none where nothing was said of one. */
function fieldsOf({ more, shown }: Pick<Typed, "more" | "shown">, { questions }: MoreQuestions): Field[] {
  return questions.flatMap((question, index) => {
    const text = more?.[index]?.trim();
    return text === undefined ? [] : [{ question, text, shown: shown?.more?.[index] }];
  });
}

/** What was sent to a question after what is in its field now is sent too. */
function sentTo(stored: string, draft: string | undefined, { text, shown }: Field): string {
  if (text === stored || shown === undefined || shown === fingerprint(stored)) return text;
  // Opened before what was sent elsewhere: a field that nobody touched takes nothing back.
  const isUntouched = shown === fingerprint(text) && (draft === undefined || shown !== fingerprint(draft));
  return text === "" || isUntouched ? stored : joined(stored, text);
}

/** The parts of an answer that what was said and typed changes. */
export function changeOf(before: Said | null, given: Given, typed: Typed, asked: MoreQuestions, now: number): Change {
  const is = before ?? NOTHING;
  const change: Change = {};
  let isNewInWriting = false;
  if (given.rating !== undefined) {
    change.rating = given.rating;
    if (is.ratings.at(-1)?.rating !== given.rating) change.ratings = [...is.ratings, { rating: given.rating, at: now }];
  }
  if (given.words !== undefined) {
    const stored = is.words ?? "";
    const words = given.shown?.words === fingerprint(stored) ? given.words : joined(stored, given.words);
    change.words = words;
    change.draftWords = null;
    if (words !== stored) {
      change.isUnread = true;
      isNewInWriting = true;
    }
  } else if (typed.words !== undefined && typed.shown?.words !== fingerprint(typed.words)) {
    const text = typed.words.trim();
    change.draftWords = text === "" || text === is.words ? null : typed.words;
  }
  if (given.mayShow !== undefined) change.mayShowAt = given.mayShow ? (is.mayShowAt ?? now) : null;
  const aspect = given.aspect && asked.aspects[given.aspect.index];
  if (aspect && given.aspect) change.aspects = { ...is.aspects, [aspect]: given.aspect.value };
  if (given.recommend !== undefined) change.recommend = given.recommend;
  const sent = fieldsOf(given, asked);
  const drafted = given.more === undefined ? fieldsOf(typed, asked) : [];
  if (sent.length > 0) {
    const more = { ...is.more };
    const draftMore = { ...is.draftMore };
    for (const field of sent) {
      const { question } = field;
      const stored = more[question] ?? "";
      const text = sentTo(stored, draftMore[question], field);
      delete draftMore[question];
      if (text !== stored) isNewInWriting ||= text !== "";
      if (text) more[question] = text;
      else delete more[question];
    }
    Object.assign(change, { more, draftMore });
  }
  if (drafted.length > 0) {
    const draftMore = { ...is.draftMore };
    for (const { question, text, shown } of drafted)
      if (shown === fingerprint(text)) continue;
      else if (text === (is.more[question] ?? "")) delete draftMore[question];
      else draftMore[question] = text;
    change.draftMore = draftMore;
  }
  return isNewInWriting ? { ...change, wordsAt: now, readAt: null, readBy: null } : change;
}
