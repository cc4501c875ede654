import { groupOf } from "../answers/recommendation";
import { type Leg, type LegRules, legsOf } from "../plans/legs";
import type { PlanRules } from "../plans/planRules";
import { addDelay } from "../time/delay";
import { type Channel, nextLegal, nextPermitted, type SendCalendar, SHIFTS } from "../time/sendHours";
import { spreadSlot } from "../time/spread";
import { DAY, MINUTE } from "../time/zone";
import { type Addresses, chooseChannel, obstacle } from "./reach";

/** What ends an ask before its messages are used up. */
export const STOPS = [
  "answered",
  "followed a site",
  "wrote back",
  "opted out",
  "visit cancelled",
  "cancelled by hand",
  "reviewed",
  "not to be asked",
] as const;
export type Stop = (typeof STOPS)[number];

/** How an ask ends by itself. */
export const ASK_ENDS = ["all sent", "too late", "unreachable", "never open"] as const;
export type AskEnd = (typeof ASK_ENDS)[number];

/** Why an ask is held. */
export type Hold = "plan paused" | "by hand";

/** An ask as it stands. Instants are milliseconds since the epoch. */
export type AskSoFar = {
  /** The visit's end, or the moment somebody asked by hand. */
  anchorAt: number;
  /** Legs of the plan that are done: sent, or passed over. */
  done: number;
  lastSentAt: number | null;
  /** Asked by hand: the first message waits for no delay, only for the hours. */
  byHand: boolean;
  /** For asks by hand: the channel somebody chose for the first message. */
  chosenChannel: Channel | null;
  stop: Stop | null;
  /** The last answer on the answer page. */
  answer?: {
    rating: number;
    at: number;
    /** What doors go by (see `doorRating`); without it the rating. */
    judged?: number | null;
    /** "Would you recommend us?", 0 to 10. */
    recommend?: number | null;
  } | null;
  /** When a message of this ask, or the page behind it, was last opened. */
  openedAt?: number | null;
  /** After a temporary failure: not before this. */
  retryAt: number | null;
  /** The sender's ceiling lets the next message leave at this moment. */
  ceilingAt?: number | null;
  /** Nothing leaves until it is released. */
  hold: Hold | null;
  /** The last message to this person from any ask, and the least gap to it in minutes. */
  lastToPersonAt: number | null;
  gapMinutes: number;
  /** Where a list is spread over the hours: this ask's place in it, in [0, 1), and when the list came. */
  spread?: { fraction: number; from: number } | null;
  /** The month's allowance was used up: when the next one begins. */
  allowanceFrom?: number | null;
  /** Somebody skipped the wait before this leg, at this moment; and whether the closed hours of the business too. */
  sendNow?: { leg: number; at: number; overHours: boolean } | null;
};

/** An ask of which nothing has left. */
export function freshAsk(anchorAt: number, gapMinutes: number, spread: AskSoFar["spread"] = null): AskSoFar {
  return {
    anchorAt,
    done: 0,
    lastSentAt: null,
    byHand: false,
    chosenChannel: null,
    stop: null,
    retryAt: null,
    hold: null,
    lastToPersonAt: null,
    gapMinutes,
    spread,
  };
}

export const WHYS = [
  ...SHIFTS,
  "delay",
  "at once",
  "gap",
  "retry",
  "late",
  "other channel",
  "ceiling",
  "spread",
  "allowance",
  "sendNow",
] as const;
export type Why = (typeof WHYS)[number];

export type Send = {
  kind: "send";
  leg: number;
  step: number;
  channel: Channel;
  at: number;
  why: Why[];
  passed: number[];
};

export type NextStep =
  | Send
  | { kind: "held"; leg: number; step: number; hold: Hold }
  | { kind: "end"; outcome: "stopped"; stop: Stop }
  | { kind: "end"; outcome: AskEnd };

export type NextRules = LegRules &
  Pick<PlanRules, "freshDays" | "style"> & { doors: Pick<PlanRules["doors"], "threshold"> };

/**
 * What an ask does next: the one function that sending, rehearsing, the ruler and the tests call.
 * A `send` whose `at` is not after `now` leaves at once. Messages that an outage delayed move to the next permitted
 * instant, or end as too late once that lies more than the plan's `freshDays` after they were wanted. `passed` names
 * the legs that fall away, because their condition does not hold or the question is answered.
 */
export function nextStep(
  plan: NextRules,
  ask: AskSoFar,
  addresses: Addresses,
  calendar: SendCalendar,
  recipientZones: readonly string[],
  now: number,
): NextStep {
  if (ask.stop) return { kind: "end", outcome: "stopped", stop: ask.stop };
  const legs = legsOf(plan);
  const answer = ask.answer ?? null;
  const passed: number[] = [];
  let index = ask.done;
  for (; index < legs.length; index++) {
    const leg = legs[index];
    if (leg.part === "review" && !answer) return { kind: "end", outcome: "all sent" };
    if (leg.part === "review" && answer && (answer.judged ?? answer.rating) <= plan.doors.threshold)
      return { kind: "end", outcome: "stopped", stop: "answered" };
    if (isWanted(leg, index, ask, addresses)) break;
    passed.push(index);
  }
  const leg = legs[index];
  if (!leg) return { kind: "end", outcome: "all sent" };
  if (ask.hold) return { kind: "held", leg: index, step: leg.step, hold: ask.hold };

  const isFirst = ask.done === 0;
  const wantedChannel = (isFirst ? ask.chosenChannel : null) ?? leg.channel;
  const channel = chooseChannel(addresses, wantedChannel);
  if (!channel) return { kind: "end", outcome: "unreachable" };

  const why: Why[] = [];
  const sendNow = ask.sendNow?.leg === index ? ask.sendNow : null;
  const atOnce = isFirst && ask.byHand;
  // The email behind a text that was passed over is the whole step: it keeps the step's delay and its distance.
  const standsAlone = leg.isCopy && passed.includes(index - 1);
  const wanted = sendNow
    ? sendNow.at
    : atOnce
      ? ask.anchorAt
      : addDelay(baseOf(leg, index, legs, ask), standsAlone ? legs[index - 1].delay : leg.delay, calendar.zone);
  why.push(sendNow ? "sendNow" : atOnce ? "at once" : "delay");
  if (wantedChannel !== "preferred" && channel !== wantedChannel) why.push("other channel");

  let earliest = wanted;
  const later = (at: number | null | undefined, reason: Why) => {
    if (at === null || at === undefined || at <= earliest) return;
    earliest = at;
    why.push(reason);
  };
  const spreadAt =
    isFirst && ask.spread && !sendNow && !atOnce
      ? spreadSlot(Math.max(wanted, ask.spread.from), ask.spread.fraction, channel, calendar)
      : null;
  later(spreadAt, "spread");
  // The email behind a text keeps no distance from that text, only from what came between.
  const isBehind = leg.isCopy && !standsAlone && ask.lastSentAt !== null && (ask.lastToPersonAt ?? 0) <= ask.lastSentAt;
  if (ask.lastToPersonAt !== null && !sendNow && !isBehind) later(ask.lastToPersonAt + ask.gapMinutes * MINUTE, "gap");
  later(ask.retryAt, "retry");
  later(ask.ceilingAt, "ceiling");
  later(ask.allowanceFrom, "allowance");

  const permit = (at: number) =>
    sendNow?.overHours
      ? nextLegal(at, channel, recipientZones.length > 0 ? recipientZones : [calendar.zone])
      : nextPermitted(at, channel, calendar, recipientZones);
  let permitted = permit(earliest);
  if (permitted && permitted.at < now) {
    const again = permit(now);
    // What is only a tick behind leaves at once and is not called late.
    if (again && again.at > now) why.push("late");
    permitted = again && { at: again.at, shifts: again.shifts };
  }
  if (!permitted) {
    // Hours that never meet the recipient's own night leave the other channel.
    if (channel === "text" && obstacle(addresses, "email") === null)
      return nextStep(plan, ask, { ...addresses, phone: null }, calendar, recipientZones, now);
    return { kind: "end", outcome: "never open" };
  }
  // The wait for a new month's allowance makes nothing stale, nor does a list's place in its spread.
  const fresh = Math.max(wanted, spreadAt ?? 0, ask.allowanceFrom ?? 0);
  if (!sendNow && permitted.at - fresh > plan.freshDays * DAY) return { kind: "end", outcome: "too late" };
  return {
    kind: "send",
    leg: index,
    step: leg.step,
    channel,
    at: permitted.at,
    why: [...why, ...permitted.shifts],
    passed,
  };
}

/** Whether a leg still has its purpose. */
function isWanted(leg: Leg, index: number, ask: AskSoFar, addresses: Addresses): boolean {
  if (leg.part === "first" && ask.answer) return false;
  if (leg.onlyIf === "not opened" && ask.openedAt && ask.openedAt >= (ask.lastSentAt ?? ask.anchorAt)) return false;
  if (leg.onlyIf === "rated 4 or more" && !(ask.answer && ask.answer.rating >= 4)) return false;
  if (leg.onlyIf === "would recommend" && groupOf(ask.answer?.recommend ?? null) !== "would recommend") return false;
  // A step by both channels whose one channel does not reach the person goes by the other alone.
  if (leg.hasCopy && obstacle(addresses, "text") !== null && obstacle(addresses, "email") === null) return false;
  // Somebody chose email for the first message: it has gone as the email that would follow the text.
  if (leg.isCopy && index === 1 && ask.done === 1 && ask.byHand && ask.chosenChannel === "email") return false;
  return !(leg.isCopy && obstacle(addresses, "email") !== null);
}

/**
 * What an answer does to its ask: the unhappy are asked no further; the happy go on to the part that asks for a review,
 * where there is one of which nothing has left.
 */
export function goesOn(
  rules: LegRules & { doors: Pick<PlanRules["doors"], "threshold"> },
  done: number,
  rating: number,
): boolean {
  const review = legsOf(rules).findIndex(({ part }) => part === "review");
  return rating > rules.doors.threshold && review >= 0 && done <= review;
}

/** What a leg's delay counts from. */
function baseOf(leg: Leg, index: number, legs: readonly Leg[], ask: AskSoFar): number {
  const opensReview =
    leg.part === "review" && !legs.slice(0, index).some(({ part }, before) => part === "review" && before < ask.done);
  if (opensReview && ask.answer) return ask.answer.at;
  return ask.lastSentAt ?? ask.anchorAt;
}

/**
 * Everything an ask would still send if nobody reacted, in order.
 * `now` is when this is asked; each message is taken to leave exactly when it may.
 */
export function projectAsk(
  plan: NextRules,
  ask: AskSoFar,
  addresses: Addresses,
  calendar: SendCalendar,
  recipientZones: readonly string[],
  now: number,
): { messages: Send[]; end: Exclude<NextStep, { kind: "send" }> } {
  const messages: Send[] = [];
  let state = ask;
  let clock = now;
  for (;;) {
    const next = nextStep(plan, state, addresses, calendar, recipientZones, clock);
    if (next.kind !== "send") return { messages, end: next };
    messages.push(next);
    clock = Math.max(clock, next.at);
    state = {
      ...state,
      done: next.leg + 1,
      lastSentAt: next.at,
      lastToPersonAt: next.at,
      retryAt: null,
      ceilingAt: null,
    };
  }
}

/**
 * How long to wait before another try: doubling from one minute to at most an hour, with jitter from `chance` in [0,
 * 1).
 */
export function backoff(attempt: number, chance: number): number {
  const base = Math.min(60, 2 ** Math.max(0, attempt - 1)) * MINUTE;
  return Math.round(base * (0.75 + chance * 0.5));
}

/** After this many tries a message counts as failed. Nearly two days of backing off lie behind it. */
export const MOST_ATTEMPTS = 48;
