"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { capital } from "@/core/time/say";
import { siteProblemWords } from "@/locales/operations";
import { requireAccess } from "@/platform/access";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { postReply, replyInput } from "./service";

/** Posts a reply to a review on its site. */
export async function reply(
  slug: string,
  reviewId: string,
  _before: ActionResult,
  form: FormData,
): Promise<ActionResult> {
  const access = await requireAccess(slug, "reply in public");
  const values = replyInput.safeParse({ words: formText(form, "words") });
  if (!values.success) return refusal(values.error);
  if (!z.uuid().safeParse(reviewId).success) return { ok: false, message: "There is no such review." };
  const refused = await postReply(access, access.user.name, reviewId, values.data.words);
  revalidatePath(`/c/${slug}`, "layout");
  return refused
    ? { ok: false, message: `${capital(siteProblemWords(refused.refused))}. Your words are kept; try again.` }
    : { ok: true, message: "Your reply stands in public." };
}
