import { z } from "zod";
import { normaliseEmail } from "../contacts/email";
import { cleanText } from "./clean";
import { nearestReadable } from "./contrast";

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
  .refine((email) => email !== "", "That isn’t an email address.");

/** A colour for words and buttons: one that is read well enough on white, where links in mails stand in it. */
export const typedColour = z
  .string()
  .regex(/^#[0-9a-fA-F]{6}$/, "Enter a colour such as #2F5D50.")
  .superRefine((colour, context) => {
    const nearest = nearestReadable(colour);
    if (nearest !== colour.toLowerCase())
      context.addIssue({
        code: "custom",
        message: `This colour is hard to read on white. The nearest one that works is ${nearest}.`,
      });
  });
