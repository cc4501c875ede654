"use server";

import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { signPhoneIn } from "@/features/desk";
import { action, anyone, text } from "@/platform/action";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import type { ActionResult } from "@/ui/result";

/** Signs the phone in that opens a link, once. */
export const openPhone = action(anyone, [text], async (_nobody, token): Promise<ActionResult> => {
  const own = await headers();
  if (!(await isWelcomeClient(own))) return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
  if (!isToken(token) || !(await signPhoneIn(token, own))) {
    await mayGuessAgain(own);
    return { ok: false, message: "This link has been used or has expired. Add the phone again in Set-up." };
  }
  redirect("/");
});
