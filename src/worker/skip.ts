import { z } from "zod";
import { prepareEvents } from "@/features/asks";
import { setDemoClock } from "@/platform/clock";
import { environment } from "@/platform/environment";
import {
  collectDue,
  type Due,
  doAllDue,
  examineDue,
  fetchDue,
  lookDue,
  nextDue,
  processInboundEvents,
  replyDue,
  sendDue,
  tellDue,
} from "./due";

/** How the demo clock's skip reaches the simulated town: over HTTP, or in the same process for the seed. */
export type TownLink = { advance(now: number, stands: boolean): Promise<{ next: number | null; acted: number }> };

const answer = z.object({ next: z.number().nullable(), acted: z.number() });

export const townOverHttp: TownLink = {
  async advance(now, stands) {
    const { TOWN_URL } = environment();
    if (!TOWN_URL) return { next: null, acted: 0 };
    const response = await fetch(`${TOWN_URL}/clock`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ now, stands }),
      signal: AbortSignal.timeout(60_000),
    });
    return answer.parse(await response.json());
  },
};

/**
 * Moves the demo clock from `from` to `to`, stopping at every instant at which something is due: a visit's end, a
 * message, a action of the townsfolk. What is due happens then and there, in the order of time. On the way reviews are
 * collected every `collectEvery` milliseconds, and once more at the end.
 */
export async function skipAhead(town: TownLink, from: number, to: number, collectEvery = 3_600_000): Promise<void> {
  await prepareEvents(from);
  await prepareEvents(to);
  let at = from;
  let collectedAt = from;
  let townNext = (await town.advance(at, true)).next;
  for (;;) {
    const due = await nextDue();
    const next = Math.min(due.message ?? to, due.visit ?? to, due.look ?? to, due.reply ?? to, townNext ?? to, to);
    if (next > at) at = next;
    // Due rows that a worker now gone had claimed lie in the past: step on, they are taken over when the claim ends.
    else if ((await doDue(due, at)) === 0) at = Math.min(to, at + 60_000);
    await setDemoClock(at, to, from);
    // The town learns the time first, so that what arrives there now is heard now; then again for what it makes of it.
    await town.advance(at, true);
    await doDue(due, at);
    townNext = (await town.advance(at, true)).next;
    if (at - collectedAt >= collectEvery) {
      await collectDue(at);
      await fetchDue(at);
      collectedAt = at;
    }
    if (at >= to) break;
  }
  await doAllDue();
  await setDemoClock(to);
  await town.advance(to, false);
}

async function doDue(due: Due, at: number): Promise<number> {
  await processInboundEvents();
  const examined = due.visit !== null && due.visit <= at ? await examineDue(at) : 0;
  const looked = due.look !== null && due.look <= at ? await lookDue(at) : 0;
  const handed = due.message !== null && due.message <= at ? await sendDue(at) : 0;
  const replied = due.reply !== null && due.reply <= at ? await replyDue(at) : 0;
  await tellDue(at);
  return examined + looked + handed + replied;
}
