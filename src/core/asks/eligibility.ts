import type { PlanRules } from "../plans/planRules";
import type { Channel } from "../time/sendHours";
import { DAY } from "../time/zone";
import type { Finding, Reason, TraceLine, VisitOutcome } from "./findings";
import { type Addresses, chooseChannel, obstacle } from "./reach";

/**
 * Who is asked and who is left out. Each reason is a rule of its own; they are tried in order, the first that objects
 * decides, and the trace keeps what every tried rule looked at. Instants are milliseconds since the epoch.
 */

export type EligibilityRules = Pick<
  PlanRules,
  "repeat" | "freshDays" | "excludeTags" | "onlyTags" | "households" | "steps"
> & {
  /** It asks once more whoever had something put right: that they were asked a short while ago is why. */
  asksAgain?: boolean;
};

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
    /** They are unhappy, and nobody has answered yet; left out where only plans look. */
    hasOpenConcern?: boolean;
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

/** `joins`: nothing new is begun, the visit is taken into the ask of its household for that day. */
export type Verdict =
  | { asked: true; joins: boolean; trace: TraceLine[] }
  | { asked: false; reason: Reason; trace: TraceLine[] };

type Found = { objects: boolean; finding: Finding };
type Rule = { reason: Reason; look: (it: EligibilityCase) => Found };

const daysSince = (then: number, now: number) => Math.floor((now - then) / DAY);
const found = (objects: boolean, finding: Finding): Found => ({ objects, finding });

/** Whether the visit is taken into an ask of the same household and day. */
function joins({ person: { home = null }, plan }: EligibilityCase): boolean {
  return home?.canJoin === true && plan?.rules.households === "together";
}

const RULES: Rule[] = [
  { reason: "cancelled", look: ({ visit }) => outcomeIs(visit.outcome, "cancelled") },
  { reason: "no-show", look: ({ visit }) => outcomeIs(visit.outcome, "no-show") },
  {
    reason: "not finished",
    look: ({ visit, now }) =>
      visit.endsAt > now
        ? found(true, { code: "not ended" })
        : found(visit.outcome === "booked", { code: "outcome", outcome: visit.outcome }),
  },
  {
    reason: "service never asked about",
    look: ({ visit }) => found(visit.service.neverAsk, { code: "service", service: visit.service.name }),
  },
  {
    reason: "do not ask",
    look: ({ person: { doNotAsk, guardian } }) => {
      if (doNotAsk !== null) return found(true, { code: "marked", whose: "own" });
      return guardian?.doNotAsk
        ? found(true, { code: "marked", whose: "guardian" })
        : found(false, { code: "not marked" });
    },
  },
  {
    reason: "no plan",
    look: ({ plan }) =>
      plan
        ? found(false, { code: "plan takes it", plan: plan.name, before: [...(plan.alsoTakenBy ?? [])] })
        : found(true, { code: "no plan begins" }),
  },
  {
    reason: "plan paused",
    look: ({ plan }) => found(plan?.running === false, { code: plan?.running ? "plan running" : "plan paused" }),
  },
  {
    reason: "excluding tag",
    look: ({ person, plan }) => {
      const excluding = (tags: readonly string[]) =>
        tags.filter((tag) => person.neverTags?.includes(tag) || plan?.rules.excludeTags.includes(tag));
      const own = excluding(person.tags);
      if (own.length > 0) return found(true, { code: "tagged", tags: own, whose: "own" });
      const ofGuardian = excluding(person.guardian?.tags ?? []);
      if (ofGuardian.length > 0) return found(true, { code: "tagged", tags: ofGuardian, whose: "guardian" });
      return found(false, { code: "no excluding tag" });
    },
  },
  {
    reason: "lacks the tag",
    look: ({ person, plan }) => {
      const wanted = plan?.rules.onlyTags ?? [];
      if (wanted.length === 0) return found(false, { code: "no tag needed" });
      const tag = wanted.find((one) => person.tags.includes(one));
      return tag
        ? found(false, { code: "tagged", tags: [tag], whose: "own" })
        : found(true, { code: "not tagged", tags: [...wanted] });
    },
  },
  {
    reason: "minor without guardian",
    look: ({ person: { isMinor = false, hasGuardian = false } }) => {
      if (!isMinor) return found(false, { code: "of age" });
      return found(!hasGuardian, { code: hasGuardian ? "guardian known" : "no guardian known" });
    },
  },
  {
    reason: "opted out",
    look: ({ person: { addresses } }) => {
      const channels: Channel[] = [];
      if (addresses.emailOptedOut) channels.push("email");
      if (addresses.textOptedOut) channels.push("text");
      return channels.length > 0
        ? found(true, { code: "opted out", channels })
        : found(false, { code: "never opted out" });
    },
  },
  {
    reason: "consent missing",
    look: ({ person, client }) => {
      // A refusal of either binds; whoever is written to has the first word, else what was noted for the minor holds.
      const ofGuardian = person.guardian?.consent ?? null;
      if (ofGuardian === false) return found(true, { code: "consent", given: false, whose: "guardian" });
      const given = person.consent === false ? false : (ofGuardian ?? person.consent ?? null);
      const objects = given === false || (client?.needsConsent === true && given !== true);
      return found(objects, { code: "consent", given, whose: "own" });
    },
  },
  {
    reason: "address bounced",
    look: ({ person: { addresses } }) => {
      const obstacles = [obstacle(addresses, "email"), obstacle(addresses, "text")];
      const objects = !obstacles.includes(null) && obstacles.includes("bounced");
      return found(objects, { code: objects ? "address bounced" : "address works" });
    },
  },
  {
    reason: "no reachable address",
    look: ({ person: { addresses }, plan }) => {
      const wanted = plan?.rules.steps[0]?.channel ?? "text";
      const channel = chooseChannel(addresses, wanted === "both" ? "text" : wanted);
      return channel ? found(false, { code: "reachable", channel }) : found(true, { code: "not reachable" });
    },
  },
  {
    reason: "too late",
    look: ({ visit, plan, now }) => {
      const most = plan?.rules.freshDays ?? 0;
      return found(now - visit.endsAt > most * DAY, { code: "ended", days: daysSince(visit.endsAt, now), most });
    },
  },
  {
    reason: "another ask open",
    look: (it) => {
      if (!it.person.hasOpenAsk) return found(false, { code: "no ask open" });
      return joins(it) ? found(false, { code: "joins the ask" }) : found(true, { code: "ask open" });
    },
  },
  {
    reason: "household asked",
    look: (it) => {
      const home = it.person.home ?? null;
      // Once more about the same visit is what such a plan is for.
      if (!home || (home.isOwn && it.plan?.rules.asksAgain)) return found(false, { code: "household not asked" });
      if (it.plan?.rules.households === "each") return found(false, { code: "plan asks each", name: home.name });
      if (joins(it)) return found(false, { code: "asked together", name: home.name });
      return found(true, home.isOwn ? { code: "asked that day" } : { code: "household asked", name: home.name });
    },
  },
  {
    reason: "once only",
    look: (it) => {
      const last = it.person.lastAskedByPlanAt === undefined ? it.person.lastAskedAt : it.person.lastAskedByPlanAt;
      if (it.plan?.rules.repeat.kind !== "once") return found(false, { code: "may ask again" });
      if (last === null || joins(it)) return found(false, { code: "never asked by plan" });
      return found(true, { code: "asked once", days: daysSince(last, it.now) });
    },
  },
  { reason: "resting", look: (it) => letRest(it) ?? restAfter(it) },
  {
    reason: "allowance used up",
    look: ({ client }) => {
      const objects = client?.allowanceLeft === false;
      return found(objects, { code: objects ? "allowance used up" : "allowance left" });
    },
  },
];

/** Whoever asks by hand should know of a complaint that waits; plans stop at such an answer by themselves. */
const CONCERN: Rule = {
  reason: "concern waits",
  look: ({ person }) =>
    found(person.hasOpenConcern === true, { code: person.hasOpenConcern ? "concern waits" : "no concern waits" }),
};

/** Somebody said that the person, or the guardian, is not to be asked before a day; null where nobody did. */
function letRest({ person, now }: EligibilityCase): Found | null {
  const own = person.restUntil ?? 0;
  const ofGuardian = person.guardian?.restUntil ?? 0;
  const until = Math.max(own, ofGuardian);
  if (until <= now) return null;
  return found(true, {
    code: "let rest",
    days: Math.ceil((until - now) / DAY),
    whose: ofGuardian > own ? "guardian" : "own",
  });
}

/**
 * The rest that plan and client keep after an ask or a review. Whoever was unhappy and had it put right was asked a
 * short while ago: this one more ask is what that plan is for.
 */
function restAfter(it: EligibilityCase): Found {
  const { person, plan, now, client } = it;
  if (joins(it)) return found(false, { code: "with the same day" });
  const asksAgain = plan?.rules.asksAgain ?? false;
  const byPlan = plan?.rules.repeat.kind === "rest" && !asksAgain ? plan.rules.repeat.days : 0;
  const everywhere = asksAgain ? 0 : (client?.restDays ?? 0);
  const lastByPlan = person.lastAskedByPlanAt === undefined ? person.lastAskedAt : person.lastAskedByPlanAt;
  const rests = [
    { since: "reviewed" as const, at: person.lastReviewedAt, rest: Math.max(byPlan, everywhere), everywhere: false },
    { since: "asked" as const, at: lastByPlan, rest: byPlan, everywhere: false },
    { since: "asked" as const, at: person.lastAskedAt, rest: everywhere, everywhere: true },
  ].filter((rest): rest is typeof rest & { at: number } => rest.at !== null);
  const holding = rests
    .filter(({ at, rest }) => at > now - rest * DAY)
    .sort((a, b) => b.at + b.rest * DAY - (a.at + a.rest * DAY))[0];
  const shown = holding ?? rests.sort((a, b) => b.at - a.at)[0];
  if (!shown) return found(false, { code: "never asked" });
  const { at, ...rest } = shown;
  return found(holding !== undefined, { code: "rest", ...rest, days: daysSince(at, now) });
}

function outcomeIs(outcome: VisitOutcome, wanted: VisitOutcome): Found {
  return found(outcome === wanted, { code: "outcome", outcome });
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
  "concern waits",
];

/** Decides about a visit. Pure: the same input gives the same verdict and the same trace. */
export function checkEligibility(it: EligibilityCase): Verdict {
  const trace: TraceLine[] = [];
  for (const rule of RULES) {
    const { objects, finding } = rule.look(it);
    trace.push({ rule: rule.reason, objects, finding });
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
  for (const rule of it.person.hasOpenConcern === undefined ? RULES : [...RULES, CONCERN]) {
    const { objects, finding } = rule.look(it);
    if (objects && ADVICE_BY_HAND.includes(rule.reason)) {
      advice.push({ rule: rule.reason, objects, finding });
      trace.push({ rule: rule.reason, objects: false, finding, overruled: true });
      continue;
    }
    trace.push({ rule: rule.reason, objects, finding });
    if (objects) return { asked: false, reason: rule.reason, trace, advice };
  }
  return { asked: true, joins: false, trace, advice };
}
