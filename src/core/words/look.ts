import { z } from "zod";
import { webAddress } from "../web/address";
import type { Logo } from "./logo";
import { typedText } from "./typed";

/** How what customers get looks, beside colour and logo. */

/** The typefaces that ship with Estima, by the name that pages ask for. */
export const TYPEFACES = ["hanken", "bricolage", "newsreader", "system"] as const;
export type Typeface = (typeof TYPEFACES)[number];
export const TYPEFACE_NAMES: Record<Typeface, string> = {
  hanken: "Hanken Grotesk, plain and friendly",
  bricolage: "Bricolage Grotesque, with character",
  newsreader: "Newsreader, a classic serif",
  system: "the phone’s own typeface",
};

const address = z
  .string()
  .trim()
  .max(300, "That address is too long.")
  .refine((typed) => webAddress(typed) !== null, "Enter an address that begins with https://.");

export const lookSchema = z.object({
  typeface: z.enum(TYPEFACES),
  /** Where replies to emails go beside the place where they are kept; blank for nowhere. */
  replyTo: z.union([z.literal(""), z.email("That isn’t an email address.").max(254)]),
  /** Whose name stands as the sender of emails; blank for the business's. */
  senderName: z.string().trim().max(60, "Keep the name under 60 characters.").default(""),
  /** Under emails, above the postal line. */
  signature: z.string().trim().max(300, "Keep the signature under 300 characters."),
  /** Places where the business writes itself: each a name and an address. */
  links: z
    .array(z.object({ name: typedText(30, "Give the link a name.", "the name"), url: address }))
    .max(5, "Up to five."),
});
export type Look = z.infer<typeof lookSchema>;
export const PLAIN_LOOK: Look = { typeface: "hanken", replyTo: "", senderName: "", signature: "", links: [] };

/** All that customers see of a business, or of one of its branches, beside words. */
export type ShownLook = Look & { colour: string; logo: Logo | null; header: Logo | null; portrait: Logo | null };

/** What a branch shows in place of what the business does. A part that is missing is the business's. */
export type BranchLook = {
  colour?: string;
  logo?: Logo;
  header?: Logo;
  portrait?: Logo;
  look?: Look;
};

type Looks = Omit<ShownLook, keyof Look> & { look: Look | null };

/** The look of a business, with what a branch of it has of its own. */
export function shownLook(client: Looks, branch: BranchLook | null | undefined): ShownLook {
  const { colour, logo, header, portrait, look } = client;
  // What is spread comes last: an object that goes on after a spread takes fifty times as long to make.
  return { colour, logo, header, portrait, ...PLAIN_LOOK, ...look, ...ownParts(branch) };
}

function ownParts(branch: BranchLook | null | undefined): Partial<ShownLook> {
  const { look, ...pictures } = branch ?? {};
  return { ...look, ...pictures };
}

/** "Bandstand https://bandstand.example/bramble", one a line: how links are typed. Blank lines say nothing. */
const typedLinks = z.string().transform((typed) =>
  typed
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean)
    .map((line) => {
      const at = line.lastIndexOf(" ");
      return { name: at < 0 ? "" : line.slice(0, at).trim(), url: line.slice(at + 1) };
    }),
);

/** A look as a form brings it. */
export const typedLook = lookSchema.extend({ links: typedLinks.pipe(lookSchema.shape.links) });

/** The links of a look as they are typed. */
export const linksAsTyped = (links: Look["links"]): string => links.map(({ name, url }) => `${name} ${url}`).join("\n");
