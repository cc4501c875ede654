import { eq, sql } from "drizzle-orm";
import { z } from "zod";
import type { Look } from "@/core/words/look";
import { typedEmail, typedText } from "@/core/words/typed";
import type { AgencyScope, Tx } from "@/platform/database";
import { agencies } from "@/schema/accounts";
import { recordAccountEntry } from "./trail";

/** The agency itself: what it is called, how it looks to its clients' people, and how its people sign in. */

export type Agency = typeof agencies.$inferSelect;

export const agencyInput = z.object({
  name: typedText(80, "Enter the agency’s name.", "the name"),
  colour: z.string().regex(/^#[0-9a-fA-F]{6}$/, "Enter a colour such as #2F5D50."),
  senderEmail: typedEmail,
  helpEmail: z.union([z.literal(""), typedEmail]),
  needsTwoSteps: z.boolean(),
});

export async function loadAgency(tx: Tx, scope: AgencyScope): Promise<Agency> {
  const [agency] = await tx.select().from(agencies).where(eq(agencies.id, scope.agencyId));
  return agency;
}

export async function saveAgency(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  it: z.output<typeof agencyInput>,
  now: number,
): Promise<void> {
  await tx
    .update(agencies)
    .set({
      ...it,
      senderConfirmedAt: sql`case when lower(${agencies.senderEmail}) = lower(${it.senderEmail}) then ${agencies.senderConfirmedAt} end`,
    })
    .where(eq(agencies.id, scope.agencyId));
  await recordAccountEntry(tx, scope, { at: now, who, action: "changed", subject: "agency", name: it.name });
}

/** Saves the look that clients begin with that are started from now on. */
export async function saveClientLook(tx: Tx, scope: AgencyScope, who: string, look: Look, now: number): Promise<void> {
  await tx.update(agencies).set({ clientLook: look }).where(eq(agencies.id, scope.agencyId));
  await recordAccountEntry(tx, scope, { at: now, who, action: "changed", subject: "agency", name: "look" });
}

/** Says which picture is the agency's logo, or that there is none. */
export async function setAgencyLogo(
  tx: Tx,
  scope: AgencyScope,
  who: string,
  name: string,
  logoId: string | null,
  now: number,
): Promise<void> {
  await tx.update(agencies).set({ logoId }).where(eq(agencies.id, scope.agencyId));
  await recordAccountEntry(tx, scope, { at: now, who, action: "changed", subject: "agency", name });
}
