"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { concernAnswerInput, type Refusal } from "@/features/concerns";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { type Tx, withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { markAllRead, markNoteRead, thankForNote } from "./notes";
import { settleAutomated } from "./openAnswers";

/** Says of an answer that looked automated whether a person wrote it. */
export const settle = action(
  atClientWith("answer concerns"),
  [text, z.boolean()],
  async (access, id, isPerson): Promise<ActionResult> => {
    if (!z.uuid().safeParse(id).success) return { ok: false, message: "This answer doesn’t exist." };
    const isDone = await withClient(access, (tx) => settleAutomated(tx, access, id, isPerson === true));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!isDone) return { ok: false, message: "Someone has already decided about this answer." };
    return { ok: true, message: isPerson === true ? "Counted as a person’s answer." : "Removed from this list." };
  },
);

async function withNote(
  access: Access,
  id: string,
  work: (tx: Tx, now: number) => Promise<Refusal | null>,
  done: string,
): Promise<ActionResult> {
  if (!z.uuid().safeParse(id).success) return { ok: false, message: "This note doesn’t exist." };
  const now = await clockNow();
  const refused = await withClient(access, (tx) => work(tx, now));
  revalidatePath(`/c/${access.seat.slug}`, "layout");
  return refused ? { ok: false, message: refused.refused } : { ok: true, message: done };
}

/** Marks a private note of a happy customer as read. */
export const read = action(
  atClientWith("answer concerns"),
  [text],
  async (access, id): Promise<ActionResult> =>
    withNote(access, id, (tx, now) => markNoteRead(tx, access, access.user.name, id, now), "Marked as read."),
);

/** Marks all of them as read, or those of a branch. */
export const readAll = action(
  atClientWith("answer concerns"),
  [z.uuid().nullable()],
  async (access, branchId): Promise<ActionResult> => {
    const now = await clockNow();
    const count = await withClient(access, (tx) => markAllRead(tx, access, access.user.name, branchId, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return count === 0
      ? { ok: false, message: "Someone else has read them in the meantime." }
      : { ok: true, message: "All marked as read." };
  },
);

/** Thanks the writer of a private note. */
export const thank = action(
  atClientWith("answer concerns"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = concernAnswerInput.safeParse({
      channel: formText(form, "channel"),
      words: formText(form, "words"),
      requestKey: formText(form, "requestKey"),
      seenAt: formText(form, "seenAt") || undefined,
    });
    if (!values.success) return refusal(values.error);
    return withNote(
      access,
      id,
      (tx, now) => thankForNote(tx, access, access.user.name, id, values.data, now),
      "Your thanks are on their way.",
    );
  },
);
