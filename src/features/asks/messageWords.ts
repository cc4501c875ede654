import type { MessageState } from "@/schema/messages";

/** What a message's state means, in one word for people. */
export const STATE_WORDS: Record<MessageState, string> = {
  planned: "planned",
  held: "on hold",
  sending: "being sent",
  sent: "sent",
  delivered: "delivered",
  bounced: "bounced",
  failed: "failed",
  stopped: "no longer needed",
  received: "received",
};

/** How a step is spoken of: by its name in the plan, else "first ask", "second ask". */
export function sayStep(step: number | null, name: string | null = null): string {
  if (step !== null && name) return `“${name}”`;
  return step === null
    ? "personal answer"
    : (["first ask", "second ask", "third ask", "fourth ask", "fifth ask", "sixth ask"][step] ?? "ask");
}
