import { RateLimiterMemory } from "rate-limiter-flexible";
import { clientAddressOf } from "./clientAddress";
import { environment } from "./environment";
import { isWelcome } from "./publicLimit";

/** Links that anybody may open who has them. What cannot be one of ours is told so before anything else is asked. */

/** Letters and digits only, as `newToken` makes them: nothing else reaches a database. */
export function isToken(text: unknown, least = 10, most = 40): text is string {
  return typeof text === "string" && text.length >= least && text.length <= most && /^[0-9A-Za-z]+$/.test(text);
}

const A_MINUTE = 60;
/** Requests of one address of any kind (a whole office may share one), and those that guess. */
const MOST_OF_CLIENT = 1200;
const MOST_GUESSES = 60;

/**
 * Whether whoever asks is still welcome at all: counted by their address alone, so that guessing links leaves no
 * trace of each guess.
 */
export async function isWelcomeClient(headers: Headers): Promise<boolean> {
  const client = clientAddressOf(headers);
  return client === null || isTown(client) || isWelcome(`client ${client}`, MOST_OF_CLIENT, A_MINUTE);
}

/** What `estima_follow_link` counts together with what it looks up, instead of each with a statement of its own. */
export type LinkLimits = {
  /** Whoever asks; null where that is not known. */
  client: string | null;
  /** How many requests of theirs are counted with this one. */
  hits: number;
  mostOfClient: number;
  /** How many of theirs that lead nowhere. */
  mostGuesses: number;
};

/** Requests of one address, as this process alone knows them. Above the limit they cost the database nothing. */
const ownCounts = new RateLimiterMemory({ points: MOST_OF_CLIENT, duration: A_MINUTE });
/** So many of them are told to the database at once: somebody who opens a page or two is not written down at all. */
const TOLD_AT_ONCE = 20;

/** How a request for a link is counted; null for one that is refused without asking the database. */
export async function linkLimitsOf(headers: Pick<Headers, "get">): Promise<LinkLimits | null> {
  const client = clientAddressOf(headers);
  const limits = { client, hits: 0, mostOfClient: MOST_OF_CLIENT, mostGuesses: MOST_GUESSES };
  if (client === null || isTown(client)) return limits;
  try {
    const { consumedPoints } = await ownCounts.consume(client);
    return consumedPoints % TOLD_AT_ONCE === 0 ? { ...limits, hits: TOLD_AT_ONCE } : limits;
  } catch {
    return null;
  }
}

/** For tests, which begin each time as a process that has counted nothing. */
export function forgetCounts(client: string): Promise<boolean> {
  return ownCounts.delete(client);
}

/** The simulated town lives on this machine, and all of it has one address. */
function isTown(client: string): boolean {
  return environment().ESTIMA_DEMO && /^(?:::ffff:)?127\.|^::1$/.test(client);
}

/** Counts a link that leads nowhere; false when somebody tries too many. */
export async function mayGuessAgain(headers: Headers): Promise<boolean> {
  const client = clientAddressOf(headers);
  return client === null || isWelcome(`guess ${client}`, MOST_GUESSES, A_MINUTE);
}
