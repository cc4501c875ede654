import { nextPortion } from "../plans/portions";
import { planFor } from "../plans/takes";
import { stableHash } from "../stableHash";
import type { Channel } from "../time/sendHours";
import { dayNumber, nextDay, nextMonth, toLocal } from "../time/zone";
import { checkEligibility, type EligibilityCase } from "./eligibility";
import { type Event, EventQueue } from "./eventQueue";
import { type AskSoFar, freshAsk, goesOn, nextStep } from "./nextStep";
import type {
  Reaction,
  Rehearsal,
  RehearsedAsk,
  RehearsedClient,
  RehearsedMessage,
  RehearsedPerson,
  RehearsedPlan,
  RehearsedVisit,
} from "./rehearsal";
import { SendQuota } from "./sendQuota";
import { homeOf, joinable } from "./sharedDay";

type Rehearsed = {
  plans: readonly RehearsedPlan[];
  visits: readonly RehearsedVisit[];
  people: ReadonlyMap<string, RehearsedPerson>;
  client: RehearsedClient;
  underWay: readonly RehearsedAsk[];
  /** How many of each plan's lists were asked already on the day of `now`. */
  askedToday?: Readonly<Record<string, number>>;
  now: number;
  until: number;
  partsOf: (message: Omit<RehearsedMessage, "parts">) => number | null;
  /** What comes of a message that has left; nothing where it is left out. */
  react?: (message: RehearsedMessage) => readonly Reaction[];
};

/**
 * Rehearses `plans`, in their order, on `visits` from `now` until `until`: plans at work in memory, from one due
 * moment to the next, by the same functions that decide and send. Nobody reacts unless `react` says so, and nothing
 * fails. `partsOf` tells how many parts a text has, as it would be written. Instants are milliseconds since the epoch.
 */
export function rehearse(it: Rehearsed): Rehearsal {
  const run = new Run(it);
  run.advance(Number.POSITIVE_INFINITY);
  return run.end();
}

/** How many moments are played before others have their turn. */
const TURN = 2000;

/** As `rehearse`, for what takes long: `breathe` lets others have their turn between. */
export async function rehearseInTurns(it: Rehearsed, breathe: () => Promise<void>): Promise<Rehearsal> {
  const run = new Run(it);
  while (run.advance(TURN)) await breathe();
  return run.end();
}

type LiveAsk = {
  ref: number;
  plan: RehearsedPlan;
  person: RehearsedPerson;
  branchId: string;
  soFar: AskSoFar;
  visitIds: string[];
  endsAt: number;
  open: boolean;
  /** Goes up whenever the ask is planned anew: what was planned before is out of date. */
  turn: number;
  underWay: boolean;
  /** The channel whose ceiling keeps the moment `soFar.ceilingAt` for it. */
  keptBy: Channel | null;
  /** What stopped it; nothing follows save an answer that was changed. */
  stoppedBy: Reaction["kind"] | null;
};

class Run {
  private readonly result: Rehearsal = { messages: [], verdicts: [], unsent: [], waiting: 0, stops: [] };
  private readonly events = new EventQueue();
  private current = { at: Number.NEGATIVE_INFINITY, round: 0 };
  private readonly living: ReadonlyMap<string, RehearsedPerson>;
  private readonly lastTo = new Map<string, number>();
  private readonly openOf = new Map<string, LiveAsk>();
  private readonly homes = new Map<string, LiveAsk[]>();
  private readonly senders: SendQuota;
  /** Visits that wait for the portions of a plan, and how many were asked on a day. */
  private readonly pools = new Map<string, RehearsedVisit[]>();
  private readonly portioned = new Map<string, number>();
  private refs = 0;

  constructor(private readonly it: Rehearsed) {
    this.senders = new SendQuota(it.client, it.client.recentSends, it.client.used, it.now);
    this.living = new Map([...it.people].map(([id, person]) => [id, { ...person }]));
    const today = dayNumber(toLocal(it.client.zone, it.now));
    for (const [planId, asked] of Object.entries(it.askedToday ?? {})) this.portioned.set(`${planId} ${today}`, asked);
    for (const { id, lastMessageAt } of it.people.values())
      if (lastMessageAt !== null) this.lastTo.set(id, lastMessageAt);
    const { visits, now, underWay } = it;
    for (const known of underWay) this.goOn(known, now);
    for (const visit of visits)
      this.add({
        at: Math.max(visit.examineAt, now),
        rank: 0,
        tie: `${String(visit.endsAt).padStart(16, "0")} ${visit.id}`,
        run: (then) => this.examineVisit(visit, then),
      });
  }

  /** Plays so many moments more; whether others may follow. */
  advance(most: number): boolean {
    for (let played = 0; played < most; played++) {
      const event = this.events.pop();
      if (!event || event.at > this.it.until) return false;
      this.current = event;
      event.run(event.at);
    }
    return true;
  }

  end(): Rehearsal {
    for (const pool of this.pools.values()) this.result.waiting += pool.length;
    return this.result;
  }

  private add(event: Omit<Event, "round">): void {
    this.events.push({ ...event, round: event.at === this.current.at ? this.current.round : 0 });
  }

  // Asks begin

  private goOn(known: RehearsedAsk, now: number): void {
    const plan = this.it.plans.find(({ id }) => id === known.planId);
    const person = this.living.get(known.personId);
    if (!plan || !person) return;
    const { branchId, soFar, visitIds, endsAt, isOver } = known;
    this.begin(
      { plan: { ...plan, rules: known.rules }, person, branchId, soFar, visitIds, endsAt, underWay: true },
      now,
      !isOver,
    );
  }

  private begin(
    it: Pick<LiveAsk, "plan" | "person" | "branchId" | "soFar" | "visitIds" | "endsAt" | "underWay">,
    at: number,
    open = true,
  ): void {
    const ask: LiveAsk = { ...it, ref: this.refs++, open, turn: 0, keptBy: null, stoppedBy: null };
    if (open) this.openOf.set(ask.person.id, ask);
    const key = this.homeKey(ask.person, ask.branchId, ask.endsAt);
    this.homes.set(key, [...(this.homes.get(key) ?? []), ask]);
    this.step(ask, at);
  }

  private homeKey(person: RehearsedPerson, branchId: string, endsAt: number): string {
    const { client } = this.it;
    return `${person.home} ${dayNumber(toLocal(client.calendars[branchId]?.zone ?? client.zone, endsAt))}`;
  }

  private factsOf(
    visit: RehearsedVisit,
    person: RehearsedPerson,
    plan: RehearsedPlan | null,
    alsoTakenBy: string[],
    at: number,
  ): EligibilityCase {
    const { client } = this.it;
    const open = this.openOf.get(person.id) ?? null;
    const asked = this.homes.get(this.homeKey(person, visit.branchId, visit.endsAt)) ?? [];
    const isUsedUp =
      client.leavesOutWhenUsedUp && this.senders.isUsedUp("text", at) && this.senders.isUsedUp("email", at);
    return {
      now: at,
      visit: {
        outcome: visit.outcome === "booked" && client.bookedCountsAsFinished ? "finished" : visit.outcome,
        endsAt: visit.endsAt,
        service: client.services[visit.serviceId ?? ""] ?? { name: "none named", neverAsk: false },
      },
      person: {
        doNotAsk: person.doNotAsk,
        tags: [...person.tags, ...visit.tags],
        addresses: person.addresses,
        lastAskedAt: person.lastAskedAt,
        lastAskedByPlanAt: plan ? latest(person.lastAskedByPlan[plan.id] ?? null, person.lastAskedByHandAt) : null,
        lastReviewedAt: person.lastReviewedAt,
        hasOpenAsk: open !== null,
        restUntil: person.restUntil,
        neverTags: client.neverTags,
        isMinor: person.isMinor,
        hasGuardian: person.hasGuardian,
        consent: person.consent,
        guardian: person.guardian,
        home: homeOf(asked, plan?.id ?? null, person.id, open),
      },
      plan: plan && { name: plan.name, running: plan.state === "running", rules: plan.rules, alsoTakenBy },
      client: { restDays: client.restDays, needsConsent: client.needsConsent, allowanceLeft: !isUsedUp },
    };
  }

  /** Decides about a visit; whether somebody is asked. */
  private decide(
    visit: RehearsedVisit,
    plan: RehearsedPlan | null,
    alsoTakenBy: string[],
    at: number,
    portion: boolean,
  ): boolean {
    const person = this.living.get(visit.personId);
    if (!person) return false;
    const verdict = checkEligibility(this.factsOf(visit, person, plan, alsoTakenBy, at));
    const reason = verdict.asked ? null : verdict.reason;
    this.result.verdicts.push({
      visitId: visit.id,
      personId: person.id,
      planId: plan?.id ?? null,
      at,
      reason,
      joins: verdict.asked && verdict.joins,
      trace: verdict.trace,
    });
    if (!verdict.asked || !plan) return false;
    const { branchId, endsAt } = visit;
    const home = verdict.joins ? joinable(this.homes.get(this.homeKey(person, branchId, endsAt)) ?? [], plan.id) : null;
    if (home) {
      home.visitIds.push(visit.id);
      home.endsAt = Math.max(home.endsAt, endsAt);
      if (!portion) home.soFar = { ...home.soFar, anchorAt: Math.max(home.soFar.anchorAt, endsAt) };
      this.step(home, at);
    } else {
      const spread = portion || visit.isSpread ? { fraction: stableHash(visit.id), from: at } : null;
      const soFar = freshAsk(portion ? at : endsAt, this.it.client.gapMinutes, spread);
      this.begin({ plan, person, branchId, soFar, visitIds: [visit.id], endsAt, underWay: false }, at);
    }
    return true;
  }

  private examineVisit(visit: RehearsedVisit, at: number): void {
    const { plan, alsoTakenBy } = planFor(this.it.plans, visit);
    if (!plan?.rules.portions || plan.state !== "running") {
      this.decide(visit, plan, alsoTakenBy, at, false);
      return;
    }
    const pool = this.pools.get(plan.id);
    if (pool) pool.push(visit);
    else {
      this.pools.set(plan.id, [visit]);
      this.planPortion(plan, at);
    }
  }

  private planPortion(plan: RehearsedPlan, from: number): void {
    const at = nextPortion(plan.rules, this.it.client, from);
    if (at !== null) this.add({ at, rank: 1, tie: plan.id, run: (then) => this.askPortion(plan, then) });
  }

  private askPortion(plan: RehearsedPlan, at: number): void {
    const { zone } = this.it.client;
    const pool = (this.pools.get(plan.id) ?? []).sort((a, b) => b.endsAt - a.endsAt || (a.id < b.id ? -1 : 1));
    // Two lists of one day share its portion.
    const day = `${plan.id} ${dayNumber(toLocal(zone, at))}`;
    let asked = this.portioned.get(day) ?? 0;
    while (pool.length > 0 && asked < (plan.rules.portions?.perDay ?? 0))
      if (this.decide(pool.shift() as RehearsedVisit, plan, [], at, true)) asked += 1;
    this.portioned.set(day, asked);
    this.pools.set(plan.id, pool);
    if (pool.length > 0) this.planPortion(plan, nextDay(zone, at));
    else this.pools.delete(plan.id);
  }

  // Messages leave

  private nextOf(ask: LiveAsk, at: number, soFar: AskSoFar = ask.soFar) {
    const { person, plan, branchId } = ask;
    const { calendars } = this.it.client;
    const lastToPersonAt = latest(this.lastTo.get(person.id) ?? null, this.lastTo.get(person.toId) ?? null);
    return nextStep(
      plan.rules,
      { ...soFar, lastToPersonAt },
      person.addresses,
      calendars[branchId] ?? Object.values(calendars)[0],
      person.zones,
      at,
    );
  }

  /** Plans what an ask does next. */
  private step(ask: LiveAsk, at: number): void {
    if (!ask.open) return;
    const next = this.nextOf(ask, at);
    ask.turn += 1;
    if (next.kind === "held") return;
    if (next.kind === "end") {
      this.close(ask);
      if (ask.soFar.done === 0)
        this.result.unsent.push({ visitIds: ask.visitIds, personId: ask.person.id, outcome: next.outcome });
      return;
    }
    const turn = ask.turn;
    const first = ask.person.goesFirst || ask.plan.rules.goesFirst;
    // What is due when it is planned leaves right behind the visits of this moment.
    const due = Math.max(next.at, at);
    this.add({
      at: due,
      rank: first ? 2 : 3,
      tie: `${String(next.at).padStart(16, "0")} ${ask.person.id}`,
      run: (then) => this.leave(ask, turn, then),
    });
  }

  private leave(ask: LiveAsk, turn: number, at: number): void {
    if (!ask.open || ask.turn !== turn) return;
    const next = this.nextOf(ask, at);
    if (next.kind !== "send" || next.at > at) {
      this.step(ask, at);
      return;
    }
    const { channel } = next;
    const promised = ask.keptBy === channel ? (ask.soFar.ceilingAt ?? null) : null;
    const slot = this.senders.slot(channel, at, promised, (free) => {
      const then = this.nextOf(ask, at, { ...ask.soFar, ceilingAt: free });
      return then.kind === "send" && then.channel === channel ? then.at : null;
    });
    if (slot.at > at) {
      ask.soFar = { ...ask.soFar, ceilingAt: slot.at };
      ask.keptBy = slot.isKept ? channel : null;
      this.step(ask, at);
      return;
    }
    const { person, plan, visitIds, branchId, underWay } = ask;
    const { leg, step, why } = next;
    const unwritten = {
      at,
      personId: person.id,
      planId: plan.id,
      rules: plan.rules,
      visitIds,
      branchId,
      leg,
      step,
      channel,
      why,
      underWay,
      ask: ask.ref,
    };
    const message: RehearsedMessage = { ...unwritten, parts: this.it.partsOf(unwritten) };
    const cost = channel === "text" ? (message.parts ?? 1) : 1;
    if (!this.senders.affords(channel, at, cost)) {
      ask.soFar = { ...ask.soFar, allowanceFrom: nextMonth(this.it.client.zone, at) };
      this.step(ask, at);
      return;
    }
    this.senders.count(channel, at, cost);
    this.result.messages.push(message);
    for (const reaction of this.it.react?.(message) ?? [])
      this.add({
        at: Math.max(at, reaction.at),
        rank: 0,
        tie: `${ask.ref}`,
        run: (then) => this.answerTo(ask, reaction, channel, then),
      });
    this.lastTo.set(person.id, at);
    this.lastTo.set(person.toId, at);
    if (ask.soFar.done === 0) {
      person.lastAskedAt = at;
      person.lastAskedByPlan = { ...person.lastAskedByPlan, [plan.id]: at };
    }
    ask.soFar = { ...ask.soFar, done: leg + 1, lastSentAt: at, retryAt: null, ceilingAt: null, allowanceFrom: null };
    ask.keptBy = null;
    this.current = { at, round: this.current.round + 1 };
    this.step(ask, at);
  }

  // People react

  private close(ask: LiveAsk): void {
    ask.open = false;
    if (this.openOf.get(ask.person.id) === ask) this.openOf.delete(ask.person.id);
  }

  private stop(ask: LiveAsk, by: Reaction["kind"]): void {
    ask.stoppedBy ??= by;
    ask.turn += 1;
    this.close(ask);
  }

  /** What a reaction does to the ask and the person, as receiving it does in earnest. */
  private answerTo(ask: LiveAsk, reaction: Reaction, channel: Channel, at: number): void {
    if (reaction.kind === "opened") {
      ask.soFar = { ...ask.soFar, openedAt: at };
      return;
    }
    // Words after an ask has run its course stop nothing.
    if (reaction.kind === "wrote back" && !ask.open) return;
    const { person } = ask;
    this.result.stops.push({ at, personId: person.id, ask: ask.ref, kind: reaction.kind });
    if (reaction.kind === "answered") {
      this.answered(ask, reaction.rating, at);
      return;
    }
    if (reaction.kind === "reviewed") person.lastReviewedAt = at;
    if (reaction.kind === "opted out")
      for (const other of this.living.values())
        if (other.toId === person.toId)
          other.addresses = {
            ...other.addresses,
            ...(channel === "email" ? { emailOptedOut: true } : { textOptedOut: true }),
          };
    for (const other of [...this.openOf.values()])
      if (other.person.toId === person.toId) this.stop(other, reaction.kind);
    ask.stoppedBy = reaction.kind;
  }

  /** The unhappy are asked no further; the happy go on to the part that asks for a review, where there is one. */
  private answered(ask: LiveAsk, rating: number, at: number): void {
    const { rules } = ask.plan;
    // Nobody is rehearsed saying more than a rating: how likely they would recommend is taken to go with it.
    const recommend = (rules.more?.recommend ?? "not") === "not" ? null : rating * 2;
    ask.soFar = { ...ask.soFar, answer: { rating, at, recommend } };
    if (!goesOn(rules, ask.soFar.done, rating)) {
      this.stop(ask, "answered");
      return;
    }
    if (ask.stoppedBy !== null && ask.stoppedBy !== "answered") return;
    const open = this.openOf.get(ask.person.id);
    if (open && open !== ask) return;
    ask.open = true;
    this.openOf.set(ask.person.id, ask);
    this.step(ask, at);
  }
}

function latest(a: number | null, b: number | null): number | null {
  return a === null ? b : b === null ? a : Math.max(a, b);
}
