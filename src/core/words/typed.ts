import { z } from "zod";
import { normaliseEmail } from "../contacts/email";
import { cleanText } from "./clean";

/** What forms and files take as typed, the same wherever somebody types it. */

/**
 * A text of at most `most` characters without what cannot be seen; `missing` is said of an empty one, `what` names it
 * where it is too long.
 */
export const typedText = (most: number, missing: string, what = "it") =>
  z
    .string({ error: missing })
    .transform(cleanText)
    .pipe(z.string().trim().min(1, missing).max(most, `Keep ${what} under ${most} characters.`));

/** An email address, brought into the form in which it is kept. */
export const typedEmail = z
  .string()
  .max(254)
  .transform((text) => normaliseEmail(text) ?? "")
  .refine((email) => email !== "", "This is not an email address.");
