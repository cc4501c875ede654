import { shortPath } from "@/core/web/shortLinks";
import { environment } from "./environment";

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

/** The address that ends all messages to this person, by page or by one click (RFC 8058). */
export function optOutLink(token: string): string {
  return `${environment().APP_URL}/u/${token}`;
}
