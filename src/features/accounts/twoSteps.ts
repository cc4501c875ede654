import QRCode from "qrcode";
import { auth, isSignInRefusal } from "@/platform/auth";
import { isWelcome } from "@/platform/publicLimit";

/**
 * A second step of the sign-in, by an app that shows codes (TOTP, RFC 6238) and by codes to fall back on: the sign-in
 * library's plug-in does it, here stand its words.
 */

export type Preparation = {
  /** The picture that the app reads, as SVG. */
  picture: string;
  /** The same as letters, for typing. */
  key: string;
  /** Each works once in place of a code. */
  recoveryCodes: string[];
};

/** Prepares the second step; it counts once a code of the app was given. Null for a wrong password. */
export async function prepareTwoSteps(password: string, headers: Headers): Promise<Preparation | null> {
  const made = await orNull((await auth()).api.enableTwoFactor({ body: { password, method: "totp" }, headers }));
  if (!made || !("totpURI" in made)) return null;
  const key = new URL(made.totpURI).searchParams.get("secret") ?? "";
  const picture = await QRCode.toString(made.totpURI, { type: "svg", margin: 1, errorCorrectionLevel: "M" });
  return { picture, key, recoveryCodes: made.backupCodes };
}

/** Takes a code of the app: the second step counts from now on. */
export async function confirmTwoSteps(code: string, headers: Headers): Promise<boolean> {
  const done = await orNull((await auth()).api.verifyTOTP({ body: { code }, headers }));
  return done !== null && (await isFirstUse(done.user.id, code));
}

/** A code is good once (RFC 6238, section 5.2): for as long as the library would take it, nobody enters with it again. */
function isFirstUse(userId: string, code: string): Promise<boolean> {
  return isWelcome(`code of ${userId} ${code}`, 1, 120);
}

/** Signs in without a second step again. False for a wrong password. */
export async function endTwoSteps(password: string, headers: Headers): Promise<boolean> {
  return (await orNull((await auth()).api.disableTwoFactor({ body: { password }, headers }))) !== null;
}

/** New codes to fall back on, in place of those before. Null for a wrong password. */
export async function newRecoveryCodes(password: string, headers: Headers): Promise<string[] | null> {
  return (await orNull((await auth()).api.generateBackupCodes({ body: { password }, headers })))?.backupCodes ?? null;
}

/** The second step itself: a code of the app, or one to fall back on. Gives who signed in, or null. */
export async function takeSecondStep(
  typed: string,
  trustDevice: boolean,
  headers: Headers,
): Promise<{ userId: string } | null> {
  const code = typed.replace(/\s/g, "");
  const isOfApp = /^\d{6}$/.test(code);
  const done = isOfApp
    ? await orNull((await auth()).api.verifyTOTP({ body: { code, trustDevice }, headers }))
    : await orNull((await auth()).api.verifyBackupCode({ body: { code, trustDevice }, headers }));
  if (!done) return null;
  if (isOfApp && !(await isFirstUse(done.user.id, code))) {
    const { internalAdapter } = await (await auth()).$context;
    if (done.token) await internalAdapter.deleteSession(done.token);
    return null;
  }
  return { userId: done.user.id };
}

/** What the library answers; null where it refuses. */
async function orNull<T>(answer: Promise<T>): Promise<T | null> {
  try {
    return await answer;
  } catch (error) {
    if (isSignInRefusal(error)) return null;
    throw error;
  }
}
