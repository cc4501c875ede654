import { render } from "@react-email/render";
import type { AnyLanguage } from "@/core/words/languages";
import { escapeHtml, type MailBody, type MailWords, mailBlocks, preheader } from "@/core/words/mailBody";
import { type CustomerKey, customerWords } from "@/locales/customer";
import { EmailFrame, MARKS } from "./EmailFrame";

/**
 * An email around its words, as HTML and as plain text. The frame of a client and language is rendered once and kept;
 * each mail fills in what is its own.
 */

export type MailFrame = MailBody & {
  business: string;
  postalAddress: string;
  /** Where they say that nobody should write to them again; null for a letter from a person. */
  optOut: string | null;
  picture: string | null;
  /** In place of the business's name above the words: an address, and its size in CSS pixels. */
  logo?: { url: string; width: number; height: number } | null;
  /** A wide picture above the words, and the face of who writes, below them. Sizes in CSS pixels. */
  header?: { url: string; width: number; height: number } | null;
  portrait?: { url: string; width: number; height: number } | null;
  language?: AnyLanguage;
  signature?: string;
  /** Places where the business writes itself. */
  links?: readonly { name: string; url: string }[];
  /** A picture above the words with the person's name in it; null for none. */
  named?: { url: string; alt: string } | null;
};

/** The product's own words of a mail, for a business. */
export function mailWords(language: AnyLanguage, business: string): MailWords {
  const say = customerWords(language);
  const of = (key: CustomerKey) => say(key, { business });
  return {
    because: of("mail.because"),
    noMore: of("mail.noMore"),
    numbered: of("mail.numbered"),
    yes: of("rating.yes"),
    no: of("rating.no"),
  };
}

/** What a mail to staff has: English, nothing to tap, nothing to opt out of. */
export const STAFF_FRAME = { asksRating: false, optOut: null, picture: null, words: mailWords("en", "") } as const;

const frames = new Map<string, Promise<string>>();
const MOST_FRAMES = 500;

function renderedFrame(frame: MailFrame): Promise<string> {
  const { business, colour, postalAddress, logo, header, portrait, language, signature, links, words } = frame;
  const [optOut, picture, named] = [frame.optOut !== null, frame.picture !== null, Boolean(frame.named)];
  const key = JSON.stringify([
    business,
    colour,
    postalAddress,
    logo,
    header,
    portrait,
    language,
    signature,
    links,
    words,
    optOut,
    picture,
    named,
  ]);
  let rendered = frames.get(key);
  if (!rendered) {
    if (frames.size >= MOST_FRAMES) frames.clear();
    // The HTML of today, not the XHTML of twenty years ago.
    rendered = render(<EmailFrame frame={frame} />).then((html) =>
      html.replace(/^<!DOCTYPE[^>]*>/i, "<!doctype html>"),
    );
    frames.set(key, rendered);
  }
  return rendered;
}

/** Both forms of an email around `body`. Following one of its taps answers nothing: it only preselects. */
export async function emailPage(body: string, frame: MailFrame): Promise<{ text: string; html: string }> {
  const { words, optOut, picture, named } = frame;
  const filled: Record<string, string> = {
    [MARKS.preheader]: escapeHtml(preheader(body, frame.link)),
    [MARKS.optOut]: escapeHtml(optOut ?? ""),
    [MARKS.picture]: escapeHtml(picture ?? ""),
    [MARKS.named]: escapeHtml(named?.url ?? ""),
    [MARKS.namedAlt]: escapeHtml(named?.alt ?? ""),
    [MARKS.body]: mailBlocks(body, frame),
  };
  const html = (await renderedFrame(frame)).replace(ANY_MARK, (mark) => filled[mark]);
  const footer = [frame.signature ?? "", optOut ? words.because : "", frame.postalAddress].filter(Boolean);
  const links = (frame.links ?? []).map(({ name, url }) => `${name}: ${url}`);
  const text = [
    ...(named ? [named.alt, ""] : []),
    body,
    "",
    "--",
    ...footer,
    ...links,
    optOut ? `${words.noMore}: ${optOut}` : "",
  ]
    .join("\n")
    .trimEnd();
  return { text, html };
}

const ANY_MARK = new RegExp(
  Object.values(MARKS)
    .map((mark) => mark.replace(/[.[\]/]/g, "\\$&"))
    .join("|"),
  "g",
);
