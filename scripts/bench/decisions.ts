import { nextStep } from "@/core/asks/nextStep";
import { starterRules } from "@/core/plans/starters";
import { weekOf } from "@/core/time/sendHours";

/** How many next steps the core decides in a second, over four zones, both clock changes and many anchors. */
export function decisionsPerSecond(count = 200_000): number {
  const rules = starterRules();
  const week = weekOf([0, 1, 2, 3, 4], 540, 1140);
  const zones = ["Europe/London", "America/New_York", "Australia/Sydney", "Asia/Kolkata"];
  const calendars = zones.map((zone) => ({ zone, hours: { text: week, email: week }, closedDays: new Set<number>() }));
  const addresses = {
    email: "a@post.example",
    emailBounced: false,
    emailOptedOut: false,
    phone: "+447700900123",
    phoneTakesTexts: true,
    textBounced: false,
    textOptedOut: false,
  };
  const start = Date.UTC(2026, 0, 1);
  const round = (from: number, to: number) => {
    let sends = 0;
    for (let n = from; n < to; n++) {
      const anchorAt = start + ((n * 157_000) % (365 * 86_400_000));
      const done = n % 2;
      const ask = {
        anchorAt,
        done,
        lastSentAt: done ? anchorAt + 7_200_000 : null,
        byHand: false,
        chosenChannel: null,
        stop: null,
        retryAt: null,
        hold: null,
        lastToPersonAt: null,
        gapMinutes: 240,
      };
      if (nextStep(rules, ask, addresses, calendars[n % 4], [zones[(n >> 2) % 4]], anchorAt).kind === "send") sends++;
    }
    return sends;
  };
  round(0, 20_000);
  const began = performance.now();
  const sends = round(0, count);
  const seconds = (performance.now() - began) / 1000;
  // Some pairs of zones share no hour in which a text may leave; deciding that is a decision as well.
  if (sends < count * 0.9)
    throw new Error(`Only ${sends} of ${count} decisions were to send; the bench measures something else.`);
  return count / seconds;
}
