/**
 * Whose request it is, as the web server wrote it down: requests that bring this header themselves have it replaced.
 */
export const CLIENT_HEADER = "x-estima-client";

/**
 * The address of whoever asked, for limits; null where no web server stands before that could know (in tests, while
 * developing).
 */
export function clientAddressOf(headers: Pick<Headers, "get">): string | null {
  return headers.get(CLIENT_HEADER)?.slice(0, 60) ?? null;
}
