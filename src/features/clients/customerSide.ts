import { eq } from "drizzle-orm";
import { z } from "zod";
import { reviewsAddress } from "@/core/reviews/ownReviews";
import { cleanText } from "@/core/words/clean";
import { LANGUAGES } from "@/core/words/languages";
import { type Look, lookSchema } from "@/core/words/look";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { clients } from "@/schema/clients";

/** What customers see beside words, colour and logo: language, typeface, signature, links, and the pages' settings. */

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

export const lookInput = lookSchema.extend({
  language: z.enum(LANGUAGES, "Choose one of the languages."),
  links: typedLinks.pipe(lookSchema.shape.links),
});
export type LookInput = z.output<typeof lookInput>;

/** The links of a look as they are typed. */
export const linksAsTyped = (links: Look["links"]): string => links.map(({ name, url }) => `${name} ${url}`).join("\n");

export const pagesInput = z.object({
  linkDays: z.coerce
    .number("Write whole days.")
    .int("Write whole days.")
    .min(14, "At least 14 days, so that nobody comes too late.")
    .max(1095, "At most three years (1,095 days)."),
  reviewsAddress: z
    .string()
    .trim()
    .transform((typed, context) => {
      const address = typed === "" ? null : reviewsAddress(typed);
      if (typed !== "" && address === null) {
        context.addIssue({ code: "custom", message: "Small letters, figures and hyphens, 3 to 60 of them." });
        return z.NEVER;
      }
      return address;
    }),
  privacyNote: z
    .string()
    .transform(cleanText)
    .pipe(z.string().trim().max(6000, "Keep the note under 6,000 characters."))
    .transform((text) => text || null),
});
export type PagesInput = z.output<typeof pagesInput>;

/** Saves the look of what customers get. */
export async function saveLook(tx: Tx, scope: Scope, who: string, input: LookInput, now: number): Promise<void> {
  const { language, ...look } = input;
  await tx.update(clients).set({ language, look }).where(eq(clients.id, scope.clientId));
  await noteChange(tx, scope, who, "look", now);
}

/** Saves the settings of customers' pages. Throws 23505 where another business has its reviews at this address. */
export async function savePages(tx: Tx, scope: Scope, who: string, input: PagesInput, now: number): Promise<void> {
  await tx.update(clients).set(input).where(eq(clients.id, scope.clientId));
  await noteChange(tx, scope, who, "customer pages", now);
}

const noteChange = (tx: Tx, scope: Scope, who: string, part: string, now: number) =>
  recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "client",
    subjectId: scope.clientId,
    details: { name: part },
  });
