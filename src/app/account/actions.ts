"use server";

import { revalidatePath } from "next/cache";
import { headers } from "next/headers";
import { redirect } from "next/navigation";
import { z } from "zod";
import {
  addressInput,
  askForAddress,
  confirmAddress,
  confirmTwoSteps,
  endSession,
  endTwoSteps,
  isOwnPassword,
  newRecoveryCodes,
  type Preparation,
  passwordInput,
  prepareTwoSteps,
  profileInput,
  saveProfile,
} from "@/features/accounts";
import { codeInput, setDeskCode } from "@/features/desk";
import { action, before, form, ownAccount, text } from "@/platform/action";
import { auth, isSignInRefusal } from "@/platform/auth";
import { isWelcome } from "@/platform/publicLimit";
import { isToken } from "@/platform/publicLink";
import { type ActionResult, formText, refusal } from "@/ui/result";

type Done = Exclude<ActionResult, null>;

const TOO_MANY: Done = { ok: false, message: "Too many attempts. Wait a minute, then try again." };
const WRONG: Done = {
  ok: false,
  message: "That isn’t your password.",
  fields: { password: "That isn’t your password." },
};

const mayTry = (userId: string) => isWelcome(`own account ${userId}`, 10, 60);

/** Saves what somebody says of themselves. */
export const saveOwn = action(
  ownAccount,
  [before<ActionResult>(), form],
  async ({ user }, _before, form): Promise<ActionResult> => {
    const parsed = profileInput.safeParse({
      name: formText(form, "name"),
      replyName: formText(form, "replyName"),
      phone: formText(form, "phone"),
    });
    if (!parsed.success) return refusal(parsed.error);
    await saveProfile(user.id, parsed.data);
    revalidatePath("/", "layout");
    return { ok: true, message: "Saved." };
  },
);

/** Asks for another address to sign in with: it counts once the link that goes there was followed. */
export const changeAddress = action(
  ownAccount,
  [before<ActionResult>(), form],
  async ({ user }, _before, form): Promise<ActionResult> => {
    if (!(await mayTry(user.id))) return TOO_MANY;
    const parsed = addressInput.safeParse({ email: formText(form, "email") });
    if (!parsed.success) return refusal(parsed.error);
    const { email } = parsed.data;
    if (!(await isOwnPassword(formText(form, "password"), await headers()))) return WRONG;
    if (email === user.email) {
      const message = "You already sign in with this address.";
      return { ok: false, message, fields: { email: message } };
    }
    await askForAddress(user, email);
    return { ok: true, message: `We’ve sent a link to ${email}. Nothing changes until you use it.` };
  },
);

/** Confirms the address that a link was mailed to. */
export const confirmOwnAddress = action(ownAccount, [text], async ({ user }, token): Promise<ActionResult> => {
  if (!(await mayTry(user.id))) return TOO_MANY;
  if (!isToken(token) || !(await confirmAddress(user, token)))
    return { ok: false, message: "This link has been used, has expired, or is someone else’s." };
  revalidatePath("/", "layout");
  redirect("/account?changed=address");
});

/** Chooses another password; every other device is signed out. */
export const changePassword = action(
  ownAccount,
  [before<ActionResult>(), form],
  async ({ user }, _before, form): Promise<ActionResult> => {
    if (!(await mayTry(user.id))) return TOO_MANY;
    const password = passwordInput.safeParse(formText(form, "newPassword"));
    if (!password.success) {
      const { message } = password.error.issues[0];
      return { ok: false, message, fields: { newPassword: message } };
    }
    try {
      await (await auth()).api.changePassword({
        body: {
          currentPassword: formText(form, "password").slice(0, 200),
          newPassword: password.data,
          revokeOtherSessions: true,
        },
        headers: await headers(),
      });
    } catch (error) {
      if (isSignInRefusal(error)) return WRONG;
      throw error;
    }
    revalidatePath("/account");
    return { ok: true, message: "Saved. All your other devices have been signed out." };
  },
);

/** Signs one device out. */
export const endOne = action(ownAccount, [text], async (session, id): Promise<Done> => {
  const wanted = z.string().max(64).catch("").parse(id);
  const ended = await endSession(session.user.id, wanted);
  if (ended && wanted === session.id) redirect("/sign-in");
  revalidatePath("/account");
  return ended
    ? { ok: true, message: "Signed out on that device." }
    : { ok: false, message: "That device is already signed out." };
});

/** What preparing the second step gives: what the app reads, and the codes to fall back on. */
export type Prepared = { refused: string } | ({ refused: null } & Preparation) | null;

/** Prepares the second step. Nothing counts before a code was given. */
export const prepare = action(
  ownAccount,
  [before<Prepared>(), form],
  async ({ user }, _before, form): Promise<Prepared> => {
    if (!(await mayTry(user.id))) return { refused: "Too many attempts. Wait a minute, then try again." };
    if (user.twoFactorEnabled) return { refused: "You already sign in with two steps. Reload the page." };
    const made = await prepareTwoSteps(formText(form, "password").slice(0, 200), await headers());
    return made ? { refused: null, ...made } : { refused: "That isn’t your password." };
  },
  { refused: "This page is out of date. Reload it and try again." },
);

/** The first code of the app: from now on it is asked for. */
export const confirmCode = action(
  ownAccount,
  [before<ActionResult>(), form],
  async ({ user }, _before, form): Promise<ActionResult> => {
    if (!(await mayTry(user.id))) return TOO_MANY;
    const code = formText(form, "code").replace(/\s/g, "");
    if (!/^\d{6}$/.test(code) || !(await confirmTwoSteps(code, await headers()))) {
      const message = "That code isn’t right. Use the one your app shows now.";
      return { ok: false, message, fields: { code: message } };
    }
    return { ok: true, message: "Done. You’ll sign in with two steps from now on." };
  },
);

/** Signs in with the password alone again. */
export const endSecondStep = action(
  ownAccount,
  [before<ActionResult>(), form],
  async ({ user }, _before, form): Promise<ActionResult> => {
    if (!(await mayTry(user.id))) return TOO_MANY;
    if (!(await endTwoSteps(formText(form, "password").slice(0, 200), await headers()))) return WRONG;
    revalidatePath("/account", "layout");
    return { ok: true, message: "Done. You’ll sign in with just your password." };
  },
);

export type Codes = { refused: string } | { refused: null; codes: string[] } | null;

/** Other codes to fall back on, in place of those before. */
export const renewCodes = action(
  ownAccount,
  [before<Codes>(), form],
  async ({ user }, _before, form): Promise<Codes> => {
    if (!(await mayTry(user.id))) return { refused: "Too many attempts. Wait a minute, then try again." };
    const codes = await newRecoveryCodes(formText(form, "password").slice(0, 200), await headers());
    return codes ? { refused: null, codes } : { refused: "That isn’t your password." };
  },
  { refused: "This page is out of date. Reload it and try again." },
);

/** Chooses the four digits for shared phones; empty for none. */
export const chooseCode = action(
  ownAccount,
  [before<ActionResult>(), form],
  async ({ user }, _before, form): Promise<ActionResult> => {
    if (!(await mayTry(user.id))) return TOO_MANY;
    const typed = formText(form, "code");
    const refused = (message: string): ActionResult => ({ ok: false, message, fields: { code: message } });
    if (!(await isOwnPassword(formText(form, "password"), await headers()))) return WRONG;
    if (typed === "") {
      await setDeskCode(user.id, null);
      revalidatePath("/account");
      return { ok: true, message: "Your PIN has been removed." };
    }
    const code = codeInput.safeParse(typed);
    if (!code.success) return refused("Enter four digits for your PIN.");
    if (!(await setDeskCode(user.id, code.data))) return refused("That’s too easy to guess. Choose another PIN.");
    revalidatePath("/account");
    return { ok: true, message: "Saved." };
  },
);
