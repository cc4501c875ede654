"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { type Guard, TOO_ALIKE } from "@/core/replies/guards";
import { TONES } from "@/core/replies/sentences/bank";
import { capital } from "@/core/time/say";
import { recordAudit } from "@/features/audit";
import { changeClient, loadSetting } from "@/features/clients";
import { siteProblemWords } from "@/locales/operations";
import { type Access, requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { type DraftDesk, lookedOver, openDesk, redrafted } from "./drafts";
import { findReview, postReply, type Review, replyInput, setAside } from "./service";

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

/** Somebody who replies in public at a review of their client, with all that its drafts need; null where it is gone. */
async function atReview<T>(
  access: Access,
  reviewId: string,
  work: (desk: DraftDesk, review: Review) => T,
): Promise<T | null> {
  if (!z.uuid().safeParse(reviewId).success) return null;
  return withClient(access, async (tx) => {
    const review = await findReview(tx, access, reviewId);
    if (!review) return null;
    const desk = await openDesk(tx, access, await loadSetting(tx), [review], access.user.signature ?? "");
    return work(desk, review);
  });
}

/** As much of somebody's words as is looked at. */
const MOST_WORDS = 10_000;

export type NextDraft = { text: string; turn: number; alike: number } | null;

/** Another draft than the one that stands there; null where there is no other, or no such review. */
export async function redraft(slug: string, reviewId: string, turn: number, before: string): Promise<NextDraft> {
  const access = await requireAccess(slug, "reply in public");
  const read = z.object({ turn: z.int().min(0).max(10_000), before: z.string() }).safeParse({ turn, before });
  if (!read.success) return null;
  return atReview(access, reviewId, (desk, review) => {
    const next = redrafted(desk, review, read.data.turn, read.data.before.slice(0, MOST_WORDS));
    return next && { text: next.draft.text, turn: next.turn, alike: next.draft.alike };
  });
}

export type Warning = { guard: Guard; words: string };

/** What somebody's own words had better not say, and whether they are nearly those of a reply before. */
export async function lookOver(slug: string, reviewId: string, words: string): Promise<Warning[]> {
  const access = await requireAccess(slug, "reply in public");
  if (typeof words !== "string") return [];
  const seen = await atReview(access, reviewId, (desk, review) => lookedOver(desk, review, words.slice(0, MOST_WORDS)));
  if (!seen) return [];
  return seen.refusals.filter(({ guard }) => guard !== "repeats a reply" || seen.alike >= TOO_ALIKE);
}

/** Sets a review aside, or takes it up again. */
export async function putAside(
  slug: string,
  reviewId: string,
  _before: ActionResult,
  form: FormData,
): Promise<ActionResult> {
  const access = await requireAccess(slug, "reply in public");
  const aside = z.enum(["yes", "no"]).safeParse(formText(form, "aside"));
  if (!z.uuid().safeParse(reviewId).success || !aside.success)
    return { ok: false, message: "There is no such review." };
  const isAside = aside.data === "yes";
  const now = await clockNow();
  const isDone = await withClient(access, (tx) => setAside(tx, access, access.user.name, reviewId, isAside, now));
  revalidatePath(`/c/${slug}`, "layout");
  if (!isDone) return { ok: false, message: "It is answered already, or not there any more." };
  return { ok: true, message: isAside ? "Set aside." : "It waits for a reply again." };
}

/** Sets how drafts of replies sound. */
export async function changeReplyTone(slug: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "set up");
  const tone = z.enum(TONES, "Choose how they sound.").safeParse(formText(form, "tone"));
  if (!tone.success) return refusal(tone.error);
  const now = await clockNow();
  await withClient(access, async (tx) => {
    await changeClient(tx, access, { replyTone: tone.data });
    await recordAudit(tx, {
      clientId: access.clientId,
      at: now,
      who: access.user.name,
      action: "changed",
      subject: "client",
      subjectId: access.clientId,
      details: { name: "tone of replies" },
    });
  });
  revalidatePath(`/c/${slug}/heard`);
  return { ok: true, message: "Saved. Drafts sound like it from now on." };
}
