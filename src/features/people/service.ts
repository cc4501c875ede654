import { and, eq, ne } from "drizzle-orm";
import { z } from "zod";
import type { Wishes } from "@/core/asks/eligibility";
import type { Addresses } from "@/core/asks/reach";
import { zonesOfAddress } from "@/core/contacts/addressZone";
import { normaliseEmail } from "@/core/contacts/email";
import { splitName } from "@/core/contacts/name";
import { normalisePhone, sayPhone, suggestPhone } from "@/core/contacts/phone";
import { zonesOfPhone } from "@/core/contacts/phoneZone";
import type { ArrivingPerson } from "@/core/intake/arrival";
import { isMinor } from "@/core/people/households";
import { dayText } from "@/core/time/range";
import { isZone } from "@/core/time/zone";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { people } from "@/schema/people";
import { lockPeople, PeopleDryRun, upsertPeople } from "./upsert";

export type Person = typeof people.$inferSelect;

/** What says by which ways someone can be written to. */
export type Reached = Pick<
  Person,
  "email" | "emailBouncedAt" | "emailOptedOutAt" | "phone" | "phoneTakesTexts" | "textBouncedAt" | "textOptedOutAt"
> &
  Partial<Pick<Person, "tags" | "prefers">>;

/** Addresses of a person as the rules see them; `tags` are the client's, some of which allow one channel alone. */
export function addressesOf(person: Reached, tags: readonly { name: string; effect: string }[] = []): Addresses {
  const effects = tags.filter(({ name }) => person.tags?.includes(name)).map(({ effect }) => effect);
  return {
    only: effects.includes("email only") ? "email" : effects.includes("text only") ? "text" : null,
    prefers: person.prefers ?? null,
    email: person.email,
    emailBounced: person.emailBouncedAt !== null,
    emailOptedOut: person.emailOptedOutAt !== null,
    phone: person.phone,
    phoneTakesTexts: person.phoneTakesTexts,
    textBounced: person.textBouncedAt !== null,
    textOptedOut: person.textOptedOutAt !== null,
  };
}

/**
 * Who is written to about a person: the guardian of a minor (or of anyone with a guardian and no known birth date),
 * else the person. Null for a minor whose guardian is not known. `today` is the ISO day there.
 */
export function addresseeOf<Reader extends Pick<Person, "birthDate">>(
  person: Reader,
  guardian: Reader | null,
  today: string,
): Reader | null {
  const minor = isMinor(person.birthDate, today);
  if (guardian && (minor || !person.birthDate)) return guardian;
  return minor ? null : person;
}

/**
 * The IANA zones in which texts may reach a person, one for each clock: the zone set on the person, else where their
 * postal address is, else wherever their number may be. Empty where only the branch's zone is known.
 *
 * @param country ISO 3166-1 alpha-2 of the client, for addresses that name none.
 */
export function recipientZones(
  person: Pick<Person, "zone" | "phone" | "postalAddress">,
  country: string,
): readonly string[] {
  if (person.zone) return [person.zone];
  const ofAddress = zonesOfAddress(person.postalAddress, country);
  return ofAddress.length > 0 ? ofAddress : zonesOfPhone(person.phone);
}

/** The one zone of a person that is set or that their number settles; null where it could be several. */
export function settledZone(person: Pick<Person, "zone" | "phone" | "postalAddress">): string | null {
  const zones = recipientZones(person, "");
  return zones.length === 1 ? zones[0] : null;
}

/** What somebody wants for themselves, as the rules see it. */
export function wishesOf(person: Person): Wishes {
  return {
    doNotAsk: person.doNotAsk,
    tags: person.tags,
    consent: person.consent?.given ?? null,
    restUntil: person.restUntil,
  };
}

/** A person's whole name. */
export function nameOf(person: { given: string; family: string }): string {
  return bareName(person) || "someone without a name";
}

/** The same, and nothing where there is none. */
export const bareName = ({ given, family }: { given: string; family: string }): string => `${given} ${family}`.trim();

/** A person's name; somebody unknown where nobody is known. */
export function nameOrUnknown(person: { given: string | null; family: string | null } | null): string {
  return bareName({ given: person?.given ?? "", family: person?.family ?? "" }) || "Someone unknown";
}

/** What somebody types to add or change a person. `country` is the default for the phone. */
export function personInput(country: string) {
  return z
    .object({
      name: z.string().trim().min(1, "Enter a name.").max(120, "Keep the name under 120 characters."),
      email: z.string().trim().max(254, "That’s too long for an email address.").default(""),
      phone: z.string().trim().max(40, "That’s too long for a phone number.").default(""),
      note: z.string().trim().max(2000, "Keep the note under 2,000 characters.").default(""),
      doNotAsk: z.string().trim().max(200, "Keep the reason under 200 characters.").default(""),
      externalId: z.string().trim().max(100, "Keep the number under 100 characters.").default(""),
      language: z.union([z.literal(""), z.string().regex(/^[a-z]{2}$/, "Choose a language.")]).default(""),
      birthDate: z.union([z.literal(""), dayText], "Enter the date like 2010-05-31.").default(""),
      postalAddress: z.string().trim().max(300, "Keep the address under 300 characters.").default(""),
      consent: z.enum(["", "yes", "no"]).default(""),
      prefers: z.enum(["", "text", "email"]).default(""),
      zone: z
        .string()
        .trim()
        .max(60)
        .refine((zone) => zone === "" || isZone(zone), "Enter a time zone like America/New_York, or leave it blank.")
        .default(""),
      guardianName: z.string().trim().max(120, "Keep the name under 120 characters.").default(""),
      guardianReach: z.string().trim().max(254, "That is too long for an address.").default(""),
      tags: z.array(z.string().max(60)).max(30).default([]),
    })
    .transform((typed, context) => {
      const email = typed.email ? normaliseEmail(typed.email) : null;
      if (typed.email && !email) {
        context.addIssue({
          code: "custom",
          path: ["email"],
          message: "That isn’t an email address. It should look like odette@post.example.",
        });
      }
      const phone = typed.phone ? normalisePhone(typed.phone, country) : null;
      if (typed.phone && !phone) {
        const abroad = suggestPhone(typed.phone);
        context.addIssue({
          code: "custom",
          path: ["phone"],
          message: abroad
            ? `That isn’t a number in your country. If you mean ${sayPhone(abroad.number)}, include the +.`
            : "That isn’t a phone number. Check for missing or extra digits.",
        });
      }
      const guardian = guardianOf(typed.guardianName, typed.guardianReach, country);
      if (guardian === "wrong")
        context.addIssue({
          code: "custom",
          path: ["guardianReach"],
          message: "That isn’t an email address or a phone number.",
        });
      if (!typed.email && !typed.phone && !guardian) {
        context.addIssue({
          code: "custom",
          path: ["phone"],
          message: "Add a mobile number or an email address, or we can’t ask them.",
        });
      }
      return {
        ...splitName(typed.name),
        email,
        phone,
        note: typed.note,
        doNotAsk: typed.doNotAsk || null,
        externalId: typed.externalId || null,
        language: typed.language || null,
        birthDate: typed.birthDate || null,
        postalAddress: typed.postalAddress || null,
        consent: typed.consent === "" ? null : typed.consent === "yes",
        prefers: typed.prefers || null,
        zone: typed.zone || null,
        guardian: guardian === "wrong" ? null : guardian,
        tags: typed.tags,
      };
    });
}

function guardianOf(name: string, reach: string, country: string): ArrivingPerson["guardian"] | "wrong" {
  if (!reach) return null;
  const email = reach.includes("@") ? normaliseEmail(reach) : null;
  const phone = email ? null : normalisePhone(reach, country);
  return email || phone ? { ...splitName(name || "Guardian"), email, phone } : "wrong";
}

type Details = z.output<ReturnType<typeof personInput>>;
/** What a person is known by, and as much more as was said. */
export type PersonValues = Pick<Details, "given" | "family" | "email" | "phone" | "note" | "doNotAsk"> &
  Partial<Details>;

/** Adds one person by hand, or finds the one who is here already. Two calls at once add one person. */
export async function savePerson(
  tx: Tx,
  scope: Scope,
  values: PersonValues,
  now: number,
): Promise<{ person: Person; isNew: boolean }> {
  const [kept] = await upsertPeople(tx, scope, [{ ...PLAIN, ...values }], now, {
    source: "by hand",
    sharedAddress: "another person",
    replaces: false,
  });
  if (kept.kind === "refused") throw new Refused(kept.why);
  const said = {
    ...(values.prefers ? { prefers: values.prefers } : {}),
    ...(values.zone ? { zone: values.zone } : {}),
  };
  if (kept.kind !== "new" || Object.keys(said).length === 0) return { person: kept.person, isNew: kept.kind === "new" };
  await tx.update(people).set(said).where(eq(people.id, kept.person.id));
  return { person: { ...kept.person, ...said }, isNew: true };
}

/** Who somebody is whose details are typed, where they are here already: whom `savePerson` would give. Nothing is kept. */
export async function findMet(tx: Tx, scope: Scope, values: PersonValues, now: number): Promise<Person | null> {
  const [kept] = await upsertPeople(tx, scope, [{ ...PLAIN, ...values }], now, {
    source: "by hand",
    sharedAddress: "another person",
    replaces: false,
    rehearsal: new PeopleDryRun(),
  });
  return kept.kind === "new" || kept.kind === "refused" ? null : kept.person;
}

/** A request that cannot be followed, said in words for whoever made it. Whatever was begun is undone. */
export class Refused extends Error {}

const PLAIN = {
  externalId: null,
  language: null,
  birthDate: null,
  postalAddress: null,
  guardian: null,
  tags: [],
  consent: null,
};

/** What is to be changed of a person; what is not named stays as it is at that moment. */
export type PersonEdit = Partial<Details>;

/**
 * Changes a person by hand, under a lock: only what `values` names is written. A new address starts afresh: it has
 * neither bounced nor opted out. Null when there is no such person. Throws `Refused`.
 */
export async function changePerson(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  values: PersonEdit,
  now: number,
): Promise<Person | null> {
  // A guardian is found or added as whoever comes in is, one list at a time: that lock comes before the rows'.
  if (values.guardian) await lockPeople(tx, scope);
  const [before] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)))
    .for("update");
  if (!before) return null;
  const plain: Partial<Person> = Object.fromEntries(
    PLAINLY_CHANGED.flatMap((name) => (values[name] === undefined ? [] : [[name, values[name]]])),
  );
  const phone = values.phone === undefined ? before.phone : (values.phone?.number ?? null);
  const change: Partial<Person> = {
    ...plain,
    ...(values.phone === undefined ? {} : { phone, phoneTakesTexts: values.phone?.canText ?? false }),
    ...(values.guardian !== undefined
      ? { guardianId: await guardianIdOf(tx, scope, before, values.guardian, now) }
      : {}),
    ...(values.consent !== undefined && values.consent !== (before.consent?.given ?? null)
      ? { consent: values.consent === null ? null : { given: values.consent, at: now, source: `by hand, ${who}` } }
      : {}),
    ...(values.email !== undefined && values.email !== before.email
      ? { emailBouncedAt: null, emailBouncedWhy: null }
      : {}),
    ...(phone !== before.phone ? { textBouncedAt: null, textBouncedWhy: null } : {}),
  };
  if (change.externalId) {
    const [other] = await tx
      .select({ id: people.id })
      .from(people)
      .where(and(eq(people.clientId, scope.clientId), eq(people.externalId, change.externalId), ne(people.id, id)));
    if (other) throw new Refused("Someone else already has this customer number.");
  }
  const names = Object.keys(change).filter(
    (name) => !sameValue(change[name as keyof Person], before[name as keyof Person]),
  );
  if (names.length === 0) return before;
  const named = Object.fromEntries(names.map((name) => [name, change[name as keyof Person]]));
  const [after] = await tx.update(people).set(named).where(eq(people.id, id)).returning();
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "person",
    subjectId: id,
    details: names,
  });
  return after;
}

/** Details that are written as they are given. */
const PLAINLY_CHANGED = [
  "given",
  "family",
  "email",
  "note",
  "doNotAsk",
  "externalId",
  "language",
  "prefers",
  "zone",
  "birthDate",
  "postalAddress",
  "tags",
] as const;

function sameValue(a: unknown, b: unknown): boolean {
  return a === b || JSON.stringify(a) === JSON.stringify(b);
}

/** The guardian's record: found or added by the address given; the one there is stays when nothing else is said. */
async function guardianIdOf(
  tx: Tx,
  scope: Scope,
  ward: Person,
  guardian: Details["guardian"],
  now: number,
): Promise<string | null> {
  if (!guardian) return null;
  const [kept] = await upsertPeople(tx, scope, [{ ...PLAIN, ...guardian, note: "", tags: [] }], now, {
    source: "by hand",
    sharedAddress: "another person",
    replaces: false,
  });
  return kept.person && kept.person.id !== ward.id ? kept.person.id : null;
}
