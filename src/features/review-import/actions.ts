"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { REVIEW_COLUMNS, type ReviewMatching, readRating } from "@/core/reviews/importRows";
import { dayText } from "@/core/time/range";
import { dayNumber, fromLocal, parseDay, toLocal } from "@/core/time/zone";
import { typedText } from "@/core/words/typed";
import { loadSetting } from "@/features/clients";
import { Unreadable } from "@/features/intake";
import { fileSentence } from "@/locales/intake";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { changeMatching, keepImport, receiveReviews, typeReview, undoImport, viewImport } from "./service";

const GONE: ActionResult = { ok: false, message: "It no longer exists. Import the file again." };
const MOST_BYTES = 5 * 1024 * 1024;
const isKey = (id: string) => z.uuid().safeParse(id).success;

/** Takes a file of reviews in, and leads to the look at it. */
export const bringReviews = action(
  atClientWith("set up", "whole client", "see heard"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const file = form instanceof FormData ? form.get("file") : null;
    const listingId = formText(form, "listing");
    if (!(file instanceof File) || file.size === 0) return { ok: false, message: "Choose a file first." };
    if (file.size > MOST_BYTES)
      return { ok: false, message: "The file is bigger than 5 MB. Split it and import the parts." };
    const now = await clockNow();
    const setting = await withClient(access, loadSetting);
    let id: string | null = null;
    try {
      id = await receiveReviews(
        access,
        {
          setting,
          listingId,
          name: file.name.replaceAll("\u0000", ""),
          bytes: new Uint8Array(await file.arrayBuffer()),
          who: access.user.name,
        },
        (work) => withClient(access, work),
        now,
      );
    } catch (error) {
      if (!(error instanceof Unreadable)) throw error;
      return { ok: false, message: fileSentence(error.problem) };
    }
    if (!id) return { ok: false, message: "Choose the page these reviews are from." };
    redirect(`/c/${access.seat.slug}/heard/bring-in/${id}`);
  },
);

/** Says what each column holds. */
export const matchReviewColumns = action(
  atClientWith("set up", "whole client", "see heard"),
  [text, before<ActionResult>(), form],
  async (access, id, _before, form): Promise<ActionResult> => {
    if (!isKey(id)) return GONE;
    const now = await clockNow();
    const isDone = await withClient(access, async (tx) => {
      const view = await viewImport(tx, access, id, now);
      if (!view?.table) return false;
      const matching: ReviewMatching = view.table.headers.map((_, index) =>
        z
          .enum(REVIEW_COLUMNS)
          .nullable()
          .catch(null)
          .parse(formText(form, `column-${index}`) || null),
      );
      for (const [index, column] of matching.entries())
        if (column && matching.indexOf(column) !== index) matching[index] = null;
      await changeMatching(tx, access, id, matching);
      return true;
    });
    revalidatePath(`/c/${access.seat.slug}/heard/bring-in/${id}`);
    return isDone ? { ok: true } : GONE;
  },
);

/** Keeps what was looked at. */
export const keepReviewsOf = action(
  atClientWith("set up", "whole client", "see heard"),
  [text],
  async (access, id): Promise<ActionResult> => {
    if (!isKey(id)) return GONE;
    const now = await clockNow();
    const kept = await withClient(access, (tx) => keepImport(tx, access, access.user.name, id, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return kept === null
      ? GONE
      : { ok: true, message: kept === 1 ? "One new review imported." : `${kept} new reviews imported.` };
  },
);

/** Takes back what an import brought. */
export const undoReviews = action(
  atClientWith("set up", "whole client", "see heard"),
  [text],
  async (access, id): Promise<ActionResult> => {
    if (!isKey(id)) return GONE;
    const now = await clockNow();
    const gone = await withClient(access, (tx) => undoImport(tx, access, access.user.name, id, now));
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    return gone === null
      ? { ok: false, message: "There’s nothing to undo." }
      : { ok: true, message: gone === 1 ? "Undone: one review removed." : `Undone: ${gone} reviews removed.` };
  },
);

const typed = z.object({
  listingId: z.uuid("Choose the page it’s from."),
  author: typedText(80, "Enter who wrote it."),
  rating: z
    .string()
    .refine((text) => readRating(text) !== null, "Enter the rating as shown there: 4, 8.5/10, recommended."),
  words: z.string().max(20_000),
  day: z.string().min(1, "Choose the date it was written.").pipe(dayText),
});

/** Keeps one review that somebody typed in. */
export const typeReviewIn = action(
  atClientWith("set up", "whole client", "see heard"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const values = typed.safeParse({
      listingId: formText(form, "listing"),
      author: formText(form, "author"),
      rating: formText(form, "rating"),
      words: formText(form, "words"),
      day: formText(form, "day"),
    });
    if (!values.success) return refusal(values.error);
    const now = await clockNow();
    const { zone } = access.seat;
    const { day, ...said } = values.data;
    if (parseDay(day) > dayNumber(toLocal(zone, now)))
      return { ok: false, message: "That date is in the future.", fields: { day: "That date is in the future." } };
    const writtenAt = Math.min(now, fromLocal(zone, parseDay(day) * 86_400_000 + 12 * 3_600_000));
    const done = await withClient(access, (tx) =>
      typeReview(tx, access, access.user.name, { ...said, writtenAt }, now),
    );
    revalidatePath(`/c/${access.seat.slug}`, "layout");
    if (done === "missing") return { ok: false, message: "This page has been removed, or is now connected." };
    return done === "known"
      ? { ok: false, message: "You already have this review." }
      : { ok: true, message: "Saved. It’s in the list now." };
  },
);
