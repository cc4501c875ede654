import { MINUTE } from "@/core/time/zone";
import { SignedCookie } from "./signedCookie";

/** Who said on a shared phone who they are: good for ten minutes, and for that phone's session alone. */

const cookie = new SignedCookie("estima_at_phone", 10 * MINUTE);

export const beginAtPhone = (sessionId: string, userId: string) => cookie.set(sessionId, userId);

export const endAtPhone = () => cookie.end();

/** Whose identifier it is that holds for a session now; null for nobody's. */
export async function readAtPhone(sessionId: string): Promise<string | null> {
  const [session, userId] = (await cookie.read()) ?? [];
  return session === sessionId ? userId : null;
}
