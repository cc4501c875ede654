import { z } from "zod";

/** What speaks for two records being one person. */
export const LIKENESS_SIGNS = z.object({
  names: z.enum(["same", "close", "swapped"]),
  by: z.enum(["email", "phone", "phone slip", "email slip", "mailbox", "postal address"]),
});
export type LikenessSigns = z.infer<typeof LIKENESS_SIGNS>;

/** What speaks for people being of one household. */
export const HOUSEHOLD_SIGNS = ["phone", "mailbox", "postal address"] as const;
export type HouseholdSign = (typeof HOUSEHOLD_SIGNS)[number];
