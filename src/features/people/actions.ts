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
import { changePerson, keepPerson, personInput } from "./service";

/** Adds a person, or leads to the one who is here already. */
export async function addPerson(slug: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "keep people");
  const now = await clockNow();
  const result = await withClient(access, async (tx) => {
    const { client } = await loadSetting(tx);
    const values = personInput(client.country).safeParse({
      name: formText(form, "name"),
      email: formText(form, "email"),
      phone: formText(form, "phone"),
      note: formText(form, "note"),
    });
    if (!values.success) return refusal(values.error);
    const { person, isNew } = await keepPerson(tx, access, values.data, now);
    if (isNew) await note(tx, { clientId: access.clientId, at: now, who: access.user.name, deed: "added", subject: "person", subjectId: person.id });
    return person;
  });
  if ("ok" in result) return result;
  redirect(`/c/${slug}/people/${result.id}`);
}

/** Changes a person's details. */
export async function editPerson(slug: string, id: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "keep people");
  if (!z.uuid().safeParse(id).success) return { ok: false, message: "There is no such person." };
  const now = await clockNow();
  const result = await withClient(access, async (tx): Promise<ActionResult> => {
    const { client } = await loadSetting(tx);
    const values = personInput(client.country).safeParse({
      name: formText(form, "name"),
      email: formText(form, "email"),
      phone: formText(form, "phone"),
      note: formText(form, "note"),
      doNotAsk: formText(form, "doNotAsk"),
    });
    if (!values.success) return refusal(values.error);
    return (await changePerson(tx, access, access.user.name, id, values.data, now)) ? { ok: true, message: "Kept." } : { ok: false, message: "This person is not there any more." };
  });
  if (result?.ok) revalidatePath(`/c/${slug}/people/${id}`);
  return result;
}
