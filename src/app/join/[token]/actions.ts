"use server";

import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { z } from "zod";
import { typedText } from "@/core/words/typed";
import { AccountExists, acceptInvitation, findInvitation, passwordInput } from "@/features/accounts";
import { recordSignIn } from "@/features/audit";
import { signedIn } from "@/platform/access";
import { action, anyone, before, form, text } from "@/platform/action";
import { auth } from "@/platform/auth";
import { now as clockNow } from "@/platform/clock";
import { isToken, isWelcomeClient, mayGuessAgain } from "@/platform/publicLink";
import { type ActionResult, formText, refusal } from "@/ui/result";

const input = z.object({
  name: typedText(80, "Enter your name.", "the name"),
  password: passwordInput,
});

const GONE = {
  ok: false as const,
  message: "This invitation has been used or withdrawn, or has expired. Ask for a new one.",
};

/** Takes an invitation: as whoever is signed in with its address, or as somebody new with a password of their own. */
export const join = action(
  anyone,
  [text, before<ActionResult>(), form],
  async (_nobody, token, _before, form): Promise<ActionResult> => {
    const own = await headers();
    if (!(await isWelcomeClient(own)))
      return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
    const now = await clockNow();
    const link = isToken(token) ? await findInvitation(token, now) : null;
    if (!link) {
      await mayGuessAgain(own);
      return GONE;
    }
    const user = await signedIn();
    if (user) {
      if (user.email !== link.email)
        return { ok: false, message: `You’re signed in as ${user.email}. Sign out first, then open the link again.` };
      if (!(await acceptInvitation(token, { userId: user.id, email: user.email }, now))) return GONE;
      redirect("/");
    }
    const parsed = input.safeParse({ name: formText(form, "name"), password: formText(form, "password") });
    if (!parsed.success) return refusal(parsed.error);
    try {
      const userId = await acceptInvitation(token, parsed.data, now);
      if (!userId) return GONE;
      await (await auth()).api.signInEmail({
        body: { email: link.email, password: parsed.data.password },
        headers: own,
      });
      await recordSignIn(userId, now);
    } catch (error) {
      if (error instanceof AccountExists)
        return { ok: false, message: "This address already has an account. Sign in first, then open the link again." };
      throw error;
    }
    redirect("/");
  },
);
