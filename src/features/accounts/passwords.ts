import { MINUTE } from "@/core/time/zone";
import { sendAccountMail } from "@/features/clients";
import { auth, isSignInRefusal } from "@/platform/auth";
import { realTime } from "@/platform/clock";
import { environment } from "@/platform/environment";
import { newToken } from "@/platform/secrets";

/** A forgotten password: a link by mail, good once and for half an hour, that lets its owner choose another. */

export const LINK_MINUTES = 30;

/**
 * Mails a link to whoever signs in with this address. Says nothing about whether anybody does: it takes about as long
 * for an address that nobody has.
 */
export async function mailPasswordLink(email: string): Promise<void> {
  const { internalAdapter } = await (await auth()).$context;
  const found = await internalAdapter.findUserByEmail(email, { includeAccounts: false });
  const token = newToken(32);
  if (!found) return;
  await internalAdapter.createVerificationValue({
    value: found.user.id,
    identifier: `reset-password:${token}`,
    expiresAt: new Date(realTime() + LINK_MINUTES * MINUTE),
  });
  await sendAccountMail(
    token.slice(0, 12),
    found.user,
    null,
    { code: "password", minutes: LINK_MINUTES },
    `${environment().APP_URL}/password/${token}`,
  );
}

/** Sets the password of whoever a link was mailed to; false for a link that has been used, has run out or never was. */
export async function choosePassword(token: string, password: string): Promise<boolean> {
  try {
    await (await auth()).api.resetPassword({ body: { token, newPassword: password } });
    return true;
  } catch (error) {
    if (isSignInRefusal(error)) return false;
    throw error;
  }
}

/** Whether this is the password of the person whose session these headers carry. */
export async function isOwnPassword(password: string, headers: Headers): Promise<boolean> {
  try {
    await (await auth()).api.verifyPassword({ body: { password: password.slice(0, 200) }, headers });
    return true;
  } catch (error) {
    if (isSignInRefusal(error)) return false;
    throw error;
  }
}
