import type { VisitKind } from "../intake/visitKinds";
import type { PlanRules } from "../plans/planRules";
import type { Channel, SendCalendar } from "../time/sendHours";
import type { Wishes } from "./eligibility";
import type { Reason, TraceLine, VisitOutcome } from "./findings";
import type { AskSoFar, Why } from "./nextStep";
import type { Addresses } from "./reach";

/** What a rehearsal is given and what it gives. Instants are milliseconds since the epoch, zones IANA names. */

export type RehearsedPlan = {
  id: string;
  name: string;
  state: "draft" | "running" | "paused" | "archived";
  /** With whether it asks those once more who had something put right, as `EligibilityRules` has it. */
  rules: PlanRules & { asksAgain?: boolean };
};

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
  zones: readonly string[];
  consent: boolean | null;
  /** What the guardian who is written to wants for themselves. */
  guardian?: Wishes | null;
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
  recentSends: Record<Channel, readonly number[]>;
  leavesOutWhenUsedUp: boolean;
  calendars: Readonly<Record<string, SendCalendar>>;
};

/** An ask that is under way when the rehearsal begins. */
export type RehearsedAsk = {
  id: string;
  planId: string;
  rules: PlanRules;
  personId: string;
  branchId: string;
  endsAt: number;
  soFar: AskSoFar;
  visitIds: string[];
  /** It sends nothing more, but its household was asked on its day. */
  isOver?: boolean;
};

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

export type RehearsedVerdict = {
  visitId: string;
  personId: string;
  planId: string | null;
  at: number;
  reason: Reason | null;
  joins: boolean;
  trace: TraceLine[];
};

/** What somebody does about a message they got. */
export type Reaction = { at: number } & (
  | { kind: "opened" | "opted out" | "wrote back" | "reviewed" }
  | { kind: "answered"; rating: number }
);

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
