"use server";

import { revalidatePath } from "next/cache";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { confirmSender, readSenderLink } from "@/features/clients";
import { action, anyone, text } from "@/platform/action";
import { isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import type { ActionResult } from "@/ui/result";

/** Confirms the address that a link was mailed to. */
export const confirm = action(anyone, [text], async (_nobody, token): Promise<ActionResult> => {
  const own = await headers();
  if (!(await isWelcomeClient(own))) return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
  const claim = await readSenderLink(token);
  if (!claim) {
    await mayGuessAgain(own);
    return { ok: false, message: "This link has expired. You can send a new one from Set-up." };
  }
  if ((await confirmSender(claim)) === "taken")
    return {
      ok: false,
      message: "Another business already sends from this address. Choose a different one in Set-up.",
    };
  revalidatePath("/", "layout");
  redirect(`/sender/${token}`);
});
