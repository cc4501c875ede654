"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { HIDDEN_REASONS } from "@/core/reviews/ownReviews";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText } from "@/ui/result";
import { answerOwnReview, hideOwnReview } from "./service";

const GONE = { ok: false as const, message: "This review no longer exists. Reload the page." };

/** Answers an own review on its public page; without words the answer is taken away. */
export const replyToOwnReview = action(
  atClientWith("reply in public"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const words = z.string().trim().max(4000, "Keep it under 4,000 characters.").safeParse(formText(form, "words"));
    if (!words.success) {
      const message = words.error.issues[0].message;
      return { ok: false, message, fields: { words: message } };
    }
    if (!z.uuid().safeParse(id).success) return GONE;
    const now = await clockNow();
    const kept = await withClient(access, (tx) =>
      answerOwnReview(tx, access, access.user.name, id, words.data || null, now, formText(form, "seen")),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!kept) return GONE;
    if (kept !== true)
      return {
        ok: false,
        message: kept.words
          ? `${kept.who} replied while you were writing: “${kept.words}”. Press again to replace it with yours.`
          : "Someone removed the reply while you were writing. Press again to show yours.",
      };
    return { ok: true, message: words.data ? "Your answer is on your page." : "Your answer has been removed." };
  },
);

/** Hides an own review for a named reason, or shows it again. */
export const hideReview = action(
  atClientWith("reply in public"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    const why = z.union([z.literal(""), z.enum(HIDDEN_REASONS)]).safeParse(formText(form, "why"));
    if (!why.success)
      return { ok: false, message: "Choose why it can’t be shown.", fields: { why: "Choose a reason." } };
    if (!z.uuid().safeParse(id).success) return GONE;
    const now = await clockNow();
    const kept = await withClient(access, (tx) =>
      hideOwnReview(tx, access, access.user.name, id, why.data || null, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!kept) return GONE;
    return {
      ok: true,
      message: why.data ? "It’s hidden, and your page counts it as hidden." : "It’s back on your page.",
    };
  },
);
