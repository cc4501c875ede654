import { z } from "zod";
import { webAddress } from "../web/address";
import { typedText } from "./typed";

/** How what customers get looks, beside colour and logo. */

/** The typefaces that ship with Estima, by the name that pages ask for. */
export const TYPEFACES = ["hanken", "bricolage", "newsreader", "system"] as const;
export type Typeface = (typeof TYPEFACES)[number];
export const TYPEFACE_NAMES: Record<Typeface, string> = {
  hanken: "Hanken Grotesk, plain and friendly",
  bricolage: "Bricolage Grotesque, with character",
  newsreader: "Newsreader, a serif",
  system: "what the phone itself uses, the lightest",
};

const address = z
  .string()
  .trim()
  .max(300, "That address is too long.")
  .refine((typed) => webAddress(typed) !== null, "Write an address that begins with https://.");

export const lookSchema = z.object({
  typeface: z.enum(TYPEFACES),
  /** Where replies to emails go beside the place where they are kept; blank for nowhere. */
  replyTo: z.union([z.literal(""), z.email("That is no email address.").max(254)]),
  /** Under emails, above the postal line. */
  signature: z.string().trim().max(300, "Keep the signature under 300 characters."),
  /** Places where the business writes itself: each a name and an address. */
  links: z.array(z.object({ name: typedText(30, "Name the link.", "the name"), url: address })).max(5, "Five at most."),
});
export type Look = z.infer<typeof lookSchema>;
export const PLAIN_LOOK: Look = { typeface: "hanken", replyTo: "", signature: "", links: [] };
