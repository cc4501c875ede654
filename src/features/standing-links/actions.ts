"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { endLink, linkInput, makeLink } from "./service";

/** Makes a standing link. */
export const addStandingLink = action(
  atClientWith("set up", "whole client", "see asking"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const parsed = linkInput.safeParse({
      name: formText(form, "name"),
      branchId: formText(form, "branchId"),
      teamMemberId: formText(form, "teamMemberId"),
    });
    if (!parsed.success) return refusal(parsed.error);
    const now = await clockNow();
    const made = await withClient(access, (tx) => makeLink(tx, access, access.user.name, parsed.data, now));
    revalidatePath(`/c/${access.seat.slug}/asking/links`);
    return made
      ? { ok: true, message: "Link created." }
      : { ok: false, message: "This branch or team member has been removed. Reload the page." };
  },
);

/** Ends a standing link: its address leads nowhere from then on. */
export const endStandingLink = action(
  atClientWith("set up", "whole client", "see asking"),
  [text],
  async (access, id): Promise<Exclude<ActionResult, null>> => {
    const now = await clockNow();
    const ended =
      z.uuid().safeParse(id).success &&
      (await withClient(access, (tx) => endLink(tx, access, access.user.name, id, now)));
    revalidatePath(`/c/${access.seat.slug}/asking/links`);
    return ended
      ? { ok: true, message: "Ended. Answers it received stay." }
      : { ok: false, message: "It’s already ended." };
  },
);
