import { HOUR } from "@/core/time/zone";
import { SignedCookie } from "./signedCookie";

/** Looking as somebody else: who looks, as whom, and at which agency; for an hour at most. */

const cookie = new SignedCookie("estima_seen_as", HOUR);

type SeenAs = { userId: string; agencyId: string };

/** From the next page on `by` looks as somebody. */
export const beginSeenAs = (by: string, { userId, agencyId }: SeenAs) => cookie.set(by, userId, agencyId);

/** From the next page on they look as themselves. */
export const endSeenAs = () => cookie.end();

/** As whom `by` looks; null where they do not, or not any more. */
export async function readSeenAs(by: string): Promise<SeenAs | null> {
  const [who, userId, agencyId] = (await cookie.read()) ?? [];
  return who === by ? { userId, agencyId } : null;
}
