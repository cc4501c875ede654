import { LANGUAGE_NAMES } from "@/core/words/languages";
import { kindOf, type MessageName, type PAGE_PLACES, readKey } from "@/core/words/pieces";

/** What the texts of the starter words are called. */

export const MESSAGE_NAMES: Record<MessageName, string> = {
  "first.appointment": "the first ask after an appointment",
  "first.job": "the first ask after a job",
  "first.order": "the first ask after an order",
  "first.stay": "the first ask after a stay",
  "first.lessons": "the ask between lessons",
  "first.invoice": "the first ask after an invoice",
  second: "the second ask",
  reawaken: "the ask to past customers",
  "put-right": "the ask after a concern is put right",
  feeling: "the question about how it went",
  review: "the ask for a review",
  "review.second": "the last ask for a review",
};

export const FIELD_NAMES = { text: "As a text", subject: "Subject", email: "As an email" } as const;

export const PAGE_NAMES: Record<(typeof PAGE_PLACES)[number], string> = {
  "question.appointment": "The question after an appointment",
  "question.job": "The question after a job",
  "question.order": "The question after an order",
  "question.stay": "The question after a stay",
  "question.lessons": "The question between lessons",
  "question.member": "The question about a team member",
  "two.appointment": "With two answers, after an appointment",
  "two.job": "With two answers, after a job",
  "two.order": "With two answers, after an order",
  "two.stay": "With two answers, after a stay",
  "two.lessons": "With two answers, between lessons",
  "two.member": "With two answers, about a team member",
  below: "Below the question",
  happy: "Heading for a happy answer",
  "happy.invite": "Before the review sites",
  "happy.prompt": "Above the private comment, happy customers",
  unhappy: "Heading for an unhappy answer",
  "unhappy.prompt": "Above the private comment, unhappy customers",
  "thanks.happy": "Thanks for a happy comment",
  "thanks.unhappy": "Thanks for an unhappy comment",
  "thanks.site": "Thanks after visiting a review site",
  "thanks.later": "Thanks when the review is asked for later",
  "thanks.would": "Thanks to people who’d recommend you",
  "thanks.undecided": "Thanks to people who might recommend you",
  "thanks.wouldnot": "Thanks to people who wouldn’t recommend you",
  picture: "On the picture with their name",
};

/** "“Thanks after visiting a review site”, English": a piece by its key; the key itself where it names none. */
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
