import type { Guard } from "@/core/replies/guards";

/** What is wrong with words that a guard found, after the words themselves. */
export const GUARD_WORDS: Record<Guard, string> = {
  "private fact": "mentions something private that isn’t in the review",
  money: "promises money or a gift",
  blame: "blames the reviewer",
  "asks to change it": "asks the reviewer to change the review",
  admission: "could be read as admitting liability",
  "contact data": "contains someone’s address or phone number",
  "repeats a reply": "is almost the same as another reply",
};
