import { type Scope, withClient, workFor } from "@/platform/database";
import { environment } from "@/platform/environment";
import { describeError, log } from "@/platform/log";
import { type Claim, holdClaims } from "./claims";
import { handOverAll, type Outgoing } from "./handOver";
import { prepare } from "./prepare";
import { recordSendResults } from "./sendResults";

/**
 * Due messages on their way out. Crash cases, in order of the steps below:
 * - killed after the claim: the claim runs out and another worker claims the rows again;
 * - killed after `prepare` committed (state "sending"): the rows are claimed again and handed over with the same key,
 *   which the gateway honours, so that nobody gets the message twice;
 * - killed after the gateway took it, before `recordSendResults`: the same;
 * - killed after `recordSendResults`: nothing is left to do.
 */

/**
 * Sends what was claimed of one client. Rows that somebody else claimed since are left alone. A failure is logged and
 * nobody else's: the messages are claimed again when the claim runs out.
 */
export async function deliver(claim: Claim): Promise<void> {
  try {
    await deliverOf(workFor(claim.clientId), claim);
  } catch (error) {
    const { clientId, messageIds } = claim;
    log.error({ clientId, messages: messageIds.length, ...describeError(error) }, "batch failed");
  }
}

async function deliverOf(scope: Scope, claim: Claim): Promise<void> {
  const { outgoing, setting } = await withClient(scope, (tx) => prepare(tx, scope, claim));
  if (outgoing.length === 0) return;
  const handed = await holding(scope, outgoing, () => handOverAll(outgoing));
  await withClient(scope, (tx) => recordSendResults(tx, scope, setting, outgoing, handed));
}

/**
 * Does something with claimed messages, and keeps their claims alive meanwhile: a slow gateway must not let another
 * worker take them over.
 */
async function holding<T>(scope: Scope, outgoing: readonly Outgoing[], work: () => Promise<T>): Promise<T> {
  const held = outgoing.map(({ message }) => message);
  const hold = () =>
    withClient(scope, (tx) => holdClaims(tx, scope, held)).catch((error) =>
      log.warn(describeError(error), "claims not prolonged"),
    );
  const holder = setInterval(hold, (environment().LEASE_SECONDS * 1000) / 3);
  try {
    return await work();
  } finally {
    clearInterval(holder);
  }
}
