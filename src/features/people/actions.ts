"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { note } from "../audit";
import { loadSetting } from "../clients";
import { changePerson, keepPerson, personInput, Refused } from "./service";

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
  "guardianName",
  "guardianReach",
] as const;

/** What the form says; of its tags only those that the client has. */
function typedPerson(form: FormData, tags: { name: string }[]): Record<string, unknown> {
  const picked = form.getAll("tags").map(String);
  return { ...Object.fromEntries(FIELDS.map((name) => [name, formText(form, name)])), tags: tags.flatMap(({ name }) => (picked.includes(name) ? name : [])) };
}

/** Adds a person, or leads to the one who is here already. */
export async function addPerson(slug: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "keep people");
  const now = await clockNow();
  const result = await withClient(access, async (tx) => {
    const { client, tags } = await loadSetting(tx);
    const values = personInput(client.country).safeParse(typedPerson(form, tags));
    if (!values.success) return refusal(values.error);
    const { person, isNew } = await keepPerson(tx, access, values.data, now);
    if (isNew) await note(tx, { clientId: access.clientId, at: now, who: access.user.name, deed: "added", subject: "person", subjectId: person.id });
    return person;
  }).catch(refused);
  if ("ok" in result) return result;
  redirect(`/c/${slug}/people/${result.id}`);
}

/** Changes a person's details. */
export async function editPerson(slug: string, id: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "keep people");
  if (!z.uuid().safeParse(id).success) return { ok: false, message: "There is no such person." };
  const now = await clockNow();
  const result = await withClient(access, async (tx): Promise<ActionResult> => {
    const { client, tags } = await loadSetting(tx);
    const values = personInput(client.country).safeParse(typedPerson(form, tags));
    if (!values.success) return refusal(values.error);
    return (await changePerson(tx, access, access.user.name, id, values.data, now)) ? { ok: true, message: "Kept." } : { ok: false, message: "This person is not there any more." };
  }).catch(refused);
  if (result?.ok) revalidatePath(`/c/${slug}/people/${id}`);
  return result;
}

/** A refusal in words for the form; everything else is a fault. */
function refused(error: unknown): Exclude<ActionResult, null> {
  if (error instanceof Refused) return { ok: false, message: error.message };
  throw error;
}
