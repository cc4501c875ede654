"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { stopUnwanted } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting } from "@/features/clients";
import {
  changePerson,
  findPerson,
  type PersonEdit,
  personInput,
  placePerson,
  Refused,
  savePerson,
} from "@/features/people";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { acrossBranches, withClient } from "@/platform/database";
import { type ActionResult, formText, formTexts, refusal } from "@/ui/result";

const FIELDS = [
  "name",
  "email",
  "phone",
  "note",
  "doNotAsk",
  "externalId",
  "language",
  "birthDate",
  "postalAddress",
  "consent",
  "prefers",
  "zone",
  "guardianName",
  "guardianReach",
] as const;

/** What the form says; of its tags only those that the client has. */
function typedPerson(form: FormData, tags: { name: string }[]): Record<string, unknown> {
  const picked = formTexts(form, "tags");
  return {
    ...Object.fromEntries(FIELDS.map((name) => [name, formText(form, name)])),
    tags: tags.flatMap(({ name }) => (picked.includes(name) ? name : [])),
  };
}

/** Adds a person, or leads to the one who is here already. */
export const addPerson = action(
  atClientWith("edit people"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const now = await clockNow();
    const result = await withClient(access, async (tx) => {
      const { client, tags } = await loadSetting(tx);
      const values = personInput(client.country).safeParse(typedPerson(form, tags));
      if (!values.success) return refusal(values.error);
      const { person, isNew } = await acrossBranches(tx, async () => {
        const saved = await savePerson(tx, access, values.data, now);
        // Whoever is bound to a branch adds people to it.
        if (saved.isNew && access.branches) await placePerson(tx, access, saved.person.id, access.branches[0]);
        return saved;
      });
      if (!(await findPerson(tx, access, person.id)))
        return {
          ok: false as const,
          message:
            "This person belongs to another branch. Ask them about a visit here and they’ll appear in your list too.",
        };
      if (isNew)
        await recordAudit(tx, {
          clientId: access.clientId,
          at: now,
          who: access.user.name,
          action: "added",
          subject: "person",
          subjectId: person.id,
        });
      return person;
    }).catch(refused);
    if ("ok" in result) return result;
    redirect(`/c/${access.seat.slug}/people/${result.id}`);
  },
);

/** Changes a person's details. */
export const editPerson = action(
  atClientWith("edit people"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This person doesn’t exist." };
    const now = await clockNow();
    const result = await withClient(access, async (tx): Promise<ActionResult> => {
      const { client, tags } = await loadSetting(tx);
      const typed = typedPerson(form, tags);
      const values = personInput(client.country).safeParse(typed);
      if (!values.success) return refusal(values.error);
      const change = changedOnly(values.data, typed, formText(form, "was"));
      // Tags that came in and that nobody has assigned yet stand beside those one can pick.
      const before = await findPerson(tx, access, id);
      const unassigned = before?.tags.filter((tag) => !tags.some(({ name }) => name === tag)) ?? [];
      if (change.tags) change.tags = [...change.tags, ...unassigned];
      if (!before) return { ok: false, message: "This person no longer exists." };
      // What they are planned at other branches follows.
      return acrossBranches(tx, async () => {
        const kept = await changePerson(tx, access, access.user.name, id, change, now);
        if (!kept) return { ok: false, message: "This person no longer exists." };
        await stopUnwanted(tx, access, [id], now);
        return { ok: true, message: "Saved." };
      });
    }).catch(refused);
    if (result?.ok) revalidatePath(`/c/${access.seat.slug}/people/${id}`);
    return result;
  },
);

/** Which typed fields each detail comes from. */
const FIELDS_OF: { [Name in keyof PersonEdit]: readonly string[] } = {
  given: ["name"],
  family: ["name"],
  guardian: ["guardianName", "guardianReach"],
};

/**
 * Of what a form says, that which whoever filled it in has changed: the rest stays as it is by now, also where
 * somebody else or a list has changed it since the form was opened. `was` is the form as it was opened (JSON); without
 * it everything counts.
 */
function changedOnly(values: PersonEdit, typed: Record<string, unknown>, was: string): PersonEdit {
  let before: Record<string, unknown>;
  try {
    before = z.record(z.string(), z.unknown()).parse(JSON.parse(was));
  } catch {
    return values;
  }
  const text = (value: unknown) => JSON.stringify(Array.isArray(value) ? [...value].sort() : (value ?? ""));
  const same = (field: string) => text(typed[field]) === text(before[field]);
  return Object.fromEntries(
    Object.entries(values).filter(([name]) => !(FIELDS_OF[name as keyof PersonEdit] ?? [name]).every(same)),
  );
}

/** A refusal in words for the form; everything else is a fault. */
function refused(error: unknown): Exclude<ActionResult, null> {
  if (error instanceof Refused) return { ok: false, message: error.message };
  throw error;
}
