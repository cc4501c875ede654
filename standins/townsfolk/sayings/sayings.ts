/** The themes of which people in Merrow Bay speak, and what they say of each, happy or unhappy: its truth is known. */
export type SayingTheme =
  | "waiting"
  | "price"
  | "explanation"
  | "kindness"
  | "result"
  | "booking"
  | "cleanliness"
  | "access"
  | "follow-up"
  | "damage"
  | "thoroughness"
  | "honesty";

export type Sayings = Record<SayingTheme, { happy: readonly string[]; unhappy: readonly string[] }>;
