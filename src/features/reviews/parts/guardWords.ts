import type { Guard } from "@/core/replies/guards";

/** What is wrong with words that a guard found, after the words themselves. */
export const GUARD_WORDS: Record<Guard, string> = {
  "private fact": "says what the review does not, and others should not know",
  money: "promises money or a gift",
  blame: "blames whoever wrote",
  "asks to change it": "asks for another review",
  admission: "may be read as an admission of liability",
  "contact data": "holds somebody’s address or number",
  "repeats a reply": "is nearly the words of another reply",
};
