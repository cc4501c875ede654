"use server";

import { revalidatePath } from "next/cache";
import { redirect } from "next/navigation";
import { z } from "zod";
import { loadProfile } from "@/features/accounts";
import { loadSetting, sendAccountMail } from "@/features/clients";
import { type Access, sharedPhone } from "@/platform/access";
import { action, atClientWith, before, form, text } from "@/platform/action";
import { beginAtPhone } from "@/platform/atPhone";
import { now as clockNow, realTime } from "@/platform/clock";
import { withClient } from "@/platform/database";
import { environment } from "@/platform/environment";
import { isWelcome } from "@/platform/publicLimit";
import { type ActionResult, formText, refusal } from "@/ui/result";
import { addPhone, checkDigits, codeInput, phoneInput, removePhone } from "./service";

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
      return { ok: false, message: "This branch has been removed. Reload the page." };
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
  return isGone ? { ok: false, message: "It’s already been removed." } : { ok: true, message: "Signed out." };
});

const WRONG_DIGITS: Done = {
  ok: false,
  message: "That PIN isn’t right.",
  fields: { code: "That PIN isn’t right." },
};
const LOCKED: Done = {
  ok: false,
  message: "Your PIN is locked on this phone. Sign in to Estima somewhere else first, and it will work here again.",
};

/** Says on a shared phone who one is, by four digits: for ten minutes their name stands beside what is done there. */
export const sayWho = action(
  atClientWith("ask"),
  [before<ActionResult>(), form],
  async (access, _before, form): Promise<ActionResult> => {
    const phone = await sharedPhone();
    if (!phone) return { ok: false, message: "This isn’t a shared phone." };
    const userId = z.string().max(64).catch("").parse(formText(form, "who"));
    const code = codeInput.safeParse(formText(form, "code"));
    if (!code.success) return WRONG_DIGITS;
    if (!(await isWelcome(`desk digits ${phone.userId}`, 30, 900)))
      return { ok: false, message: "Too many attempts. Wait 15 minutes." };
    const said = await checkDigits(access, phone.userId, userId, code.data);
    if (said === "wrong") return WRONG_DIGITS;
    if (said === "locked now") await mailLocked(access, userId);
    if (said !== "right") return LOCKED;
    await beginAtPhone(phone.sessionId, userId);
    redirect("/");
  },
);

/** Tells the person whose digits were tried that they are locked. */
async function mailLocked({ seat, user }: Access, userId: string): Promise<void> {
  const to = await loadProfile(userId);
  await sendAccountMail(
    `digits-locked-${userId}-${realTime()}`,
    to,
    { name: seat.agency, colour: seat.agencyColour, senderEmail: "" },
    { code: "digits locked", phone: user.phone ?? user.name, client: seat.name },
    `${environment().APP_URL}/account`,
  );
}
