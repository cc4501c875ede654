import { draw } from "../draw";
import type { VisitKind } from "../intake/visitKinds";
import { type Leg, legsOf } from "../plans/legs";
import type { PlanRules } from "../plans/planRules";
import { planFor } from "../plans/takes";
import { openSlot, take } from "../time/ceiling";
import { type Channel, nextPermitted, type SendCalendar } from "../time/sendHours";
import { DAY, dayNumber, fromLocal, HOUR, toLocal } from "../time/zone";
import { type Examined, examine, type Reason, type TraceLine, type VisitOutcome } from "./examine";
import { type AskSoFar, nextStep, type Why } from "./nextStep";
import type { Addresses } from "./reach";

/**
 * A rehearsal: plans at work on visits in memory, from one due moment to the next, by the same functions that decide and
 * send. Nobody reacts unless `react` says so, and nothing fails. Instants are milliseconds since the epoch.
 */

export type RehearsedPlan = { id: string; name: string; state: "draft" | "running" | "paused" | "archived"; rules: PlanRules };

export type RehearsedVisit = {
  id: string;
  personId: string;
  branchId: string;
  serviceId: string | null;
  kind: VisitKind;
  fromList: boolean;
  /** A list brought it when it was over already: its ask is spread with the list. */
  isSpread: boolean;
  endsAt: number;
  /** When plans look at it. */
  examineAt: number;
  outcome: VisitOutcome;
  tags: readonly string[];
};

export type RehearsedPerson = {
  id: string;
  name: string;
  doNotAsk: string | null;
  tags: readonly string[];
  /** Of whoever is written to. */
  addresses: Addresses;
  /** Who is written to: the person, or the guardian. */
  toId: string;
  isMinor: boolean;
  hasGuardian: boolean;
  /** Whoever shares this has one household; the person's own id where there is none. */
  home: string;
  zone: string | null;
  consent: boolean | null;
  restUntil: number | null;
  lastAskedAt: number | null;
  lastAskedByHandAt: number | null;
  lastAskedByPlan: Readonly<Record<string, number>>;
  lastReviewedAt: number | null;
  lastMessageAt: number | null;
  goesFirst: boolean;
};

export type RehearsedClient = {
  zone: string;
  restDays: number;
  needsConsent: boolean;
  gapMinutes: number;
  bookedCountsAsFinished: boolean;
  neverTags: readonly string[];
  services: Readonly<Record<string, { name: string; neverAsk: boolean }>>;
  ceilings: Record<Channel, number | null>;
  allowances: Record<Channel, number | null>;
  /** Used up of this month's allowance, and what left within the last hour. */
  used: Record<Channel, number>;
  left: Record<Channel, readonly number[]>;
  leavesOutWhenUsedUp: boolean;
  calendars: Readonly<Record<string, SendCalendar>>;
};

/** An ask that is under way when the rehearsal begins. */
export type RehearsedAsk = { id: string; planId: string; rules: PlanRules; personId: string; branchId: string; endsAt: number; soFar: AskSoFar; visitIds: string[] };

export type RehearsedMessage = {
  at: number;
  personId: string;
  planId: string;
  rules: PlanRules;
  visitIds: readonly string[];
  branchId: string;
  leg: number;
  step: number;
  channel: Channel;
  why: readonly Why[];
  parts: number | null;
  /** Of an ask that was under way before the rehearsal. */
  underWay: boolean;
  /** Which ask of the rehearsal it belongs to. */
  ask: number;
};

export type RehearsedVerdict = { visitId: string; personId: string; planId: string | null; at: number; reason: Reason | null; joins: boolean; trace: TraceLine[] };

/** What somebody does about a message they got. */
export type Reaction = { at: number } & ({ kind: "opened" | "opted out" | "wrote back" | "reviewed" } | { kind: "answered"; rating: number });

/** Something that ended an ask, or let it go on, and when. */
export type RehearsedStop = { at: number; personId: string; ask: number; kind: Reaction["kind"] };

export type Rehearsal = {
  messages: RehearsedMessage[];
  verdicts: RehearsedVerdict[];
  /** Asks that ended with nothing sent, and why. */
  unsent: { visitIds: readonly string[]; personId: string; outcome: string }[];
  /** Visits of portions whose turn lies beyond the end. */
  waiting: number;
  stops: RehearsedStop[];
};

type LiveAsk = {
  ref: number;
  plan: RehearsedPlan;
  person: RehearsedPerson;
  branchId: string;
  soFar: AskSoFar;
  visitIds: string[];
  endsAt: number;
  open: boolean;
  turn: number;
  underWay: boolean;
  /** What stopped it; nothing follows save an answer that was changed. */
  stoppedBy: Reaction["kind"] | null;
};

/** Of one moment first what `round` says: what becomes due by a message that leaves at that moment leaves after all that were due already. */
type Event = { at: number; round: number; rank: number; tie: string; run: (at: number) => void };

/**
 * Rehearses `plans`, in their order, on `visits` from `now` until `until`. `partsOf` tells how many parts a text has, as it would
 * be written.
 */
export function rehearse(it: {
  plans: readonly RehearsedPlan[];
  visits: readonly RehearsedVisit[];
  people: ReadonlyMap<string, RehearsedPerson>;
  client: RehearsedClient;
  underWay: readonly RehearsedAsk[];
  now: number;
  until: number;
  partsOf: (message: Omit<RehearsedMessage, "parts">) => number | null;
  /** What comes of a message that has left; nothing where it is left out. */
  react?: (message: RehearsedMessage) => readonly Reaction[];
}): Rehearsal {
  const { client, people, now, until } = it;
  const result: Rehearsal = { messages: [], verdicts: [], unsent: [], waiting: 0, stops: [] };
  const events = new Heap();
  let current = { at: Number.NEGATIVE_INFINITY, round: 0 };
  const add = (event: Omit<Event, "round">) => events.push({ ...event, round: event.at === current.at ? current.round : 0 });
  const living = new Map([...people].map(([id, person]) => [id, { ...person }]));
  const lastTo = new Map<string, number>();
  for (const person of people.values()) if (person.lastMessageAt !== null) lastTo.set(person.id, Math.max(person.lastMessageAt, lastTo.get(person.id) ?? 0));
  const openOf = new Map<string, LiveAsk>();
  const homes = new Map<string, LiveAsk[]>();
  const left: Record<Channel, number[]> = { text: [...client.left.text], email: [...client.left.email] };
  const used = new Map<string, number>();
  const monthOf = (at: number) => new Date(toLocal(client.zone, at)).toISOString().slice(0, 7);
  for (const channel of ["text", "email"] as const) used.set(`${channel} ${monthOf(now)}`, client.used[channel]);
  const pools = new Map<string, RehearsedVisit[]>();
  const portioned = new Map<string, number>();
  let refs = 0;

  const homeKey = (person: RehearsedPerson, branchId: string, endsAt: number) => `${person.home} ${dayNumber(toLocal(client.calendars[branchId]?.zone ?? client.zone, endsAt))}`;
  const isUsedUp = (channel: Channel, at: number) => {
    const most = client.allowances[channel];
    return most !== null && (used.get(`${channel} ${monthOf(at)}`) ?? 0) >= most;
  };

  const factsOf = (visit: RehearsedVisit, person: RehearsedPerson, plan: RehearsedPlan | null, alsoTakenBy: string[], at: number): Examined => {
    const outcome = visit.outcome === "booked" && client.bookedCountsAsFinished ? "finished" : visit.outcome;
    const asked = homes.get(homeKey(person, visit.branchId, visit.endsAt)) ?? [];
    const own = plan ? latest(person.lastAskedByPlan[plan.id] ?? null, person.lastAskedByHandAt) : null;
    const service = client.services[visit.serviceId ?? ""] ?? { name: "none named", neverAsk: false };
    return {
      now: at,
      visit: { outcome, endsAt: visit.endsAt, service },
      person: {
        doNotAsk: person.doNotAsk,
        tags: [...person.tags, ...visit.tags],
        addresses: person.addresses,
        lastAskedAt: person.lastAskedAt,
        lastAskedByPlanAt: own,
        lastReviewedAt: person.lastReviewedAt,
        hasOpenAsk: openOf.has(person.id),
        restUntil: person.restUntil,
        neverTags: client.neverTags,
        isMinor: person.isMinor,
        hasGuardian: person.hasGuardian,
        consent: person.consent,
        home: homeOf(asked, plan?.id ?? null, person.id, openOf.get(person.id) ?? null),
      },
      plan: plan && { name: plan.name, running: plan.state === "running", rules: plan.rules, alsoTakenBy },
      client: { restDays: client.restDays, needsConsent: client.needsConsent, allowanceLeft: !(client.leavesOutWhenUsedUp && isUsedUp("text", at) && isUsedUp("email", at)) },
    };
  };

  const decide = (visit: RehearsedVisit, plan: RehearsedPlan | null, alsoTakenBy: string[], at: number, portion: boolean): boolean => {
    const person = living.get(visit.personId);
    if (!person) return false;
    const verdict = examine(factsOf(visit, person, plan, alsoTakenBy, at));
    result.verdicts.push({
      visitId: visit.id,
      personId: person.id,
      planId: plan?.id ?? null,
      at,
      reason: verdict.asked ? null : verdict.reason,
      joins: verdict.asked && verdict.joins,
      trace: verdict.trace,
    });
    if (!verdict.asked || !plan) return false;
    const key = homeKey(person, visit.branchId, visit.endsAt);
    if (verdict.joins) {
      const ask = joinable(homes.get(key) ?? [], plan.id);
      if (ask) {
        ask.visitIds.push(visit.id);
        ask.endsAt = Math.max(ask.endsAt, visit.endsAt);
        if (!portion) ask.soFar = { ...ask.soFar, anchorAt: Math.max(ask.soFar.anchorAt, visit.endsAt) };
        step(ask, at);
        return true;
      }
    }
    const spread = portion || visit.isSpread ? { fraction: draw(visit.id), from: at } : null;
    const ask: LiveAsk = {
      ref: refs++,
      plan,
      person,
      branchId: visit.branchId,
      soFar: freshAsk(portion ? at : visit.endsAt, client.gapMinutes, spread),
      visitIds: [visit.id],
      endsAt: visit.endsAt,
      open: true,
      turn: 0,
      underWay: false,
      stoppedBy: null,
    };
    openOf.set(person.id, ask);
    homes.set(key, [...(homes.get(key) ?? []), ask]);
    step(ask, at);
    return true;
  };

  const examineVisit = (visit: RehearsedVisit, at: number) => {
    const { plan, alsoTakenBy } = planFor(it.plans, visit);
    if (!plan?.rules.portions || plan.state !== "running") {
      decide(visit, plan, alsoTakenBy, at, false);
      return;
    }
    const pool = pools.get(plan.id);
    if (pool) pool.push(visit);
    else {
      pools.set(plan.id, [visit]);
      const first = nextPortion(plan.rules, client, at);
      if (first !== null) add({ at: first, rank: 1, tie: plan.id, run: (then) => portion(plan, then) });
    }
  };

  const portion = (plan: RehearsedPlan, at: number) => {
    const pool = (pools.get(plan.id) ?? []).sort((a, b) => b.endsAt - a.endsAt || (a.id < b.id ? -1 : 1));
    // Two lists of one day share its portion.
    const day = `${plan.id} ${dayNumber(toLocal(client.zone, at))}`;
    let asked = portioned.get(day) ?? 0;
    while (pool.length > 0 && asked < (plan.rules.portions?.perDay ?? 0)) if (decide(pool.shift() as RehearsedVisit, plan, [], at, true)) asked += 1;
    portioned.set(day, asked);
    pools.set(plan.id, pool);
    if (pool.length === 0) {
      pools.delete(plan.id);
      return;
    }
    const next = nextPortion(plan.rules, client, nextDay(client.zone, at));
    if (next !== null) add({ at: next, rank: 1, tie: plan.id, run: (then) => portion(plan, then) });
  };

  const calendarOf = (branchId: string) => client.calendars[branchId] ?? Object.values(client.calendars)[0];

  const nextOfAsk = (ask: LiveAsk, at: number) => {
    const lastToPersonAt = latest(lastTo.get(ask.person.id) ?? null, lastTo.get(ask.person.toId) ?? null);
    return nextStep(ask.plan.rules, { ...ask.soFar, lastToPersonAt }, ask.person.addresses, calendarOf(ask.branchId), ask.person.zone, at);
  };

  const end = (ask: LiveAsk, outcome: string) => {
    ask.open = false;
    if (openOf.get(ask.person.id) === ask) openOf.delete(ask.person.id);
    if (ask.soFar.done === 0) result.unsent.push({ visitIds: ask.visitIds, personId: ask.person.id, outcome });
  };

  const step = (ask: LiveAsk, at: number) => {
    if (!ask.open) return;
    const next = nextOfAsk(ask, at);
    ask.turn += 1;
    if (next.kind === "end") return end(ask, next.outcome);
    if (next.kind === "held") return;
    const turn = ask.turn;
    const first = ask.person.goesFirst || ask.plan.rules.goesFirst;
    // What is due when it is planned leaves right behind the visits of this moment.
    const due = Math.max(next.at, at);
    add({ at: due, rank: first ? 2 : 3, tie: `${String(next.at).padStart(16, "0")} ${ask.person.id}`, run: (then) => leave(ask, turn, then) });
  };

  const leave = (ask: LiveAsk, turn: number, at: number) => {
    if (!ask.open || ask.turn !== turn) return;
    const next = nextOfAsk(ask, at);
    if (next.kind !== "send" || next.at > at) return step(ask, at);
    const ceiling = client.ceilings[next.channel];
    if (ceiling !== null) {
      const promised = ask.soFar.ceilingAt ?? null;
      if (promised === null || promised < at) {
        const permit = (free: number) => {
          const then = nextOfAsk({ ...ask, soFar: { ...ask.soFar, ceilingAt: free } }, at);
          return then.kind === "send" ? then.at : null;
        };
        const slot = openSlot(left[next.channel], ceiling, at, permit);
        if (slot.isOpen) take(left[next.channel], slot.at);
        if (slot.at > at) {
          ask.soFar = { ...ask.soFar, ceilingAt: slot.at };
          return step(ask, at);
        }
      }
    }
    const message: Omit<RehearsedMessage, "parts"> = {
      at,
      personId: ask.person.id,
      planId: ask.plan.id,
      rules: ask.plan.rules,
      visitIds: ask.visitIds,
      branchId: ask.branchId,
      leg: next.leg,
      step: next.step,
      channel: next.channel,
      why: next.why,
      underWay: ask.underWay,
      ask: ask.ref,
    };
    const parts = it.partsOf(message);
    const month = `${next.channel} ${monthOf(at)}`;
    const cost = next.channel === "text" ? (parts ?? 1) : 1;
    const most = client.allowances[next.channel];
    if (most !== null && (used.get(month) ?? 0) + cost > most) {
      ask.soFar = { ...ask.soFar, allowanceFrom: nextMonth(client.zone, at) };
      return step(ask, at);
    }
    used.set(month, (used.get(month) ?? 0) + cost);
    while (left[next.channel][0] <= at - HOUR) left[next.channel].shift();
    const gone = { ...message, parts };
    result.messages.push(gone);
    for (const reaction of it.react?.(gone) ?? []) add({ at: Math.max(at, reaction.at), rank: 0, tie: `${ask.ref}`, run: (then) => answerTo(ask, reaction, next.channel, then) });
    lastTo.set(ask.person.id, at);
    lastTo.set(ask.person.toId, at);
    if (ask.soFar.done === 0) {
      ask.person.lastAskedAt = at;
      ask.person.lastAskedByPlan = { ...ask.person.lastAskedByPlan, [ask.plan.id]: at };
    }
    ask.soFar = { ...ask.soFar, done: next.leg + 1, lastSentAt: at, retryAt: null, ceilingAt: null, allowanceFrom: null };
    current = { at, round: current.round + 1 };
    step(ask, at);
  };

  const stop = (ask: LiveAsk, by: Reaction["kind"]) => {
    ask.open = false;
    ask.stoppedBy ??= by;
    ask.turn += 1;
    if (openOf.get(ask.person.id) === ask) openOf.delete(ask.person.id);
  };

  /** What a reaction does to the ask and the person, as receiving it does in earnest. */
  const answerTo = (ask: LiveAsk, reaction: Reaction, channel: Channel, at: number) => {
    const { person, plan } = ask;
    if (reaction.kind === "opened") {
      ask.soFar = { ...ask.soFar, openedAt: at };
      return;
    }
    // Words after an ask has run its course stop nothing.
    if (reaction.kind === "wrote back" && !ask.open) return;
    result.stops.push({ at, personId: person.id, ask: ask.ref, kind: reaction.kind });
    if (reaction.kind === "answered") {
      const isHappy = reaction.rating > plan.rules.doors.threshold;
      const review = legsOf(plan.rules).findIndex(({ part }) => part === "review");
      ask.soFar = { ...ask.soFar, answer: { rating: reaction.rating, at } };
      if (!isHappy || review < 0 || ask.soFar.done > review) return stop(ask, "answered");
      if (ask.stoppedBy !== null && ask.stoppedBy !== "answered") return;
      if (openOf.has(person.id) && openOf.get(person.id) !== ask) return;
      ask.open = true;
      openOf.set(person.id, ask);
      return step(ask, at);
    }
    if (reaction.kind === "reviewed") person.lastReviewedAt = at;
    if (reaction.kind === "opted out")
      for (const other of living.values())
        if (other.toId === person.toId) other.addresses = { ...other.addresses, ...(channel === "email" ? { emailOptedOut: true } : { textOptedOut: true }) };
    for (const other of [...openOf.values()]) if (other.person.toId === person.toId) stop(other, reaction.kind);
    ask.stoppedBy = reaction.kind;
  };

  for (const known of it.underWay) {
    const plan = it.plans.find(({ id }) => id === known.planId);
    const person = living.get(known.personId);
    if (!plan || !person) continue;
    const ask: LiveAsk = {
      ref: refs++,
      plan: { ...plan, rules: known.rules },
      person,
      branchId: known.branchId,
      soFar: known.soFar,
      visitIds: known.visitIds,
      endsAt: known.endsAt,
      open: true,
      turn: 0,
      underWay: true,
      stoppedBy: null,
    };
    openOf.set(person.id, ask);
    const key = homeKey(person, known.branchId, known.endsAt);
    homes.set(key, [...(homes.get(key) ?? []), ask]);
    step(ask, now);
  }
  for (const visit of it.visits)
    add({ at: Math.max(visit.examineAt, now), rank: 0, tie: `${String(visit.endsAt).padStart(16, "0")} ${visit.id}`, run: (then) => examineVisit(visit, then) });
  for (let event = events.pop(); event && event.at <= until; event = events.pop()) {
    current = event;
    event.run(event.at);
  }
  for (const pool of pools.values()) result.waiting += pool.length;
  return result;
}

/** An ask of which nothing has left. */
export function freshAsk(anchorAt: number, gapMinutes: number, spread: AskSoFar["spread"] = null): AskSoFar {
  return { anchorAt, done: 0, lastSentAt: null, byHand: false, chosenChannel: null, stop: null, retryAt: null, hold: null, lastToPersonAt: null, gapMinutes, spread };
}

type HomeAsk = { open: boolean; soFar: Pick<AskSoFar, "done" | "byHand">; plan: { id: string }; person: { id: string; name: string } };

/** The ask of a household's day that another visit can join: nothing of it has left, and it is the same plan's. */
export function joinable<A extends HomeAsk>(asked: readonly A[], planId: string | null): A | null {
  return asked.find(({ open, soFar, plan }) => open && soFar.done === 0 && !soFar.byHand && plan.id === planId) ?? null;
}

/** What `examine` has to know of a household's day. */
export function homeOf<A extends HomeAsk>(asked: readonly A[], planId: string | null, personId: string, openAsk: A | null): Examined["person"]["home"] {
  const ask = joinable(asked, planId);
  // Somebody with an ask under way about another day does not join this one.
  if (ask) return { name: ask.person.name, canJoin: openAsk === null || openAsk === ask };
  // An ask that ended before anything of it left asked nobody.
  const taken = asked.filter(({ open, soFar }) => open || soFar.done > 0);
  const other = taken.find(({ person }) => person.id !== personId) ?? taken[0];
  return other ? { name: other.person.name, canJoin: false, isOwn: other.person.id === personId } : null;
}

/** When the next portion of a list is asked: when the hours of the plan's first message next open at the client. */
export function nextPortion(rules: PlanRules, client: Pick<RehearsedClient, "calendars">, from: number): number | null {
  const first: Leg["channel"] = legsOf(rules)[0]?.channel ?? "email";
  const calendar = Object.values(client.calendars)[0];
  return calendar ? (nextPermitted(from, first === "preferred" ? "text" : first, calendar)?.at ?? null) : null;
}

/** The first instant of the next local day. */
export function nextDay(zone: string, at: number): number {
  return fromLocal(zone, (dayNumber(toLocal(zone, at)) + 1) * DAY);
}

/** The first instant of the next local month. */
export function nextMonth(zone: string, at: number): number {
  const local = new Date(toLocal(zone, at));
  return fromLocal(zone, Date.UTC(local.getUTCFullYear(), local.getUTCMonth() + 1, 1));
}

function latest(a: number | null, b: number | null): number | null {
  return a === null ? b : b === null ? a : Math.max(a, b);
}

/** A binary heap of events: earliest first, then by rank, then by tie. */
class Heap {
  private readonly list: Event[] = [];

  private isBefore(a: Event, b: Event): boolean {
    return a.at !== b.at ? a.at < b.at : a.round !== b.round ? a.round < b.round : a.rank !== b.rank ? a.rank < b.rank : a.tie < b.tie;
  }

  push(event: Event): void {
    const { list } = this;
    list.push(event);
    let index = list.length - 1;
    while (index > 0) {
      const parent = (index - 1) >> 1;
      if (!this.isBefore(list[index], list[parent])) break;
      [list[index], list[parent]] = [list[parent], list[index]];
      index = parent;
    }
  }

  pop(): Event | undefined {
    const { list } = this;
    const top = list[0];
    const last = list.pop();
    if (!top || !last || list.length === 0) return top;
    list[0] = last;
    let index = 0;
    for (;;) {
      const [a, b] = [2 * index + 1, 2 * index + 2];
      let least = index;
      if (a < list.length && this.isBefore(list[a], list[least])) least = a;
      if (b < list.length && this.isBefore(list[b], list[least])) least = b;
      if (least === index) return top;
      [list[index], list[least]] = [list[least], list[index]];
      index = least;
    }
  }
}
