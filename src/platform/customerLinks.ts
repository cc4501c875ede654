import { shortPath } from "@/core/web/shortLinks";
import { environment } from "./environment";
import { sameSecret, tagFor } from "./secrets";

export { type Composed, composeAsk, type WordingFacts } from "@/core/words/compose";

/** The customer's link for one message of an ask. */
export function answerLink(token: string, step: number): string {
  const { SHORT_URL, APP_URL } = environment();
  return SHORT_URL ? `${SHORT_URL}${shortPath(token, step)}` : `${APP_URL}/a/${token}.${step}`;
}

/** The address of a standing link. */
export function standingLink(token: string): string {
  const { SHORT_URL, APP_URL } = environment();
  return SHORT_URL ? `${SHORT_URL}${shortPath(token, null)}` : `${APP_URL}/s/${token}`;
}

/** The address of the picture that a message carries. Nobody makes one without our key. */
export function pictureAddress(token: string, step: number): string {
  return pictureOf(`${token}.${step}`);
}

/** Whatever `name` stands for: which message, or which part of a customer's way. */
export function pictureOf(name: string): string {
  return `${environment().APP_URL}/p/${name}.${tagFor("picture", name)}.jpg`;
}

/** The name in the address of a picture; null where it was not made by us. */
export function readPictureName(file: string): string | null {
  const read = /^([0-9A-Za-z_.-]{1,700})\.([0-9A-Za-z_-]{16})\.jpg$/.exec(file);
  return read && sameSecret(tagFor("picture", read[1]), read[2]) ? read[1] : null;
}

/** The address that ends all messages to this person, by page or by one click (RFC 8058). */
export function optOutLink(token: string): string {
  return `${environment().APP_URL}/u/${token}`;
}
