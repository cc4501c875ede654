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

const TOO_MANY: Done = { ok: false, message: "Too many tries. Wait a minute, then try again." };
const WRONG: Done = {
  ok: false,
  message: "This is not your password.",
  fields: { password: "This is not your password." },
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
      const message = "You sign in with this address already.";
      return { ok: false, message, fields: { email: message } };
    }
    await askForAddress(user, email);
    return { ok: true, message: `A link is on its way to ${email}. Until you follow it, nothing changes.` };
  },
);

/** Confirms the address that a link was mailed to. */
export const confirmOwnAddress = action(ownAccount, [text], async ({ user }, token): Promise<ActionResult> => {
  if (!(await mayTry(user.id))) return TOO_MANY;
  if (!isToken(token) || !(await confirmAddress(user, token)))
    return { ok: false, message: "This link has been used, has run out, or is somebody else’s." };
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
    return { ok: true, message: "Saved. Every other device is signed out." };
  },
);

/** Signs one device out. */
export const endOne = action(ownAccount, [text], async (session, id): Promise<Done> => {
  const wanted = z.string().max(64).catch("").parse(id);
  const ended = await endSession(session.user.id, wanted);
  if (ended && wanted === session.id) redirect("/sign-in");
  revalidatePath("/account");
  return ended ? { ok: true, message: "Signed out there." } : { ok: false, message: "It is signed out already." };
});

/** What preparing the second step gives: what the app reads, and the codes to fall back on. */
export type Prepared = { refused: string } | ({ refused: null } & Preparation) | null;

/** Prepares the second step. Nothing counts before a code was given. */
export const prepare = action(
  ownAccount,
  [before<Prepared>(), form],
  async ({ user }, _before, form): Promise<Prepared> => {
    if (!(await mayTry(user.id))) return { refused: "Too many tries. Wait a minute, then try again." };
    if (user.twoFactorEnabled) return { refused: "You sign in with two steps already. Reload the page." };
    const made = await prepareTwoSteps(formText(form, "password").slice(0, 200), await headers());
    return made ? { refused: null, ...made } : { refused: "This is not your password." };
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
      const message = "This code does not fit. Take the one that the app shows now.";
      return { ok: false, message, fields: { code: message } };
    }
    return { ok: true, message: "From now on you sign in with two steps." };
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
    return { ok: true, message: "You sign in with your password alone." };
  },
);

export type Codes = { refused: string } | { refused: null; codes: string[] } | null;

/** Other codes to fall back on, in place of those before. */
export const renewCodes = action(
  ownAccount,
  [before<Codes>(), form],
  async ({ user }, _before, form): Promise<Codes> => {
    if (!(await mayTry(user.id))) return { refused: "Too many tries. Wait a minute, then try again." };
    const codes = await newRecoveryCodes(formText(form, "password").slice(0, 200), await headers());
    return codes ? { refused: null, codes } : { refused: "This is not your password." };
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
      return { ok: true, message: "You have no digits now." };
    }
    const code = codeInput.safeParse(typed);
    if (!code.success) return refused("Write four digits.");
    if (!(await setDeskCode(user.id, code.data))) return refused("Anybody would guess these. Choose others.");
    revalidatePath("/account");
    return { ok: true, message: "Saved." };
  },
);
