import { clockTime, type Delay, describeDelay } from "../time/delay";
import { capital } from "../time/say";
import type { Channel, SendCalendar } from "../time/sendHours";
import { dayNumber, toLocal, weekday } from "../time/zone";
import type { Why } from "./nextStep";

/**
 * Why a message leaves when it does, in one short sentence: "2 hours after the visit, then moved: the hours open at
 * 9:00."
 */
export function sayWhyThen(
  why: readonly Why[],
  at: number,
  facts: { delay: Delay; after: "visit" | "message" | "answer"; channel: Channel; calendar: SendCalendar },
): string {
  const anchor = { visit: "the visit ended", message: "the message before", answer: "they had answered" }[facts.after];
  const start = why.includes("sendNow")
    ? "Sent on before its time by hand"
    : why.includes("at once")
      ? "As soon as the hours allow"
      : facts.delay.amount === 0
        ? `As soon as ${facts.after === "message" ? "the message before left" : anchor}`
        : `${capital(describeDelay(facts.delay))} after ${anchor}`;
  const moves: string[] = [];
  if (why.includes("spread")) moves.push("its list is spread over the send hours");
  if (why.includes("ceiling")) moves.push("no more may leave within the hour");
  if (why.includes("allowance")) moves.push("this month’s allowance is used up, so it waits for the next");
  if (why.includes("gap")) moves.push("another message went to this person shortly before");
  if (why.includes("retry")) moves.push("the last try did not get through");
  if (why.includes("late")) moves.push("it could not leave on time");
  if (why.includes("closed day")) moves.push("nothing leaves on a closed day");
  if (why.includes("hours")) moves.push(`the hours ${openingWords(at, facts)}`);
  if (why.includes("recipient hours")) moves.push("texts wait until it is 8:00 where the person is");
  if (why.includes("other channel")) {
    moves.push(
      facts.channel === "email" ? "there is no mobile, so an email goes" : "there is no email, so a text goes",
    );
  }
  return moves.length === 0 ? `${start}.` : `${start}; ${moves.join("; ")}.`;
}

function openingWords(at: number, facts: { channel: Channel; calendar: SendCalendar }): string {
  const local = toLocal(facts.calendar.zone, at);
  const hours = facts.calendar.hours[facts.channel][weekday(dayNumber(local))] ?? [];
  const minute = Math.floor((local % 86_400_000) / 60_000);
  const open = hours.find((range) => minute >= range.open && minute < range.close)?.open ?? minute;
  return `open at ${clockTime(open)}`;
}
