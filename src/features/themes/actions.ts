"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { typedText } from "@/core/words/typed";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { dropOwnTheme, keepOwnTheme, MOST_OWN } from "./own";

const GONE: ActionResult = { ok: false, message: "This theme no longer exists." };

const input = z.object({
  name: typedText(40, "Enter a name for the theme."),
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
    .refine((words) => words.length > 0, "Enter at least one word people use for it.")
    .refine(
      (words) => words.length <= 40 && words.every((word) => word.length <= 40),
      "Up to 40 words of up to 40 letters.",
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
        message: "There’s already a theme with this name.",
        fields: { name: "There’s already a theme with this name." },
      };
    if (kept === "too many")
      return { ok: false, message: `${MOST_OWN} is the limit for your own themes. Remove one first.` };
    return { ok: true, message: "Saved. We’re going through everything again to find it." };
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
