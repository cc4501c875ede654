import { and, eq } from "drizzle-orm";
import { z } from "zod";
import { reviewsAddress } from "@/core/reviews/ownReviews";
import { LANGUAGES } from "@/core/words/languages";
import type { Logo } from "@/core/words/logo";
import { type BranchLook, type Look, typedLook } from "@/core/words/look";
import { type PrivacyNotes, privacyNotes } from "@/core/words/privacy";
import { typedColour } from "@/core/words/typed";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { branches, clients } from "@/schema/clients";

/** What customers see beside words, colour and logo: language, typeface, signature, links, and the pages' settings. */

export const lookInput = typedLook.extend({
  language: z.enum(LANGUAGES, "Choose one of the languages."),
  keepsMarks: z.string().transform((ticked) => ticked === "yes"),
});
export type LookInput = z.output<typeof lookInput>;

/** What a branch has of its own beside pictures: a colour and a look; or nothing, where it looks as the business does. */
export const branchLookInput = typedLook.extend({ colour: typedColour });
export type BranchLookInput = z.output<typeof branchLookInput>;

export const pagesInput = z.object({
  linkDays: z.coerce
    .number("Enter a whole number of days.")
    .int("Enter a whole number of days.")
    .min(14, "At least 14 days, so people have time to answer.")
    .max(1095, "No more than three years (1,095 days)."),
  reviewsAddress: z
    .string()
    .trim()
    .transform((typed, context) => {
      const address = typed === "" ? null : reviewsAddress(typed);
      if (typed !== "" && address === null) {
        context.addIssue({ code: "custom", message: "Use 3 to 60 lower-case letters, numbers and hyphens." });
        return z.NEVER;
      }
      return address;
    }),
  privacyNote: privacyNotes.transform((notes) => {
    const own = Object.fromEntries(Object.entries(notes).filter(([, words]) => words));
    return Object.keys(own).length > 0 ? (own as PrivacyNotes) : null;
  }),
});
export type PagesInput = z.output<typeof pagesInput>;

/** Saves the look of what customers get. */
export async function saveLook(tx: Tx, scope: Scope, who: string, input: LookInput, now: number): Promise<void> {
  const { language, keepsMarks, ...look } = input;
  await tx.update(clients).set({ language, keepsMarks, look }).where(eq(clients.id, scope.clientId));
  await noteChange(tx, scope, who, "look", now);
}

/** Saves how a branch looks; null where it looks as the business does. Its own pictures stay. False for no such branch. */
export async function saveBranchLook(
  tx: Tx,
  scope: Scope,
  who: string,
  branchId: string,
  input: BranchLookInput | null,
  now: number,
): Promise<boolean> {
  const before = await lockBranchLook(tx, scope, branchId);
  if (!before) return false;
  const { logo, header, portrait } = before.look ?? {};
  const pictures = { ...(logo && { logo }), ...(header && { header }), ...(portrait && { portrait }) };
  const { colour, ...look } = input ?? {};
  await setBranchLook(tx, scope, branchId, input ? { ...pictures, colour, look: look as Look } : pictures);
  await noteChange(tx, scope, who, "look", now, branchId);
  return true;
}

async function lockBranchLook(tx: Tx, scope: Scope, branchId: string) {
  const [branch] = await tx
    .select({ look: branches.look })
    .from(branches)
    .where(and(eq(branches.clientId, scope.clientId), eq(branches.id, branchId)))
    .for("update");
  return branch ?? null;
}

async function setBranchLook(tx: Tx, scope: Scope, branchId: string, look: BranchLook): Promise<void> {
  await tx
    .update(branches)
    .set({ look: Object.keys(look).length > 0 ? look : null })
    .where(and(eq(branches.clientId, scope.clientId), eq(branches.id, branchId)));
}

/**
 * Says which picture customers see of the business, or of one of its branches; null for none (a branch shows the
 * business's).
 */
export async function setClientPicture(
  tx: Tx,
  scope: Scope,
  who: string,
  it: { kind: "logo" | "header" | "portrait"; branchId: string | null; picture: Logo | null },
  now: number,
): Promise<void> {
  const { kind, branchId, picture } = it;
  if (branchId === null)
    await tx
      .update(clients)
      .set({ [kind]: picture })
      .where(eq(clients.id, scope.clientId));
  else {
    const { [kind]: _, ...others } = (await lockBranchLook(tx, scope, branchId))?.look ?? {};
    await setBranchLook(tx, scope, branchId, picture ? { ...others, [kind]: picture } : others);
  }
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "logo",
    subjectId: branchId ?? undefined,
    details: { name: kind, ...(picture ? {} : { reason: "taken away" }) },
  });
}

/** Saves the settings of customers' pages. Throws 23505 where another business has its reviews at this address. */
export async function savePages(tx: Tx, scope: Scope, who: string, input: PagesInput, now: number): Promise<void> {
  await tx.update(clients).set(input).where(eq(clients.id, scope.clientId));
  await noteChange(tx, scope, who, "customer pages", now);
}

const noteChange = (tx: Tx, scope: Scope, who: string, part: string, now: number, branchId: string | null = null) =>
  recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: branchId ? "branch" : "client",
    subjectId: branchId ?? scope.clientId,
    details: { name: part },
  });
