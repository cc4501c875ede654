import type { Begins } from "../plans/planRules";
import type { Delay } from "../time/delay";
import type { Channel, SendCalendar } from "../time/sendHours";
import { DAY, dayNumber, MINUTE, toLocal, weekday } from "../time/zone";
import type { Scheduled } from "./messageReasons";
import type { Why } from "./nextStep";

/**
 * Why a message leaves at `at`, as a code: what its delay counts from, and what moved it. Where the hours did, when
 * they open on that day.
 */
export function whyThen(
  why: readonly Why[],
  at: number,
  facts: {
    delay: Delay;
    after: Scheduled["after"];
    begins: Begins["kind"];
    channel: Channel;
    calendar: SendCalendar;
  },
): Scheduled {
  const { delay, after, begins, channel } = facts;
  const isOther = begins === "invoice" || begins === "tag" || begins === "customer" || begins === "put right";
  return {
    code: "scheduled",
    after,
    ...(after === "visit" && isOther ? { begun: begins } : {}),
    delay: { amount: delay.amount, unit: delay.unit, ...(delay.at === undefined ? {} : { at: delay.at }) },
    channel,
    moves: why.filter((one) => one !== "delay"),
    ...(why.includes("hours") ? { opens: openingOf(at, facts) } : {}),
  };
}

function openingOf(at: number, { channel, calendar }: { channel: Channel; calendar: SendCalendar }): number {
  const local = toLocal(calendar.zone, at);
  const hours = calendar.hours[channel][weekday(dayNumber(local))] ?? [];
  const minute = Math.floor((local % DAY) / MINUTE);
  return hours.find((range) => minute >= range.open && minute < range.close)?.open ?? minute;
}
