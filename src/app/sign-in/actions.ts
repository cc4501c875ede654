"use server";

import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { z } from "zod";
import { typedEmail } from "@/core/words/typed";
import { takeSecondStep } from "@/features/accounts";
import { recordSignIn } from "@/features/audit";
import { unlockDigits } from "@/features/desk";
import { demoSeat } from "@/features/navigation";
import { action, anyone, before, form } from "@/platform/action";
import { auth, isSignInRefusal } from "@/platform/auth";
import { clientAddressOf } from "@/platform/clientAddress";
import { now as clockNow } from "@/platform/clock";
import { forgetHits, isWelcome } from "@/platform/publicLimit";
import { type ActionResult, formText, refusal } from "@/ui/result";

const credentials = z.object({
  email: typedEmail,
  password: z.string().min(1, "Enter your password.").max(200, "That’s too long for a password."),
});

/**
 * Signs in with email and password. Eight tries a minute for an account from one address, and forty from one address
 * for all: wrong tries of others lock nobody out. What was wrong is not told apart.
 */
export const signIn = action(
  anyone,
  [before<ActionResult>(), form],
  async (_nobody, _before, form): Promise<ActionResult> => {
    const parsed = credentials.safeParse({ email: formText(form, "email"), password: formText(form, "password") });
    if (!parsed.success) return refusal(parsed.error);
    return enter(parsed.data.email, parsed.data.password);
  },
);

/** Takes one of the demo's seats. Only in demo mode. */
export const takeSeat = action(
  anyone,
  [before<ActionResult>(), form],
  async (_nobody, _before, form): Promise<ActionResult> => {
    const seat = demoSeat(formText(form, "seat"));
    if (!seat) return { ok: false, message: "There’s no such demo account." };
    return enter(seat.email, seat.password, false);
  },
);

/** Notes that someone signed in; digits of theirs that a shared phone had locked count again. */
async function noteSignIn(userId: string): Promise<void> {
  await recordSignIn(userId, await clockNow());
  await unlockDigits(userId);
}

async function enter(email: string, password: string, limited = true): Promise<ActionResult> {
  const own = await headers();
  const client = clientAddressOf(own) ?? "unknown";
  const pair = `sign-in ${client} ${email}`;
  if (limited && !((await isWelcome(`sign-in ${client}`, 40, 60)) && (await isWelcome(pair, 8, 60))))
    return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
  let isHalf = false;
  try {
    const signedIn = await (await auth()).api.signInEmail({ body: { email, password }, headers: own });
    await forgetHits(pair, 8, 60);
    // With a second step the library gives no session yet.
    isHalf = "twoFactorRedirect" in signedIn;
    if ("user" in signedIn) await noteSignIn(signedIn.user.id);
  } catch (error) {
    if (isSignInRefusal(error)) return { ok: false, message: "That email and password don’t match." };
    throw error;
  }
  redirect(isHalf ? "/sign-in/code" : "/");
}

/** The second step: a code of the app, or one to fall back on. Few tries, then the password is asked for again. */
export const giveCode = action(
  anyone,
  [before<ActionResult>(), form],
  async (_nobody, _before, form): Promise<ActionResult> => {
    const own = await headers();
    const client = clientAddressOf(own) ?? "unknown";
    if (!(await isWelcome(`second step ${client}`, 10, 60)))
      return { ok: false, message: "Too many attempts. Wait a minute, then try again." };
    const code = z.string().min(6).max(40).safeParse(formText(form, "code").trim());
    const done = code.success ? await takeSecondStep(code.data, formText(form, "trust") === "yes", own) : null;
    if (!done)
      return {
        ok: false,
        message: "That code is wrong or has expired.",
        fields: { code: "That code is wrong or has expired. After a few attempts, you’ll need to sign in again." },
      };
    await noteSignIn(done.userId);
    redirect("/");
  },
);
