"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { typedText } from "@/core/words/typed";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { dropOwnTheme, keepOwnTheme, MOST_OWN } from "./own";

const GONE: ActionResult = { ok: false, message: "This theme is not there any more." };

const input = z.object({
  name: typedText(40, "Name the theme."),
  words: z
    .string()
    .transform((text) => [
      ...new Set(
        text
          .split(/[,\n]/)
          .map((word) => word.trim())
          .filter(Boolean),
      ),
    ])
    .refine((words) => words.length > 0, "Write at least one word by which people name it.")
    .refine(
      (words) => words.length <= 40 && words.every((word) => word.length <= 40),
      "At most 40 words, of 40 letters each.",
    ),
});

/** Keeps a theme of the client's own: a new one without an identifier. Everything is read again. */
export const saveTheme = action(
  atClientWith("set up", "whole client", "see heard"),
  [text.nullable(), before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const values = input.safeParse({ name: formText(form, "name"), words: formText(form, "words") });
    if (!values.success) return refusal(values.error);
    if (id !== null && !z.uuid().safeParse(id).success) return GONE;
    const now = await clockNow();
    const kept = await withClient(access, (tx) => keepOwnTheme(tx, access, access.user.name, id, values.data, now));
    revalidatePath(`/c/${access.seat.slug}/heard`, "layout");
    if (kept === "missing") return GONE;
    if (kept === "taken")
      return {
        ok: false,
        message: "There is a theme of this name.",
        fields: { name: "There is a theme of this name." },
      };
    if (kept === "too many")
      return { ok: false, message: `${MOST_OWN} themes of your own are the most. Remove one first.` };
    return { ok: true, message: "Saved. Everything is read again for it." };
  },
);

export const removeTheme = action(
  atClientWith("set up", "whole client", "see heard"),
  [text],
  async (access, id): Promise<ActionResult> => {
    if (!z.uuid().safeParse(id).success) return GONE;
    const now = await clockNow();
    const isDone = await withClient(access, (tx) => dropOwnTheme(tx, access, access.user.name, id, now));
    revalidatePath(`/c/${access.seat.slug}/heard`, "layout");
    return isDone ? { ok: true, message: "Removed." } : GONE;
  },
);
