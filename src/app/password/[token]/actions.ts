"use server";

import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { choosePassword, passwordInput } from "@/features/accounts";
import { action, anyone, before, form, text } from "@/platform/action";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { type ActionResult, formText } from "@/ui/result";

/** Sets the password of whoever the link was mailed to; sessions opened with the old one end. */
export const choose = action(
  anyone,
  [text, before<ActionResult>(), form],
  async (_nobody, token, _before, form): Promise<ActionResult> => {
    const own = await headers();
    if (!(await isWelcomeClient(own)))
      return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
    const password = passwordInput.safeParse(formText(form, "password"));
    if (!password.success) {
      const { message } = password.error.issues[0];
      return { ok: false, message, fields: { password: message } };
    }
    if (!isToken(token) || !(await choosePassword(token, password.data))) {
      await mayGuessAgain(own);
      return { ok: false, message: "This link has been used or has expired. Ask for a new one." };
    }
    redirect("/sign-in?chosen=1");
  },
);
