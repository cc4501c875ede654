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
  "no plan",
  "plan paused",
  "excluding tag",
  "lacks the tag",
  "minor without guardian",
  "opted out",
  "consent missing",
  "address bounced",
  "no reachable address",
  "too late",
  "another ask open",
  "household asked",
  "once only",
  "resting",
  "allowance used up",
] as const;
export type Reason = (typeof REASONS)[number];

export type EligibilityRules = Pick<
  PlanRules,
  "repeat" | "freshDays" | "excludeTags" | "onlyTags" | "households" | "steps"
>;

/** What somebody wants for themselves, whomever an ask is about. */
export type Wishes = {
  doNotAsk: string | null;
  tags: readonly string[];
  consent: boolean | null;
  restUntil: number | null;
};

export type EligibilityCase = {
  now: number;
  visit: { outcome: VisitOutcome; endsAt: number; service: { name: string; neverAsk: boolean } };
  person: {
    doNotAsk: string | null;
    /** Of the person and of the visit. */
    tags: readonly string[];
    addresses: Addresses;
    /** When any plan last asked. */
    lastAskedAt: number | null;
    lastReviewedAt: number | null;
    hasOpenAsk: boolean;
    /** When this plan, or somebody by hand, last asked; left out: as `lastAskedAt`. */
    lastAskedByPlanAt?: number | null;
    /** Somebody said that they are not to be asked before this moment. */
    restUntil?: number | null;
    /** Tags that no plan may pass over. */
    neverTags?: readonly string[];
    /** Under age on this day. */
    isMinor?: boolean;
    hasGuardian?: boolean;
    /**
     * Somebody of the household, or the person, is asked for this day; whether that ask may still take another visit
     * in.
     */
    home?: { name: string; canJoin: boolean; isOwn?: boolean } | null;
    /** Whether they agreed to be written to; null when nothing is known. */
    consent?: boolean | null;
    /** Whoever is written to in their place, with wishes of their own. */
    guardian?: Wishes | null;
  };
  plan: {
    name: string;
    running: boolean;
    rules: EligibilityRules /** Plans further down that would take this visit. */;
    alsoTakenBy?: readonly string[];
  } | null;
  /** What holds for the whole client; nothing where it is left out. */
  client?: { restDays: number; needsConsent: boolean; allowanceLeft: boolean };
};

/** One line of a trace: which rule, whether it objected, and the value that decided, in words. */
export type TraceLine = { rule: Reason; objects: boolean; value: string };

/** `joins`: nothing new is begun, the visit is taken into the ask of its household for that day. */
export type Verdict =
  | { asked: true; joins: boolean; trace: TraceLine[] }
  | { asked: false; reason: Reason; trace: TraceLine[] };

type Rule = { reason: Reason; look: (it: EligibilityCase) => { objects: boolean; value: string } };

const daysSince = (then: number, now: number) => Math.floor((now - then) / DAY);
const ago = (count: number) => (count <= 0 ? "less than a day" : days(count));
const days = (count: number) => `${count} ${count === 1 ? "day" : "days"}`;

/** Whether the visit is taken into an ask of the same household and day. */
function joins({ person: { home = null }, plan }: EligibilityCase): boolean {
  return home?.canJoin === true && plan?.rules.households === "together";
}

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
    look: ({ person: { doNotAsk, guardian } }) => {
      if (doNotAsk === null && guardian?.doNotAsk)
        return { objects: true, value: `of the guardian: ${guardian.doNotAsk}` };
      return { objects: doNotAsk !== null, value: doNotAsk ?? "nothing noted" };
    },
  },
  {
    reason: "no plan",
    look: ({ plan }) => ({
      objects: plan === null,
      value: plan ? takenWords(plan) : "no plan begins with a visit like this",
    }),
  },
  {
    reason: "plan paused",
    look: ({ plan }) => ({
      objects: plan?.running === false,
      value: plan?.running ? "the plan is running" : "the plan is paused",
    }),
  },
  {
    reason: "excluding tag",
    look: ({ person, plan }) => {
      const excluding = (tags: readonly string[]) =>
        tags.filter((tag) => person.neverTags?.includes(tag) || plan?.rules.excludeTags.includes(tag));
      const own = excluding(person.tags);
      const ofGuardian = excluding(person.guardian?.tags ?? []);
      if (own.length === 0 && ofGuardian.length > 0)
        return { objects: true, value: `the guardian is tagged ${ofGuardian.join(", ")}` };
      return { objects: own.length > 0, value: own.length > 0 ? `tagged ${own.join(", ")}` : "no excluding tag" };
    },
  },
  {
    reason: "lacks the tag",
    look: ({ person, plan }) => {
      const wanted = plan?.rules.onlyTags ?? [];
      const found = wanted.find((tag) => person.tags.includes(tag));
      if (wanted.length === 0) return { objects: false, value: "no tag is needed" };
      return { objects: !found, value: found ? `tagged ${found}` : `not tagged ${wanted.join(" or ")}` };
    },
  },
  {
    reason: "minor without guardian",
    look: ({ person: { isMinor = false, hasGuardian = false } }) => ({
      objects: isMinor && !hasGuardian,
      value: isMinor
        ? hasGuardian
          ? "under age: the guardian is written to"
          : "under age, and no guardian is known"
        : "of age, or no birth date known",
    }),
  },
  {
    reason: "opted out",
    look: ({ person: { addresses } }) => {
      const channels = [addresses.emailOptedOut && "email", addresses.textOptedOut && "text"].filter(Boolean);
      return {
        objects: channels.length > 0,
        value: channels.length > 0 ? `by ${channels.join(" and ")}` : "never opted out",
      };
    },
  },
  {
    reason: "consent missing",
    look: ({ person, client }) => {
      // A refusal of either binds; whoever is written to has the first word, else what was noted for the minor holds.
      const ofGuardian = person.guardian?.consent ?? null;
      if (ofGuardian === false) return { objects: true, value: "the guardian did not agree to be written to" };
      const consent = person.consent === false ? false : (ofGuardian ?? person.consent ?? null);
      const value =
        consent === null
          ? "nobody noted whether they agreed"
          : consent
            ? "agreed to be written to"
            : "did not agree to be written to";
      return { objects: consent === false || (client?.needsConsent === true && consent !== true), value };
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
      const wanted = plan?.rules.steps[0]?.channel ?? "text";
      const channel = chooseChannel(addresses, wanted === "both" ? "text" : wanted);
      return { objects: channel === null, value: channel ? `reachable by ${channel}` : "no email and no mobile" };
    },
  },
  {
    reason: "too late",
    look: ({ visit, plan, now }) => {
      const limit = plan?.rules.freshDays ?? 0;
      return {
        objects: now - visit.endsAt > limit * DAY,
        value: `ended ${ago(daysSince(visit.endsAt, now))} ago, asked up to ${days(limit)} after`,
      };
    },
  },
  {
    reason: "another ask open",
    look: (it) => {
      if (!it.person.hasOpenAsk) return { objects: false, value: "none under way" };
      return joins(it)
        ? { objects: false, value: "joins the ask of the same day" }
        : { objects: true, value: "an earlier ask is still under way" };
    },
  },
  {
    reason: "household asked",
    look: (it) => {
      const home = it.person.home ?? null;
      if (!home) return { objects: false, value: "nobody else of the household is asked for this day" };
      if (it.plan?.rules.households === "each")
        return { objects: false, value: `${home.name} is asked too; the plan asks each` };
      if (joins(it)) return { objects: false, value: `asked together with ${home.name}` };
      return {
        objects: true,
        value: home.isOwn ? "they were asked for this day already" : `${home.name} is asked for this day`,
      };
    },
  },
  {
    reason: "once only",
    look: (it) => {
      const last = it.person.lastAskedByPlanAt === undefined ? it.person.lastAskedAt : it.person.lastAskedByPlanAt;
      if (it.plan?.rules.repeat.kind !== "once") return { objects: false, value: "the plan may ask again" };
      if (last === null || joins(it)) return { objects: false, value: "never asked by this plan" };
      return { objects: true, value: `asked ${ago(daysSince(last, it.now))} ago, and the plan asks once` };
    },
  },
  {
    reason: "resting",
    look: (it) => {
      const { person, plan, now, client } = it;
      const guardianRests = person.guardian?.restUntil ?? 0;
      if (guardianRests > now && guardianRests > (person.restUntil ?? 0))
        return {
          objects: true,
          value: `the guardian is let rest for ${days(Math.ceil((guardianRests - now) / DAY))} more`,
        };
      if (person.restUntil && person.restUntil > now)
        return { objects: true, value: `let rest for ${days(Math.ceil((person.restUntil - now) / DAY))} more` };
      if (joins(it)) return { objects: false, value: "asked together with a visit of the same day" };
      const byPlan = plan?.rules.repeat.kind === "rest" ? plan.rules.repeat.days : 0;
      const everywhere = client?.restDays ?? 0;
      const lastByPlan = person.lastAskedByPlanAt === undefined ? person.lastAskedAt : person.lastAskedByPlanAt;
      const rests = [
        { action: "reviewed", at: person.lastReviewedAt, days: Math.max(byPlan, everywhere), whose: "" },
        { action: "asked", at: lastByPlan, days: byPlan, whose: "" },
        { action: "asked", at: person.lastAskedAt, days: everywhere, whose: " from every plan" },
      ].filter((rest): rest is typeof rest & { at: number } => rest.at !== null);
      const holding = rests
        .filter((rest) => rest.at > now - rest.days * DAY)
        .sort((a, b) => b.at + b.days * DAY - (a.at + a.days * DAY))[0];
      const told = holding ?? rests.sort((a, b) => b.at - a.at)[0];
      if (!told) return { objects: false, value: "never asked before" };
      return {
        objects: holding !== undefined,
        value: `${told.action} ${ago(daysSince(told.at, now))} ago, rests ${days(told.days)}${told.whose}`,
      };
    },
  },
  {
    reason: "allowance used up",
    look: ({ client }) => ({
      objects: client?.allowanceLeft === false,
      value:
        client?.allowanceLeft === false
          ? "the month’s messages are used up, and the client wants nobody held"
          : "messages are left this month, or asks wait for the next",
    }),
  },
];

function takenWords({ name, alsoTakenBy = [] }: NonNullable<EligibilityCase["plan"]>): string {
  if (alsoTakenBy.length === 0) return `“${name}” takes it`;
  return `“${name}” takes it, being before ${alsoTakenBy.map((other) => `“${other}”`).join(" and ")} in the order of plans`;
}

function outcomeIs(outcome: VisitOutcome, wanted: VisitOutcome) {
  return { objects: outcome === wanted, value: `outcome: ${outcome}` };
}

/** Rules that do not stand in the way of somebody who asks by hand: whoever asks sees them and may go on. */
const ADVICE_BY_HAND: readonly Reason[] = [
  "household asked",
  "once only",
  "resting",
  "excluding tag",
  "lacks the tag",
  "plan paused",
  "too late",
  "allowance used up",
];

/** Decides about a visit. Pure: the same input gives the same verdict and the same trace. */
export function checkEligibility(it: EligibilityCase): Verdict {
  const trace: TraceLine[] = [];
  for (const rule of RULES) {
    const { objects, value } = rule.look(it);
    trace.push({ rule: rule.reason, objects, value });
    if (objects) return { asked: false, reason: rule.reason, trace };
  }
  return { asked: true, joins: joins(it), trace };
}

/**
 * What somebody has said since an ask began that ends it: they, or the guardian who is written to, are not to be
 * asked, or take their consent back. A tag that no plan may pass over counts too, save for an ask by hand. Null when
 * nothing does.
 */
export function wishAgainst(
  of: Wishes,
  guardian: Wishes | null,
  neverTags: readonly string[],
  byHand: boolean,
): "do not ask" | "consent missing" | "excluding tag" | null {
  const all = guardian ? [of, guardian] : [of];
  if (all.some(({ doNotAsk }) => doNotAsk !== null)) return "do not ask";
  if (all.some(({ consent }) => consent === false)) return "consent missing";
  return !byHand && all.some(({ tags }) => tags.some((tag) => neverTags.includes(tag))) ? "excluding tag" : null;
}

/** Every rule that objects, in order: all that would have to change. */
export function blockers(it: EligibilityCase): TraceLine[] {
  return RULES.map((rule) => ({ rule: rule.reason, ...rule.look(it) })).filter(({ objects }) => objects);
}

/**
 * Decides about an ask by hand: the same rules, of which some only advise. `advice` names what a person should know;
 * a verdict of `asked: false` cannot be overruled.
 */
export function examineByHand(it: EligibilityCase): Verdict & { advice: TraceLine[] } {
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
  return { asked: true, joins: false, trace, advice };
}

const SENTENCES: Record<Reason, string> = {
  cancelled: "the visit was cancelled",
  "no-show": "did not turn up",
  "not finished": "the visit is not finished",
  "service never asked about": "this service is never asked about",
  "do not ask": "marked: do not ask",
  "excluding tag": "a tag leaves them out",
  "lacks the tag": "not tagged for this plan",
  "minor without guardian": "a minor, and no guardian is known",
  "no reachable address": "no reachable address",
  "opted out": "opted out",
  "consent missing": "consent is missing",
  "address bounced": "the address came back",
  "another ask open": "another ask is under way",
  "household asked": "another of the household is asked for this day",
  "once only": "asked once already",
  resting: "resting",
  "too late": "too late after the visit",
  "plan paused": "the plan is paused",
  "no plan": "no plan takes this visit",
  "allowance used up": "the month’s allowance is used up",
};

const PASSED: Record<Reason, string> = {
  cancelled: "It wasn’t cancelled",
  "no-show": "They came",
  "not finished": "The visit is over",
  "service never asked about": "The service may be asked about",
  "do not ask": "They aren’t marked “do not ask”",
  "no plan": "A plan applies",
  "plan paused": "The plan is running",
  "excluding tag": "None of their tags leaves them out",
  "lacks the tag": "They have the tags the plan asks for",
  "minor without guardian": "An adult is written to",
  "opted out": "They haven’t opted out",
  "consent missing": "Consent is fine",
  "address bounced": "Their address works",
  "no reachable address": "They can be reached",
  "too late": "The visit is recent enough",
  "another ask open": "No other ask was under way",
  "household asked": "Nobody else of the household was asked that day",
  "once only": "They may be asked again",
  resting: "They aren’t resting",
  "allowance used up": "The allowance isn’t used up",
};

/** One line of a trace as a sentence, with the value that decided. */
export function sayLine({ rule, objects, value }: TraceLine): string {
  if (objects) return `${SENTENCES[rule].charAt(0).toUpperCase()}${SENTENCES[rule].slice(1)}: ${value}.`;
  return SAYS_NO_MORE.has(value) ? `${PASSED[rule]}.` : `${PASSED[rule]} (${value}).`;
}

/** Values that say nothing beyond the sentence of their rule. */
const SAYS_NO_MORE = new Set([
  "outcome: finished",
  "nothing noted",
  "the plan is running",
  "no excluding tag",
  "no tag is needed",
  "never opted out",
  "an address that has not come back",
  "none under way",
  "nobody else of the household is asked for this day",
  "the plan may ask again",
  "never asked by this plan",
  "messages are left this month, or asks wait for the next",
]);

const REMEDIES: Record<Reason, string> = {
  cancelled: "The visit’s outcome would have to be “finished”.",
  "no-show": "The visit’s outcome would have to be “finished”.",
  "not finished": "The visit has to end, or somebody has to mark it as finished.",
  "service never asked about": "The service would have to be allowed under Set-up, Services.",
  "do not ask": "The mark “do not ask” would have to be taken off the person.",
  "no plan": "A running plan would have to begin with visits of this service, branch and kind.",
  "plan paused": "The plan would have to be running.",
  "excluding tag": "The tag would have to come off, or the plan would have to stop leaving it out.",
  "lacks the tag": "The person or the visit would need one of the plan’s tags.",
  "minor without guardian": "A guardian would have to be noted on the person.",
  "opted out": "They would have to opt in themselves: nobody else can take this back.",
  "consent missing": "Their consent would have to be noted, or the client would have to need none.",
  "address bounced": "An address that works would have to be noted.",
  "no reachable address": "An email address or a mobile number would have to be noted.",
  "too late": "The plan would have to ask this long after a visit.",
  "another ask open": "The ask under way would have to end first.",
  "household asked":
    "The plan would have to ask each of a household, or the other ask would have to be cancelled before it leaves.",
  "once only": "The plan would have to ask more than once.",
  resting: "The rest would have to be over, or be made shorter.",
  "allowance used up": "The allowance would have to be raised, or a new month has to begin.",
};

/** What would have to change for a rule not to object, in one sentence. */
export function remedy(reason: Reason): string {
  return REMEDIES[reason];
}

/** A reason in plain words. */
export function sayReason(reason: Reason): string {
  return SENTENCES[reason];
}
