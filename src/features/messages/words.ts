import type { MessageState } from "./tables";

/** What a message's state means, in one word for people. */
export const STATE_WORDS: Record<MessageState, string> = {
  planned: "planned",
  held: "held",
  sending: "being sent",
  sent: "sent",
  delivered: "delivered",
  bounced: "bounced",
  failed: "failed",
  stopped: "not needed",
  received: "came in",
};

/** "First ask", "second ask": how a step is spoken of. */
export function sayStep(step: number | null): string {
  return step === null ? "personal answer" : (["first ask", "second ask", "third ask", "fourth ask", "fifth ask", "sixth ask"][step] ?? "ask");
}
