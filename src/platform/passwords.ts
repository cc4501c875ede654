/** Password hashes as the sign-in library keeps them. It is loaded when the first one is made or checked. */

/** The hash of a password as the sign-in library keeps it. */
export async function hashPassword(password: string): Promise<string> {
  return (await import("better-auth/crypto")).hashPassword(password);
}

/** Whether a password belongs to a hash made by `hashPassword`. */
export async function verifyPassword(it: { hash: string; password: string }): Promise<boolean> {
  return (await import("better-auth/crypto")).verifyPassword(it);
}
