import { clientAddressOf } from "./clientAddress";
import { environment } from "./environment";
import { isWelcome } from "./publicLimit";

/** Links that anybody may open who has them. What cannot be one of ours is told so before anything else is asked. */

/** Letters and digits only, as `newToken` makes them: nothing else reaches a database. */
export function isToken(text: string, least = 10, most = 40): boolean {
  return text.length >= least && text.length <= most && /^[0-9A-Za-z]+$/.test(text);
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

/** The simulated town lives on this machine, and all of it has one address. */
function isTown(client: string): boolean {
  return environment().ESTIMA_DEMO && /^(?:::ffff:)?127\.|^::1$/.test(client);
}

/** Counts a link that leads nowhere; false when somebody tries too many. */
export async function mayGuessAgain(headers: Headers): Promise<boolean> {
  const client = clientAddressOf(headers);
  return client === null || isWelcome(`guess ${client}`, MOST_GUESSES, A_MINUTE);
}
