import { type AskSoFar, freshAsk, type NextRules, projectAsk, type Send, type Why } from "../asks/nextStep";
import type { Addresses } from "../asks/reach";
import { addDelay, type Delay } from "../time/delay";
import type { Channel, SendCalendar } from "../time/sendHours";
import { DAY, dayNumber, HOUR, MINUTE, timeOfDay, toLocal } from "../time/zone";
import { legsOf } from "./legs";

/**
 * One message of a plan on the ruler: where it is wanted, and where it would really leave. Instants are milliseconds
 * since the epoch.
 */
export type ExampleMark = {
  step: number;
  channels: Channel[];
  baseAt: number;
  wantedAt: number;
  at: number;
  why: Why[];
};

const REACHABLE: Addresses = {
  email: "somebody@post.example",
  emailBounced: false,
  emailOptedOut: false,
  phone: "+447700900123",
  phoneTakesTexts: true,
  textBounced: false,
  textOptedOut: false,
};

/**
 * A plan drawn for one example: a person who can be reached by both channels, opens nothing and answers nothing; where
 * the plan asks how it went first, they answer happily two hours after the first message, so that its second part
 * shows.
 */
export function exampleOf(
  rules: NextRules,
  anchorAt: number,
  calendar: SendCalendar,
  gapMinutes: number,
): ExampleMark[] {
  const start = freshAsk(anchorAt, gapMinutes);
  const legs = legsOf(rules);
  const first = projectAsk(rules, start, REACHABLE, calendar, [], anchorAt).messages;
  const review = legs.findIndex(({ part }) => part === "review");
  const answerAt = (first[0]?.at ?? anchorAt) + 2 * HOUR;
  const answered: AskSoFar = {
    ...start,
    done: Math.max(0, review),
    lastSentAt: first[0]?.at ?? anchorAt,
    lastToPersonAt: first[0]?.at ?? null,
    answer: { rating: 5, at: answerAt },
  };
  const second = review >= 0 ? projectAsk(rules, answered, REACHABLE, calendar, [], answerAt).messages : [];
  return [...marksOf(rules, first, anchorAt, calendar), ...marksOf(rules, second, answerAt, calendar)];
}

function marksOf(rules: NextRules, sends: readonly Send[], from: number, calendar: SendCalendar): ExampleMark[] {
  const marks: ExampleMark[] = [];
  let base = from;
  for (const send of sends) {
    const last = marks.at(-1);
    if (legsOf(rules)[send.leg].isCopy && last?.step === send.step) last.channels.push(send.channel);
    else
      marks.push({
        step: send.step,
        channels: [send.channel],
        baseAt: base,
        wantedAt: addDelay(base, rules.steps[send.step].delay, calendar.zone),
        at: send.at,
        why: send.why,
      });
    base = send.at;
  }
  return marks;
}

/**
 * The delay that puts a message at `at`, counted from `base`: minutes or hours within a day, and days at a time of day
 * beyond that. Rounded as people set it: quarters of an hour, and hours from three hours on.
 */
export function delayTo(base: number, at: number, zone: string): Delay {
  const span = Math.max(0, at - base);
  if (span < 3 * HOUR) {
    const minutes = Math.round(span / (15 * MINUTE)) * 15;
    return minutes % 60 === 0 && minutes > 0
      ? { amount: minutes / 60, unit: "hours" }
      : { amount: minutes, unit: "minutes" };
  }
  const days = dayNumber(toLocal(zone, at)) - dayNumber(toLocal(zone, base));
  if (days === 0 || span < 20 * HOUR) return { amount: Math.max(1, Math.round(span / HOUR)), unit: "hours" };
  const time = Math.min(23 * 60 + 30, Math.round(timeOfDay(toLocal(zone, at)) / (30 * MINUTE)) * 30);
  return {
    amount: Math.min(
      2000,
      Math.max(
        1,
        Math.round((Math.floor(toLocal(zone, at) / DAY) * DAY - Math.floor(toLocal(zone, base) / DAY) * DAY) / DAY),
      ),
    ),
    unit: "days",
    at: time,
  };
}
