/**
 * Customers' links on a host of their own, as short as can be: `/<token><message>` for `/a/<token>.<message>`, whose
 * token has 14 letters, and `/<token>` for the standing link `/s/<token>`, whose token has 12.
 */

/** The path on the short host of one message's link. @example shortPath("k7q2m9wx4tzr3n", 0) // "/k7q2m9wx4tzr3n0" */
export function shortPath(token: string, message: number | null): string {
  return `/${token}${message ?? ""}`;
}

/** Where a path of the short host leads on the usual one; null for a path that is no short link. */
export function longPath(path: string): string | null {
  const standing = /^\/([0-9A-Za-z]{12})$/.exec(path);
  if (standing) return `/s/${standing[1]}`;
  const message = /^\/([0-9A-Za-z]{14})(\d{1,2})$/.exec(path);
  return message ? `/a/${message[1]}.${Number(message[2])}` : null;
}
