import { greetingName, splitName } from "../contacts/name";
import { stableHash } from "../stableHash";
import type { Found } from "../themes/reading";
import type { Theme } from "../themes/themes";
import type { Language } from "../words/languages";
import type { Gravity } from "./gravity";
import {
  alike,
  guardFor,
  nearestOf,
  type PrivateFacts,
  type Refusal,
  type Reviewed,
  refusalsOf,
  TOO_ALIKE,
} from "./guards";
import type { Bank, Mood, Tone } from "./sentences/bank";
import { ENGLISH } from "./sentences/english";
import { FRENCH } from "./sentences/french";
import { GERMAN } from "./sentences/german";
import { POLISH } from "./sentences/polish";
import { PORTUGUESE } from "./sentences/portuguese";
import { SPANISH } from "./sentences/spanish";

/**
 * A draft of a public reply from the reviewer's own words: what they named is thanked for or apologised for, piece by
 * piece. The same input gives the same draft; another `turn` gives another one.
 */

const BANKS: Record<Language, Bank> = {
  en: ENGLISH,
  es: SPANISH,
  fr: FRENCH,
  de: GERMAN,
  pt: PORTUGUESE,
  pl: POLISH,
};

export type DraftInput = {
  review: Reviewed & { language: Language; mood: Mood };
  /** What it speaks of that forbids a cheerful reply; null or absent for nothing of the kind. */
  gravity?: Gravity | null;
  /** What the review names, in its order. */
  named: readonly Found[];
  tone: Tone;
  /** What stands below it: "Maud, Bramble Lane Vets"; "" for nothing. */
  signature: string;
  /** The longest that the site takes, in characters. */
  most: number;
  facts: PrivateFacts;
  /** The business's own addresses and numbers, which may be given. */
  own?: readonly string[];
  /** The last replies at this listing. */
  recent: readonly string[];
  /** 0 for the first draft, 1 for another, and so on. */
  turn: number;
};

/** One sentence of a draft, and what of the review it answers. */
export type DraftSentence = { text: string; answers: Pick<Found, "theme" | "polarity" | "from" | "to"> | null };

export type Draft = {
  text: string;
  sentences: DraftSentence[];
  /** How alike it is to the most similar of the last replies, 0 to 1. */
  alike: number;
};

/** How many things a reply answers one by one: more would be a list. */
const MOST_NAMED = 4;
const TRIES = 24;

/** The first name that a site shows, where it is one: "Ferris O." gives "Ferris"; what is no name gives null. */
export function greetedAs(author: string): string | null {
  const shown = author.normalize("NFC").replace(/[\p{Cf}\p{Extended_Pictographic}]/gu, "");
  const { given, family } = splitName(shown);
  const name = greetingName(given, family);
  // A pen name in small letters is none to greet with.
  return name && /^\p{Lu}[\p{L}\p{M}'’-]{1,20}$/u.test(name) && /\p{Lu}/u.test(shown) ? name : null;
}

/** What is answered: each thing once, the unhappy first where somebody is unhappy, the last said left out. */
function answered(named: readonly Found[], mood: Mood): Found[] {
  const seen = new Set<Theme>();
  const once = named.filter(({ theme }) => !seen.has(theme) && seen.add(theme));
  const first = mood === "happy" ? "happy" : "unhappy";
  // Of an unhappy review the praise is thanked for last, and of a happy one a blemish is not passed over.
  return [
    ...once.filter(({ polarity }) => polarity === first),
    ...once.filter(({ polarity }) => polarity !== first),
  ].slice(0, MOST_NAMED);
}

/**
 * A draft that breaks no guard; null where none can be made (a limit shorter than any thanks), and to an allegation, which
 * a person answers in their own words.
 */
export function draftReply(it: DraftInput): Draft | null {
  if (it.gravity === "allegation") return null;
  const { review, facts, own, signature } = it;
  const guard = guardFor({ review, facts, own, signature });
  const known = new Map<string, boolean>();
  const isAllowed = (sentence: string) => {
    const before = known.get(sentence) ?? guard(sentence).length === 0;
    known.set(sentence, before);
    return before;
  };
  let best: Draft | null = null;
  for (let attempt = 0; attempt < TRIES; attempt++) {
    const draft = composed(it, attempt, isAllowed);
    // Sentences that are harmless alone may not be so together.
    if (!draft || draft.alike >= TOO_ALIKE || guard(draft.text).length > 0) continue;
    if (!best || draft.alike < best.alike) best = draft;
    if (draft.alike < TOO_ALIKE * 0.6) return draft;
  }
  return best;
}

/** The next draft that is really another one than `before`. */
export function anotherDraft(it: DraftInput, before: string): { draft: Draft; turn: number } | null {
  for (let turn = it.turn + 1; turn <= it.turn + 12; turn++) {
    const draft = draftReply({ ...it, turn });
    if (draft && alike(draft.text, before) < TOO_ALIKE) return { draft, turn };
  }
  return null;
}

/** What a reply to this review must not say. */
export const refusedOf = (text: string, { review, facts, own, recent, signature }: DraftInput): Refusal[] =>
  refusalsOf(text, { review, facts, own, recent, signature });

function composed(it: DraftInput, attempt: number, isAllowed: (sentence: string) => boolean): Draft | null {
  const { review, tone, signature, most, turn } = it;
  const bank = BANKS[review.language];
  const draw = (list: readonly string[], what: string): string | null => {
    const at = Math.floor(stableHash(review.author, review.text, what, String(turn), String(attempt)) * list.length);
    // From there on, the first that may be said.
    return [...list.slice(at), ...list.slice(0, at)].find(isAllowed) ?? null;
  };
  const name = greetedAs(review.author);
  const { named, nameless } = bank.greeting[tone];
  const greeting = name && isAllowed(name) ? named.replace("{name}", name) : nameless;
  if (it.gravity) {
    const quiet = name && isAllowed(name) ? bank.greeting.formal.named.replace("{name}", name) : "";
    return soberReply(it, quiet, draw);
  }
  const isWordless = review.text.trim() === "";
  const { themes, apologises } = bank;
  const isSorry = (sentence: string) => apologises.test(sentence);
  // An apology for the one thing, and none for the next where there is something else to say.
  let sorries = 0;
  const middle =
    isWordless || !themes
      ? []
      : answered(it.named, review.mood).flatMap(({ theme, polarity, from, to }): DraftSentence[] => {
          const all = themes[theme][polarity];
          const others = sorries > 0 ? all.filter((sentence) => !isSorry(sentence)) : all;
          const text = draw(others, theme) ?? draw(all, theme);
          if (!text) return [];
          if (isSorry(text)) sorries += 1;
          return [{ text, answers: { theme, polarity, from, to } }];
        });
  const openings = bank.opening[review.mood][tone];
  const fitting = review.mood === "unhappy" ? openings.filter((one) => isSorry(one) !== sorries > 0) : openings;
  const opening = isWordless
    ? draw(bank.wordless[review.mood], "wordless")
    : (draw(fitting, "opening") ?? draw(openings, "opening"));
  if (!opening) return null;
  const last = isWordless ? null : draw(bank.closing[review.mood][tone], "closing");
  const closing: DraftSentence[] = last ? [{ text: last, answers: null }] : [];
  const begin: DraftSentence = { text: capital(greeting, opening), answers: null };
  // What does not fit goes from the end of what was named, then the last sentence.
  for (let kept = middle.length; kept >= 0; kept--) {
    const sentences = [begin, ...middle.slice(0, kept), ...closing];
    const text = withSignature(sentences, signature);
    if (text.length <= most) return { text, sentences, alike: mostAlike(text, it) };
  }
  const { text } = begin;
  return text.length <= most ? { text, sentences: [begin], alike: mostAlike(text, it) } : null;
}

/** One or two quiet sentences, whatever the tone of other replies and whatever else was named. */
function soberReply(
  it: DraftInput,
  greeting: string,
  draw: (list: readonly string[], what: string) => string | null,
): Draft | null {
  const { sober } = BANKS[it.review.language];
  const said = draw(sober[it.review.mood === "happy" ? "happy" : "unhappy"], "sober");
  if (!said) return null;
  const sentences = [{ text: capital(greeting, said), answers: null }];
  const text = withSignature(sentences, it.signature);
  return text.length <= it.most ? { text, sentences, alike: mostAlike(text, it) } : null;
}

/** How alike a text is to the most similar of the last replies, its signature aside. */
const mostAlike = (text: string, { recent, signature }: DraftInput) =>
  nearestOf(signature && text.endsWith(signature) ? text.slice(0, -signature.length) : text, recent)?.alike ?? 0;

/** A greeting that ends with a comma goes on with a small letter, any other, and none, with a capital one. */
function capital(greeting: string, opening: string): string {
  const goesOn = /[,:]$/.test(greeting);
  return `${greeting}${greeting && " "}${goesOn ? opening : opening.replace(/^[¿¡]?\p{L}/u, (start) => start.toUpperCase())}`;
}

function withSignature(sentences: readonly DraftSentence[], signature: string): string {
  const body = sentences.map(({ text }) => text).join(" ");
  return signature ? `${body}\n\n${signature}` : body;
}
