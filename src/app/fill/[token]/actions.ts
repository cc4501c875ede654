"use server";

import { headers } from "next/headers";
import { z } from "zod";
import { clientDraft } from "@/core/onboarding/draft";
import { draftOfLink, saveProposal } from "@/features/onboarding";
import { action, anyone, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { isWelcome } from "@/platform/publicLimit";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import type { ActionResult } from "@/ui/result";

/** Keeps what a client fills in by a link; with `isDone` they say that this is all. It counts for nothing by itself. */
export const keepFilled = action(
  anyone,
  [text, z.unknown(), z.boolean()],
  async (_nobody, token, values, isDone): Promise<ActionResult> => {
    const own = await headers();
    const now = await clockNow();
    if (!(await isWelcomeClient(own)))
      return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
    const draft = isToken(token) ? await draftOfLink(token, now) : null;
    if (!draft) {
      await mayGuessAgain(own);
      return { ok: false, message: "This link has expired. Ask your agency for a new one." };
    }
    if (!(await isWelcome(`fill ${draft.id}`, 120, 60)))
      return { ok: false, message: "That was a lot of changes. We’ll start saving again in a minute." };
    const parsed = clientDraft.safeParse(values);
    if (!parsed.success) return { ok: false, message: "One of your answers is too long to save." };
    await saveProposal(draft, parsed.data, isDone, now);
    return { ok: true };
  },
);
