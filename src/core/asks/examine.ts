import type { PlanRules } from "../plans/planRules";
import { DAY } from "../time/zone";
import { type Addresses, chooseChannel, obstacle } from "./reach";

/**
 * Who is asked and who is left out. Each reason is a rule of its own; they are tried in order, the first that objects
 * decides, and the trace keeps what every tried rule looked at. Instants are milliseconds since the epoch.
 */

export const OUTCOMES = ["booked", "finished", "cancelled", "no-show"] as const;
export type VisitOutcome = (typeof OUTCOMES)[number];

export const REASONS = [
  "cancelled",
  "no-show",
  "not finished",
  "service never asked about",
  "do not ask",
  "excluding tag",
  "minor without guardian",
  "no reachable address",
  "opted out",
  "address bounced",
  "another ask open",
  "household asked",
  "resting",
  "too late",
  "plan paused",
  "no plan",
] as const;
export type Reason = (typeof REASONS)[number];

export type Examined = {
  now: number;
  visit: { outcome: VisitOutcome; endsAt: number; service: { name: string; neverAsk: boolean } };
  person: {
    doNotAsk: string | null;
    tags: readonly string[];
    addresses: Addresses;
    lastAskedAt: number | null;
    lastReviewedAt: number | null;
    hasOpenAsk: boolean;
    /** Somebody said that they are not to be asked before this moment. */
    restUntil?: number | null;
    /** Tags that no plan may pass over. */
    neverTags?: readonly string[];
    /** Under age on this day. */
    isMinor?: boolean;
    hasGuardian?: boolean;
    /** Who else of the household is asked for this day. */
    housemateAsked?: string | null;
  };
  plan: { name: string; running: boolean; rules: Pick<PlanRules, "restDays" | "freshDays" | "excludeTags" | "steps"> } | null;
};

/** One line of a trace: which rule, whether it objected, and the value that decided, in words. */
export type TraceLine = { rule: Reason; objects: boolean; value: string };

export type Verdict = { asked: true; trace: TraceLine[] } | { asked: false; reason: Reason; trace: TraceLine[] };

type Rule = { reason: Reason; look: (it: Examined) => { objects: boolean; value: string } };

const daysSince = (then: number, now: number) => Math.floor((now - then) / DAY);

const RULES: Rule[] = [
  { reason: "cancelled", look: ({ visit }) => outcomeIs(visit.outcome, "cancelled") },
  { reason: "no-show", look: ({ visit }) => outcomeIs(visit.outcome, "no-show") },
  {
    reason: "not finished",
    look: ({ visit, now }) => ({
      objects: visit.outcome === "booked" || visit.endsAt > now,
      value: visit.endsAt > now ? "the visit has not ended" : `outcome: ${visit.outcome}`,
    }),
  },
  {
    reason: "service never asked about",
    look: ({ visit }) => ({ objects: visit.service.neverAsk, value: `service: ${visit.service.name}` }),
  },
  {
    reason: "do not ask",
    look: ({ person }) => ({ objects: person.doNotAsk !== null, value: person.doNotAsk ?? "nothing noted" }),
  },
  {
    reason: "excluding tag",
    look: ({ person, plan }) => {
      const found = person.tags.filter((tag) => person.neverTags?.includes(tag) || plan?.rules.excludeTags.includes(tag));
      return { objects: found.length > 0, value: found.length > 0 ? `tagged ${found.join(", ")}` : "no excluding tag" };
    },
  },
  {
    reason: "minor without guardian",
    look: ({ person: { isMinor = false, hasGuardian = false } }) => ({
      objects: isMinor && !hasGuardian,
      value: isMinor ? (hasGuardian ? "under age: the guardian is written to" : "under age, and no guardian is known") : "of age, or no birth date known",
    }),
  },
  {
    reason: "opted out",
    look: ({ person: { addresses } }) => {
      const channels = [addresses.emailOptedOut && "email", addresses.textOptedOut && "text"].filter(Boolean);
      return { objects: channels.length > 0, value: channels.length > 0 ? `by ${channels.join(" and ")}` : "never opted out" };
    },
  },
  {
    reason: "address bounced",
    look: ({ person: { addresses } }) => {
      const obstacles = [obstacle(addresses, "email"), obstacle(addresses, "text")];
      const objects = !obstacles.includes(null) && obstacles.includes("bounced");
      return { objects, value: objects ? "the only address came back" : "an address that has not come back" };
    },
  },
  {
    reason: "no reachable address",
    look: ({ person: { addresses }, plan }) => {
      const channel = chooseChannel(addresses, plan?.rules.steps[0]?.channel ?? "text");
      return { objects: channel === null, value: channel ? `reachable by ${channel}` : "no email and no mobile" };
    },
  },
  {
    reason: "no plan",
    look: ({ plan }) => ({ objects: plan === null, value: plan ? plan.name : "no plan takes this visit" }),
  },
  {
    reason: "plan paused",
    look: ({ plan }) => ({ objects: plan?.running === false, value: plan?.running ? "the plan is running" : "the plan is paused" }),
  },
  {
    reason: "too late",
    look: ({ visit, plan, now }) => {
      const age = daysSince(visit.endsAt, now);
      const limit = plan?.rules.freshDays ?? 0;
      return {
        objects: now - visit.endsAt > limit * DAY,
        value: `ended ${age} ${age === 1 ? "day" : "days"} ago, asked up to ${limit} days after`,
      };
    },
  },
  {
    reason: "another ask open",
    look: ({ person }) => ({ objects: person.hasOpenAsk, value: person.hasOpenAsk ? "an earlier ask is still under way" : "none under way" }),
  },
  {
    reason: "household asked",
    look: ({ person: { housemateAsked = null } }) => ({
      objects: housemateAsked !== null,
      value: housemateAsked ? `${housemateAsked} is asked for this day` : "nobody else of the household is asked for this day",
    }),
  },
  {
    reason: "resting",
    look: ({ person, plan, now }) => {
      const days = plan?.rules.restDays ?? 0;
      if (person.restUntil && person.restUntil > now) return { objects: true, value: `let rest for ${Math.ceil((person.restUntil - now) / DAY)} more days` };
      const last = Math.max(person.lastAskedAt ?? Number.NEGATIVE_INFINITY, person.lastReviewedAt ?? Number.NEGATIVE_INFINITY);
      if (last === Number.NEGATIVE_INFINITY) return { objects: false, value: "never asked before" };
      const deed = last === person.lastReviewedAt ? "reviewed" : "asked";
      return {
        objects: last > now - days * DAY,
        value: `${deed} ${daysSince(last, now)} days ago, rests ${days} days`,
      };
    },
  },
];

function outcomeIs(outcome: VisitOutcome, wanted: VisitOutcome) {
  return { objects: outcome === wanted, value: `outcome: ${outcome}` };
}

/** Rules that do not stand in the way of somebody who asks by hand: whoever asks sees them and may go on. */
const ADVICE_BY_HAND: readonly Reason[] = ["household asked", "resting", "excluding tag", "plan paused", "too late"];

/** Decides about a visit. Pure: the same input gives the same verdict and the same trace. */
export function examine(it: Examined): Verdict {
  const trace: TraceLine[] = [];
  for (const rule of RULES) {
    const { objects, value } = rule.look(it);
    trace.push({ rule: rule.reason, objects, value });
    if (objects) return { asked: false, reason: rule.reason, trace };
  }
  return { asked: true, trace };
}

/**
 * Decides about an ask by hand: the same rules, of which some only advise. `advice` names what a person should know;
 * a verdict of `asked: false` cannot be overruled.
 */
export function examineByHand(it: Examined): Verdict & { advice: TraceLine[] } {
  const trace: TraceLine[] = [];
  const advice: TraceLine[] = [];
  for (const rule of RULES) {
    const { objects, value } = rule.look(it);
    if (objects && ADVICE_BY_HAND.includes(rule.reason)) {
      advice.push({ rule: rule.reason, objects, value });
      trace.push({ rule: rule.reason, objects: false, value: `${value}; asked by hand all the same` });
      continue;
    }
    trace.push({ rule: rule.reason, objects, value });
    if (objects) return { asked: false, reason: rule.reason, trace, advice };
  }
  return { asked: true, trace, advice };
}

const SENTENCES: Record<Reason, string> = {
  cancelled: "the visit was cancelled",
  "no-show": "did not turn up",
  "not finished": "the visit is not finished",
  "service never asked about": "this service is never asked about",
  "do not ask": "marked: do not ask",
  "excluding tag": "a tag leaves them out",
  "minor without guardian": "a minor, and no guardian is known",
  "no reachable address": "no reachable address",
  "opted out": "opted out",
  "address bounced": "the address came back",
  "another ask open": "another ask is under way",
  "household asked": "another of the household is asked for this day",
  resting: "resting",
  "too late": "too late after the visit",
  "plan paused": "the plan is paused",
  "no plan": "no plan takes this visit",
};

/** A reason in plain words. */
export function sayReason(reason: Reason): string {
  return SENTENCES[reason];
}
