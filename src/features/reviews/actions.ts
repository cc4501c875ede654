"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { may } from "@/core/access/permissions";
import { type Guard, TOO_ALIKE } from "@/core/replies/guards";
import { TONES } from "@/core/replies/sentences/bank";
import { capital, sayWhen } from "@/core/time/say";
import { recordAudit } from "@/features/audit";
import { changeClient, loadSetting } from "@/features/clients";
import { siteProblemWords } from "@/locales/operations";
import type { Access } from "@/platform/access";
import { action, atClientWith, before, form, readAction, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { setWriter } from "./answered";
import { type DraftDesk, lookedOver, openDesk, redrafted } from "./drafts";
import { draftForApproval, dropReply, markPosted, type Posted, postReply, replyInput, takeDownReply } from "./replies";
import { countUse, filledSaved, listSaved } from "./saved";
import { findReview, type Review, setAside } from "./service";
import { deleteReviewView, MOST_VIEWS, NARROWINGS, saveReviewView, viewQuery } from "./views";

const NO_REVIEW: ActionResult = { ok: false, message: "This review no longer exists." };

/** What came of a reply, in words. */
function resultOf(posted: Posted | null, zone: string, now: number, done: string): ActionResult {
  if (!posted || posted.kind === "posted") return { ok: true, message: done };
  if (posted.kind === "later")
    return {
      ok: true,
      message: `${capital(siteProblemWords(posted.problem))}. Your reply is saved, and we’ll try again ${sayWhen(zone, posted.at, now)}.`,
    };
  if (posted.kind === "meanwhile")
    return {
      ok: false,
      message: `${posted.who ?? "Someone"} has just replied: “${posted.words.slice(0, 200)}” Your words are still here.`,
    };
  return { ok: false, message: `${capital(siteProblemWords(posted.problem))}. Your draft is safe; try again.` };
}

/** Posts a reply to a review on its site, or hands it in for approval where somebody may only draft. */
export const reply = action(
  atClientWith("draft replies"),
  [text, before<ActionResult>(), form],
  async (access, reviewId, _before, form): Promise<ActionResult> => {
    const values = replyInput.safeParse({ words: formText(form, "words"), seen: formText(form, "seen") });
    if (!values.success) return refusal(values.error);
    if (!z.uuid().safeParse(reviewId).success) return NO_REVIEW;
    const { words, seen } = values.data;
    const now = await clockNow();
    const who = access.user.name;
    const deed = formText(form, "deed");
    let result: ActionResult;
    if (!may(access.seat, "reply in public")) {
      const drafted = await withClient(access, (tx) => draftForApproval(tx, access, who, reviewId, words, seen, now));
      result = resultOf(drafted, access.seat.zone, now, "Sent for approval. It’ll be posted once someone approves it.");
    } else if (deed === "posted by hand") {
      const marked = await withClient(access, (tx) => markPosted(tx, access, who, reviewId, words, now));
      result = resultOf(marked, access.seat.zone, now, "Marked as posted.");
    } else {
      result = resultOf(
        await postReply(access, who, reviewId, words, seen),
        access.seat.zone,
        now,
        "Your reply is live.",
      );
    }
    const saved = z.uuid().safeParse(formText(form, "saved"));
    if (result?.ok && saved.success)
      await withClient(access, (tx) => countUse(tx, access, access.user.id, saved.data, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return result;
  },
);

/** Lets a reply go that waits for approval or was planned by a rule. */
export const drop = action(atClientWith("reply in public"), [text], async (access, reviewId): Promise<ActionResult> => {
  if (!z.uuid().safeParse(reviewId).success) return NO_REVIEW;
  const now = await clockNow();
  const isDone = await withClient(access, (tx) => dropReply(tx, access, access.user.name, reviewId, now));
  revalidatePath(`/c/${access.seat.slug}`, "layout");
  return isDone
    ? { ok: true, message: "It won’t be posted. The review is waiting for a reply again." }
    : { ok: false, message: "Too late: it’s already on its way, or has been removed." };
});

/** Takes a reply down from its site. */
export const takeDown = action(
  atClientWith("reply in public"),
  [text],
  async (access, reviewId): Promise<ActionResult> => {
    if (!z.uuid().safeParse(reviewId).success) return NO_REVIEW;
    const now = await clockNow();
    const taken = await takeDownReply(access, access.user.name, reviewId);
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return resultOf(taken, access.seat.zone, now, "The reply has been taken down.");
  },
);

/** Somebody who writes replies at a review of their client, with all that its drafts need; null where it is gone. */
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
export const redraft = readAction(
  atClientWith("draft replies"),
  [text, z.number(), text],
  async (access, reviewId, turn, before): Promise<NextDraft> => {
    const read = z.object({ turn: z.int().min(0).max(10_000), before: z.string() }).safeParse({ turn, before });
    if (!read.success) return null;
    return atReview(access, reviewId, (desk, review) => {
      const next = redrafted(desk, review, read.data.turn, read.data.before.slice(0, MOST_WORDS));
      return next && { text: next.draft.text, turn: next.turn, alike: next.draft.alike };
    });
  },
  null,
);

export type Warning = { guard: Guard; words: string };

/** What somebody's own words had better not say, and whether they are nearly those of a reply before. */
export const lookOver = readAction(
  atClientWith("draft replies"),
  [text, text],
  async (access, reviewId, words): Promise<Warning[]> => {
    const seen = await atReview(access, reviewId, (desk, review) =>
      lookedOver(desk, review, words.slice(0, MOST_WORDS)),
    );
    if (!seen) return [];
    return seen.refusals.filter(({ guard }) => guard !== "repeats a reply" || seen.alike >= TOO_ALIKE);
  },
  [],
);

/** Sets a review aside, or takes it up again. */
export const putAside = action(
  atClientWith("reply in public"),
  [text, before<ActionResult>(), form],
  async (access, reviewId, _before, form): Promise<ActionResult> => {
    const aside = z.enum(["yes", "no"]).safeParse(formText(form, "aside"));
    if (!z.uuid().safeParse(reviewId).success || !aside.success)
      return { ok: false, message: "This review no longer exists." };
    const isAside = aside.data === "yes";
    const now = await clockNow();
    const isDone = await withClient(access, (tx) => setAside(tx, access, access.user.name, reviewId, isAside, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!isDone) return { ok: false, message: "It’s already been answered, or no longer exists." };
    return { ok: true, message: isAside ? "Set aside." : "Back in the waiting list." };
  },
);

/** Sets how drafts of replies sound. */
export const changeReplyTone = action(
  atClientWith("set up", "whole client", "see heard"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const tone = z.enum(TONES, "Choose a tone.").safeParse(formText(form, "tone"));
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
    revalidatePath(`/c/${access.seat.slug}/heard`);
    return { ok: true, message: "Saved. New drafts will use this tone." };
  },
);

export type SavedForReview = {
  id: string;
  purpose: string;
  words: string;
  uses: number;
  of: "agency" | "client" | "own";
  refused: Warning[];
};

/** Saved replies as they would stand under a review: its language and what the guards let pass first, then by use. */
export const savedFor = readAction(
  atClientWith("draft replies"),
  [text],
  async (access, reviewId): Promise<SavedForReview[]> => {
    const saved = await withClient(access, (tx) => listSaved(tx, access, access.user.id));
    const filled = await atReview(access, reviewId, (desk, review) => filledSaved(desk, review, saved));
    return (filled ?? []).map(({ saved: { id, purpose, uses, of }, words, refusals }) => ({
      id,
      purpose,
      words,
      uses,
      of,
      refused: refusals,
    }));
  },
  [],
);

/** Says that a review is the same person's as a private note, or that it is not. */
export const sayWhoWrote = action(
  atClientWith("answer concerns"),
  [text, text.nullable()],
  async (access, reviewId, personId): Promise<ActionResult> => {
    const read = z.object({ reviewId: z.uuid(), personId: z.uuid().nullable() }).safeParse({ reviewId, personId });
    if (!read.success) return NO_REVIEW;
    const now = await clockNow();
    const isDone = await withClient(access, (tx) =>
      setWriter(tx, access, access.user.name, read.data.reviewId, read.data.personId, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (!isDone) return NO_REVIEW;
    return {
      ok: true,
      message: personId ? "Linked: these are now by the same person." : "Unlinked: we no longer say who wrote it.",
    };
  },
);

/** Keeps what all reviews are narrowed down to as a named view. */
export const saveView = action(
  atClientWith("draft replies", "whole client"),
  [text, before<ActionResult>(), form],
  async (access, shown, _before, form): Promise<ActionResult> => {
    const name = formText(form, "name").trim();
    const wrong = "Give it a name under 60 characters.";
    if (!name || name.length > 60) return { ok: false, message: wrong, fields: { name: wrong } };
    const read = new URLSearchParams(z.string().catch("").parse(shown).slice(0, 1000));
    const query = viewQuery(Object.fromEntries(NARROWINGS.map((key) => [key, read.get(key)])));
    if (!query) return { ok: false, message: "Choose a filter first." };
    const isKept = await withClient(access, (tx) => saveReviewView(tx, access, access.user.name, name, query));
    revalidatePath(`/c/${access.seat.slug}/heard`);
    return isKept
      ? { ok: true, message: "Saved as a view." }
      : { ok: false, message: `${MOST_VIEWS} views is the limit. Delete one first.` };
  },
);

/** Forgets a named view. */
export const deleteView = action(
  atClientWith("draft replies", "whole client"),
  [text],
  async (access, id): Promise<ActionResult> => {
    const isDone =
      z.uuid().safeParse(id).success && (await withClient(access, (tx) => deleteReviewView(tx, access, id)));
    revalidatePath(`/c/${access.seat.slug}/heard`);
    return isDone ? { ok: true, message: "Deleted." } : { ok: false, message: "It no longer exists." };
  },
);

/** Counts that a saved reply was used in a conversation. */
export const noteSavedUse = action(atClientWith("answer concerns"), [text], async (access, id): Promise<void> => {
  if (!z.uuid().safeParse(id).success) return;
  const now = await clockNow();
  await withClient(access, (tx) => countUse(tx, access, access.user.id, id, now));
});
