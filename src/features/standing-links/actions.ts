"use server";

import { revalidatePath } from "next/cache";
import { z } from "zod";
import { requireAccess } from "@/platform/access";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { endLink, linkInput, makeLink } from "./service";

/** Makes a standing link. */
export async function addStandingLink(slug: string, _before: ActionResult, form: FormData): Promise<ActionResult> {
  const access = await requireAccess(slug, "set up");
  const parsed = linkInput.safeParse({
    name: formText(form, "name"),
    branchId: formText(form, "branchId"),
    teamMemberId: formText(form, "teamMemberId"),
  });
  if (!parsed.success) return refusal(parsed.error);
  const now = await clockNow();
  const made = await withClient(access, (tx) => makeLink(tx, access, access.user.name, parsed.data, now));
  revalidatePath(`/c/${slug}/asking/links`);
  return made
    ? { ok: true, message: "Made." }
    : { ok: false, message: "This branch or team member is not there any more. Reload the page." };
}

/** Ends a standing link: its address leads nowhere from then on. */
export async function endStandingLink(slug: string, id: string): Promise<Exclude<ActionResult, null>> {
  const access = await requireAccess(slug, "set up");
  const now = await clockNow();
  const ended =
    z.uuid().safeParse(id).success &&
    (await withClient(access, (tx) => endLink(tx, access, access.user.name, id, now)));
  revalidatePath(`/c/${slug}/asking/links`);
  return ended
    ? { ok: true, message: "Ended. What was answered there stays." }
    : { ok: false, message: "It has ended already." };
}
