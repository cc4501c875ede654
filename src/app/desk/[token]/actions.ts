"use server";

import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { signPhoneIn } from "@/features/desk";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import type { ActionResult } from "@/ui/result";

/** Signs the phone in that opens a link, once. */
export async function openPhone(token: string, _before: ActionResult, _form: FormData): Promise<ActionResult> {
  const own = await headers();
  if (!(await isWelcomeClient(own))) return { ok: false, message: "Too many tries. Wait a minute, then try again." };
  if (typeof token !== "string" || !isToken(token) || !(await signPhoneIn(token, own))) {
    await mayGuessAgain(own);
    return { ok: false, message: "This link has been used or has run out. Add the phone again in Set-up." };
  }
  redirect("/");
}
