import { and, eq, or, sql } from "drizzle-orm";
import { z } from "zod";
import type { Addresses } from "@/core/asks/reach";
import { normaliseEmail } from "@/core/contacts/email";
import { splitName } from "@/core/contacts/name";
import { normalisePhone } from "@/core/contacts/phone";
import type { Scope, Tx } from "@/platform/database";
import { note } from "../audit";
import { people } from "./tables";

export type Person = typeof people.$inferSelect;

/** Addresses of a person as the rules see them. */
export function addressesOf(person: Person): Addresses {
  return {
    email: person.email,
    emailBounced: person.emailBouncedAt !== null,
    emailOptedOut: person.emailOptedOutAt !== null,
    phone: person.phone,
    phoneTakesTexts: person.phoneTakesTexts,
    textBounced: person.textBouncedAt !== null,
    textOptedOut: person.textOptedOutAt !== null,
  };
}

/** A person's whole name. */
export function nameOf(person: { given: string; family: string }): string {
  return `${person.given} ${person.family}`.trim();
}

/** What somebody types to add or change a person. `country` is the default for the phone. */
export function personInput(country: string) {
  return z
    .object({
      name: z.string().trim().min(1, "Write the name.").max(120, "Keep the name under 120 characters."),
      email: z.string().trim().max(254, "That is too long for an email address.").default(""),
      phone: z.string().trim().max(40, "That is too long for a phone number.").default(""),
      note: z.string().trim().max(2000, "Keep the note under 2,000 characters.").default(""),
      doNotAsk: z.string().trim().max(200, "Keep the reason under 200 characters.").default(""),
    })
    .transform((typed, context) => {
      const email = typed.email ? normaliseEmail(typed.email) : null;
      if (typed.email && !email) {
        context.addIssue({ code: "custom", path: ["email"], message: "This is not an email address, like odette@post.example." });
      }
      const phone = typed.phone ? normalisePhone(typed.phone, country) : null;
      if (typed.phone && !phone) {
        context.addIssue({ code: "custom", path: ["phone"], message: "This is not a phone number. Check for missing or extra digits." });
      }
      if (!typed.email && !typed.phone) {
        context.addIssue({ code: "custom", path: ["phone"], message: "Give a mobile number or an email address, else nobody can be asked." });
      }
      return { ...splitName(typed.name), email, phone, note: typed.note, doNotAsk: typed.doNotAsk || null };
    });
}

export type PersonValues = z.output<ReturnType<typeof personInput>>;

/**
 * Adds a person, or finds the one who already has this email or phone (and, where both people of a household share it,
 * this name). Missing details of the one found are filled in, nothing is overwritten. Two calls at once add one person.
 */
export async function keepPerson(tx: Tx, scope: Scope, values: PersonValues, now: number): Promise<{ person: Person; isNew: boolean }> {
  const phone = values.phone?.number ?? null;
  for (const address of [values.email, phone].filter((each) => each !== null).sort()) {
    await tx.execute(sql`select pg_advisory_xact_lock(hashtextextended(${`${scope.clientId} ${address}`}, 0))`);
  }
  const same = [values.email ? eq(people.email, values.email) : null, phone ? eq(people.phone, phone) : null].filter((each) => each !== null);
  const found = same.length
    ? await tx
        .select()
        .from(people)
        .where(and(eq(people.clientId, scope.clientId), or(...same)))
        .orderBy(people.createdAt)
    : [];
  const known = found.find((one) => one.given.toLowerCase() === values.given.toLowerCase()) ?? found[0];
  if (known) {
    const missing: Partial<Person> = {};
    if (!known.email && values.email) missing.email = values.email;
    if (!known.phone && phone) Object.assign(missing, { phone, phoneTakesTexts: values.phone?.canText ?? false });
    if (!known.family && values.family) missing.family = values.family;
    if (Object.keys(missing).length > 0) await tx.update(people).set(missing).where(eq(people.id, known.id));
    return { person: { ...known, ...missing }, isNew: false };
  }
  const [person] = await tx
    .insert(people)
    .values({
      clientId: scope.clientId,
      given: values.given,
      family: values.family,
      email: values.email,
      phone,
      phoneTakesTexts: values.phone?.canText ?? false,
      note: values.note,
      doNotAsk: values.doNotAsk,
      createdAt: now,
    })
    .returning();
  return { person, isNew: true };
}

/** Changes a person by hand. A new address starts afresh: it has neither bounced nor opted out. */
export async function changePerson(tx: Tx, scope: Scope, who: string, id: string, values: PersonValues, now: number): Promise<Person | null> {
  const [before] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)))
    .for("update");
  if (!before) return null;
  const phone = values.phone?.number ?? null;
  const change: Partial<Person> = {
    given: values.given,
    family: values.family,
    email: values.email,
    phone,
    phoneTakesTexts: values.phone?.canText ?? false,
    note: values.note,
    doNotAsk: values.doNotAsk,
    ...(values.email !== before.email ? { emailBouncedAt: null } : {}),
    ...(phone !== before.phone ? { textBouncedAt: null } : {}),
  };
  const [after] = await tx.update(people).set(change).where(eq(people.id, id)).returning();
  await note(tx, { clientId: scope.clientId, at: now, who, deed: "changed", subject: "person", subjectId: id, details: Object.keys(change) });
  return after;
}
