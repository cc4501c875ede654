"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { loadSetting } from "@/features/clients";
import { sharedPhone } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { beginAtPhone } from "@/platform/atPhone";
import { now as clockNow } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import { isWelcome } from "@/platform/publicLimit";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { addPhone, codeInput, isDeskCode, phoneInput, removePhone } from "./service";

type Done = Exclude<ActionResult, null>;

export type PhoneMade = ActionResult | { ok: true; link: string };

/** Adds a shared phone and gives the link that signs it in. */
export const makePhone = action(
  atClientWith("set up"),
  [before<PhoneMade>(), form],
  async (access, _before, form): Promise<PhoneMade> => {
    const parsed = phoneInput.safeParse({
      name: formText(form, "name"),
      branchId: formText(form, "branchId"),
      days: formText(form, "days"),
    });
    if (!parsed.success) return refusal(parsed.error);
    const { branches } = await withClient(access, loadSetting);
    if (parsed.data.branchId && !branches.some(({ id }) => id === parsed.data.branchId))
      return { ok: false, message: "This branch is not there any more. Reload the page." };
    const token = await addPhone(access, access.user.name, parsed.data, await clockNow());
    revalidatePath(`/c/${access.seat.slug}/set-up/phones`);
    return { ok: true, link: `${environment().APP_URL}/desk/${token}` };
  },
);

/** Takes a phone's access away at once. */
export const endPhone = action(atClientWith("set up"), [text], async (access, id): Promise<Done> => {
  const isGone =
    !z.uuid().safeParse(id).success || !(await removePhone(access, access.user.name, id, await clockNow()));
  revalidatePath(`/c/${access.seat.slug}/set-up/phones`);
  return isGone ? { ok: false, message: "It is gone already." } : { ok: true, message: "Signed out, at once." };
});

/** Says on a shared phone who one is, by four digits: for ten minutes it is theirs. */
export const sayWho = action(
  atClientWith("ask"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const phone = await sharedPhone();
    if (!phone) return { ok: false, message: "This is no shared phone." };
    const userId = z.string().max(64).catch("").parse(formText(form, "who"));
    const code = codeInput.safeParse(formText(form, "code"));
    const wrong: Done = {
      ok: false,
      message: "These are not the digits.",
      fields: { code: "These are not the digits." },
    };
    if (!code.success) return wrong;
    if (!(await isWelcome(`desk code ${phone.userId} ${userId}`, 5, 900)))
      return { ok: false, message: "Too many tries. Wait a quarter of an hour." };
    if (!(await isDeskCode(access, userId, code.data))) return wrong;
    await beginAtPhone(phone.sessionId, userId);
    redirect("/");
  },
);
