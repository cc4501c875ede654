import { and, eq, sql } from "drizzle-orm";
import { z } from "zod";
import { normalisePhone } from "@/core/contacts/phone";
import { isZone } from "@/core/time/zone";
import { cleanText } from "@/core/words/clean";
import { typedColour, typedEmail, typedText } from "@/core/words/typed";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { branches, clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import type { Kept } from "./named";

/** The business itself: what it is called, from where it writes, and its branches. */

const ZONE = "That isn’t a time zone. Use one like Europe/London.";

export const businessInput = (country: string) =>
  z.object({
    name: typedText(80, "Enter the name of the business."),
    colour: typedColour,
    zone: z.string().trim().refine(isZone, ZONE),
    senderEmail: typedEmail,
    textNumber: z.string().transform((typed, context) => {
      const number = normalisePhone(typed, country)?.number;
      if (number) return number;
      context.addIssue({ code: "custom", message: "That isn’t a phone number in that country." });
      return z.NEVER;
    }),
  });
export type BusinessInput = z.output<ReturnType<typeof businessInput>>;

/** Saves what holds for the whole business. What is planned leaves with the new words and from the new addresses. */
export async function saveBusiness(tx: Tx, scope: Scope, who: string, it: BusinessInput, now: number): Promise<void> {
  await tx
    .update(clients)
    .set({
      ...it,
      // Another address is confirmed by its own link.
      senderConfirmedAt: sql`case when lower(${clients.senderEmail}) = lower(${it.senderEmail}) then ${clients.senderConfirmedAt} end`,
    })
    .where(eq(clients.id, scope.clientId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "client",
    subjectId: scope.clientId,
  });
}

/** By which reader of themes all that its customers said has been read, or will be. */
export async function setThemesReader(tx: Tx, scope: Scope, reader: number): Promise<void> {
  await tx.update(clients).set({ themesReader: reader }).where(eq(clients.id, scope.clientId));
}

export const branchInput = z.object({
  name: typedText(60, "Enter a name for the branch."),
  address: typedText(300, "Enter its address."),
  zone: z.string().trim().refine(isZone, ZONE),
  phone: z
    .string()
    .transform(cleanText)
    .pipe(z.string().trim().max(40, "Keep this under 40 characters."))
    .transform((text) => text || null),
});

/** Keeps a branch: a new one without `id`, the last of all. Says when another has this name. */
export async function keepBranch(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string | null,
  it: z.output<typeof branchInput>,
  now: number,
): Promise<Kept> {
  const [other] = await tx
    .select({ id: branches.id })
    .from(branches)
    .where(and(eq(branches.clientId, scope.clientId), sql`lower(${branches.name}) = lower(${it.name})`));
  if (other && other.id !== id) return "taken";
  const key = id ?? newId();
  if (id) {
    const changed = await tx
      .update(branches)
      .set(it)
      .where(and(eq(branches.clientId, scope.clientId), eq(branches.id, id)));
    if (!changed.rowCount) return "missing";
  } else
    await tx.insert(branches).values({
      id: key,
      clientId: scope.clientId,
      ...it,
      position: sql`(select coalesce(max(position), -1) + 1 from branches where client_id = ${scope.clientId})`,
    });
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: id ? "changed" : "added",
    subject: "branch",
    subjectId: key,
    details: { name: it.name },
  });
  return "kept";
}
