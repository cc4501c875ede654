import { environment } from "./environment";

export { type Composed, composeAsk, type WordingFacts } from "@/core/words/compose";

/** The customer's link for one message of an ask. */
export function answerLink(token: string, step: number): string {
  return `${environment().APP_URL}/a/${token}.${step}`;
}

/** The address that ends all messages to this person, by page or by one click (RFC 8058). */
export function optOutLink(token: string): string {
  return `${environment().APP_URL}/u/${token}`;
}
