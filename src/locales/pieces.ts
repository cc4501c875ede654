import { LANGUAGE_NAMES } from "@/core/words/languages";
import { kindOf, type MessageName, type PAGE_PLACES, readKey } from "@/core/words/pieces";

/** What the texts of the starter words are called. */

export const MESSAGE_NAMES: Record<MessageName, string> = {
  "first.appointment": "the first ask after an appointment",
  "first.job": "the first ask after a job",
  "first.order": "the first ask after an order",
  "first.stay": "the first ask after a stay",
  "first.lessons": "the ask among lessons",
  "first.invoice": "the first ask after an invoice",
  second: "the second ask",
  reawaken: "the ask after a long while",
  "put-right": "the ask once it was put right",
  feeling: "the question how it went",
  review: "the ask for a review",
  "review.second": "the last ask for a review",
};

export const FIELD_NAMES = { text: "As a text", subject: "Subject", email: "As an email" } as const;

export const PAGE_NAMES: Record<(typeof PAGE_PLACES)[number], string> = {
  "question.appointment": "The question after an appointment",
  "question.job": "The question after a job",
  "question.order": "The question after an order",
  "question.stay": "The question after a stay",
  "question.lessons": "The question among lessons",
  "question.member": "The question about a team member",
  "two.appointment": "With two answers, after an appointment",
  "two.job": "With two answers, after a job",
  "two.order": "With two answers, after an order",
  "two.stay": "With two answers, after a stay",
  "two.lessons": "With two answers, among lessons",
  "two.member": "With two answers, about a team member",
  below: "Below the question",
  happy: "Heading for a happy answer",
  "happy.invite": "Before the review sites",
  "happy.prompt": "Above private words of the happy",
  unhappy: "Heading for an unhappy answer",
  "unhappy.prompt": "Above private words of the unhappy",
  "thanks.happy": "Thanks for happy words",
  "thanks.unhappy": "Thanks for unhappy words",
  "thanks.site": "Thanks after a review site",
  "thanks.later": "Thanks when the review comes later",
  "thanks.would": "Thanks to those who would recommend you",
  "thanks.undecided": "Thanks to those who are undecided about it",
  "thanks.wouldnot": "Thanks to those who would not",
  picture: "In a picture with their name",
};

/** "“Thanks after a review site”, English": a piece by its key; the key itself where it names none. */
export function pieceWords(key: string): string {
  const name = readKey(key);
  if (!name) return key;
  const [place, part] = [name.place.slice(0, name.place.indexOf("/")), name.place.slice(name.place.indexOf("/") + 1)];
  const kind = kindOf(name.place);
  const said =
    kind === "page"
      ? (PAGE_NAMES as Record<string, string>)[part]
      : `${(MESSAGE_NAMES as Record<string, string>)[place] ?? place}, ${FIELD_NAMES[kind].toLowerCase()}`;
  return `“${said ?? part}”, ${LANGUAGE_NAMES[name.language]}`;
}
