import type { PlanRules } from "../plans/planRules";
import { addDelay } from "../time/delay";
import { type Channel, nextPermitted, type SendCalendar, type Shift } from "../time/sendHours";
import { DAY, MINUTE } from "../time/zone";
import { type Addresses, chooseChannel } from "./reach";

/** What ends an ask before its messages are used up. */
export const STOPS = ["answered", "followed a site", "wrote back", "opted out", "visit cancelled", "cancelled by hand", "reviewed"] as const;
export type Stop = (typeof STOPS)[number];

/** An ask as it stands. Instants are milliseconds since the epoch. */
export type AskSoFar = {
  /** The visit's end, or the moment somebody asked by hand. */
  anchorAt: number;
  /** Messages of this ask that left. */
  sentCount: number;
  lastSentAt: number | null;
  /** Asked by hand: the first message waits for no delay, only for the hours. */
  byHand: boolean;
  /** For asks by hand: the channel somebody chose for the first message. */
  chosenChannel: Channel | null;
  stop: Stop | null;
  /** After a temporary failure: not before this. */
  retryAt: number | null;
  /** A person holds the ask: nothing leaves until it is released. */
  held: boolean;
  /** The last message to this person from any ask, and the least gap to it in minutes. */
  lastToPersonAt: number | null;
  gapMinutes: number;
};

export type Why = Shift | "delay" | "at once" | "gap" | "retry" | "late" | "other channel";

export type NextStep =
  | { kind: "send"; step: number; channel: Channel; at: number; why: Why[] }
  | { kind: "held"; step: number }
  | { kind: "end"; outcome: "stopped"; stop: Stop }
  | { kind: "end"; outcome: "all sent" | "too late" | "unreachable" | "never open" };

/**
 * What an ask does next: the one function that sending, rehearsing, the ruler and the tests call.
 * A `send` whose `at` is not after `now` leaves at once. Messages that an outage delayed move to the next permitted
 * instant, or end as too late once that lies more than the plan's `freshDays` after they were wanted.
 */
export function nextStep(
  plan: Pick<PlanRules, "steps" | "freshDays">,
  ask: AskSoFar,
  addresses: Addresses,
  calendar: SendCalendar,
  recipientZone: string | null,
  now: number,
): NextStep {
  if (ask.stop) return { kind: "end", outcome: "stopped", stop: ask.stop };
  const step = plan.steps[ask.sentCount];
  if (!step) return { kind: "end", outcome: "all sent" };
  if (ask.held) return { kind: "held", step: ask.sentCount };

  const isFirst = ask.sentCount === 0;
  const wantedChannel = (isFirst ? ask.chosenChannel : null) ?? step.channel;
  const channel = chooseChannel(addresses, wantedChannel);
  if (!channel) return { kind: "end", outcome: "unreachable" };

  const why: Why[] = [];
  const atOnce = isFirst && ask.byHand;
  const wanted = atOnce ? ask.anchorAt : addDelay(ask.lastSentAt ?? ask.anchorAt, step.delay, calendar.zone);
  why.push(atOnce ? "at once" : "delay");
  if (channel !== wantedChannel) why.push("other channel");

  let earliest = wanted;
  if (ask.lastToPersonAt !== null && ask.lastToPersonAt + ask.gapMinutes * MINUTE > earliest) {
    earliest = ask.lastToPersonAt + ask.gapMinutes * MINUTE;
    why.push("gap");
  }
  if (ask.retryAt !== null && ask.retryAt > earliest) {
    earliest = ask.retryAt;
    why.push("retry");
  }
  let permitted = nextPermitted(earliest, channel, calendar, recipientZone);
  if (permitted && permitted.at < now) {
    const again = nextPermitted(now, channel, calendar, recipientZone);
    // What is only a tick behind leaves at once and is not called late.
    if (again && again.at > now) why.push("late");
    permitted = again && { at: again.at, shifts: again.shifts };
  }
  if (!permitted) return { kind: "end", outcome: "never open" };
  if (permitted.at - wanted > plan.freshDays * DAY) return { kind: "end", outcome: "too late" };
  return { kind: "send", step: ask.sentCount, channel, at: permitted.at, why: [...why, ...permitted.shifts] };
}

/**
 * Everything an ask would still send if nobody reacted, in order.
 * `now` is when this is asked; each message is taken to leave exactly when it may.
 */
export function projectAsk(
  plan: Pick<PlanRules, "steps" | "freshDays">,
  ask: AskSoFar,
  addresses: Addresses,
  calendar: SendCalendar,
  recipientZone: string | null,
  now: number,
): { messages: Extract<NextStep, { kind: "send" }>[]; end: Exclude<NextStep, { kind: "send" }> } {
  const messages: Extract<NextStep, { kind: "send" }>[] = [];
  let state = ask;
  let clock = now;
  for (;;) {
    const next = nextStep(plan, state, addresses, calendar, recipientZone, clock);
    if (next.kind !== "send") return { messages, end: next };
    messages.push(next);
    clock = Math.max(clock, next.at);
    state = { ...state, sentCount: state.sentCount + 1, lastSentAt: next.at, lastToPersonAt: next.at, retryAt: null };
  }
}

/** How long to wait before another try: doubling from one minute to at most an hour, with jitter from `chance` in [0, 1). */
export function backoff(attempt: number, chance: number): number {
  const base = Math.min(60, 2 ** Math.max(0, attempt - 1)) * MINUTE;
  return Math.round(base * (0.75 + chance * 0.5));
}

/** After this many tries a message counts as failed. Nearly two days of backing off lie behind it. */
export const MOST_ATTEMPTS = 48;
