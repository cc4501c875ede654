"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import {
  addTeamNote,
  answerConcern,
  closeConcern,
  concernAnswerInput,
  concernCloseInput,
  type Refusal,
  reopenConcern,
  takeConcern,
  teamNoteInput,
} from "./service";

async function withConcern(
  slug: string,
  id: string,
  work: (tx: Tx, access: Access, now: number) => Promise<Refusal | null>,
  done: string,
): Promise<ActionResult> {
  const access = await requireAccess(slug, "answer concerns");
  if (!z.uuid().safeParse(id).success) return { ok: false, message: "There is no such concern." };
  const now = await clockNow();
  const refused = await withClient(access, (tx) => work(tx, access, now));
  revalidatePath(`/c/${slug}`, "layout");
  return refused ? { ok: false, message: refused.refused } : { ok: true, message: done };
}

export async function take(slug: string, id: string, _before: ActionResult, _form: FormData): Promise<ActionResult> {
  return withConcern(slug, id, (tx, access, now) => takeConcern(tx, access, access.user.name, id, now), "It is yours.");
}

export async function answer(slug: string, id: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  await requireAccess(slug, "answer concerns");
  const values = concernAnswerInput.safeParse({
    channel: formText(form, "channel"),
    words: formText(form, "words"),
    requestKey: formText(form, "requestKey"),
  });
  if (!values.success) return refusal(values.error);
  return withConcern(
    slug,
    id,
    (tx, access, now) => answerConcern(tx, access, access.user.name, id, values.data, now),
    "Your answer is on its way.",
  );
}

export async function close(slug: string, id: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  await requireAccess(slug, "answer concerns");
  const values = concernCloseInput.safeParse({ outcome: formText(form, "outcome"), note: formText(form, "note") });
  if (!values.success) return refusal(values.error);
  return withConcern(
    slug,
    id,
    (tx, access, now) => closeConcern(tx, access, access.user.name, id, values.data, now),
    "Closed.",
  );
}

export async function reopen(slug: string, id: string, _before: ActionResult, _form: FormData): Promise<ActionResult> {
  return withConcern(
    slug,
    id,
    (tx, access, now) => reopenConcern(tx, access, access.user.name, id, now),
    "Open again.",
  );
}

/** Writes to the team about a concern; its customer never sees it. */
export async function noteForTeam(
  slug: string,
  id: string,
  _before: ActionResult,
  form: FormData,
): Promise<ActionResult> {
  await requireAccess(slug, "answer concerns");
  const values = teamNoteInput.safeParse({ words: formText(form, "words") });
  if (!values.success) return refusal(values.error);
  return withConcern(
    slug,
    id,
    (tx, access, now) => addTeamNote(tx, access, access.user.name, id, values.data.words, now),
    "Noted for the team.",
  );
}
