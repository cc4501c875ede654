import { and, asc, eq, gte, isNotNull, isNull, lt, sql } from "drizzle-orm";
import type { Rehearsal, RehearsedAsk, RehearsedClient, RehearsedMessage, RehearsedPerson, RehearsedPlan, RehearsedVerdict, RehearsedVisit } from "@/core/asks/rehearsal";
import { rehearse } from "@/core/asks/rehearse";
import { isMinor } from "@/core/people/households";
import type { PlanRules } from "@/core/plans/planRules";
import { wordingFor } from "@/core/plans/trial";
import type { Channel } from "@/core/time/sendHours";
import { DAY, MINUTE } from "@/core/time/zone";
import { anyOf, rowsIn, type Scope, type Tx } from "@/platform/database";
import { asks, homeKeyOf, isFromList, isSpread, loadContexts, soFar, wordingFacts } from "../asks";
import { allowanceOf, calendarOf, ceilingOf, monthOf, type Setting, todayOf, usageOf } from "../clients";
import { takenOfList } from "../intake";
import { answerLink, composeAsk } from "../messages";
import { addresseeOf, addressesOf, NOBODY, nameOf, type Person, people } from "../people";
import { listPlans, type Plan } from "../plans";
import { NO_VISIT, type Visit, visits } from "../visits";

/** What a rehearsal runs on: visits of a period that is over, the booked ones of the next days, or a list. */
export type RehearsalSource = { kind: "past"; from: number; to: number } | { kind: "booked"; days: number } | { kind: "list"; id: string };

/** Everything a rehearsal needs, read once; any number of versions can be run on it. */
export type RehearsalStage = {
  setting: Setting;
  plans: Plan[];
  now: number;
  until: number;
  visits: RehearsedVisit[];
  people: Map<string, RehearsedPerson>;
  client: RehearsedClient;
  underWay: RehearsedAsk[];
  /** For wording. */
  persons: Map<string, Person>;
  seen: Map<string, Visit>;
  /** Why a plan of this kind was rehearsed on other moments than the ends of visits. */
  occasions: "visits" | "tag" | "customer";
};

/** At most so many visits in one rehearsal. */
export const MOST_REHEARSED = 20_000;

const LATER = 60 * DAY;

/** Reads what a rehearsal of `plan` needs; null when the list cannot be read. */
export async function stageRehearsal(tx: Tx, scope: Scope, setting: Setting, rules: PlanRules, source: RehearsalSource, clock: number): Promise<RehearsalStage | null> {
  const now = source.kind === "past" ? source.from : clock;
  const until = (source.kind === "past" ? source.to : source.kind === "booked" ? clock + source.days * DAY : clock) + LATER + (rules.portions ? 300 * DAY : 0);
  const kind = rules.begins.kind;
  const own = kind === "tag" || kind === "customer" ? await occasionVisits(tx, scope, rules, source, clock) : null;
  const taken = source.kind === "list" ? await takenOfList(tx, scope, setting, source.id, clock) : null;
  if (source.kind === "list" && !taken) return null;
  const found =
    own ??
    taken?.map(({ visit }) => ({ ...visit, examineAt: clock, createdAt: Math.max(visit.endsAt, clock), intakeId: visit.intakeId ?? visit.id })) ??
    (await visitsOf(tx, scope, source, clock));
  const all = found.slice(0, MOST_REHEARSED);
  const underWay = source.kind === "past" ? [] : await asksUnderWay(tx, scope, setting);
  const persons = new Map<string, Person>((taken ?? []).map(({ person }) => [person.id, person]));
  const wanted = new Set([...all.map(({ personId }) => personId), ...underWay.map(({ personId }) => personId)]);
  for (const person of await personsOf(
    tx,
    scope,
    [...wanted].filter((id) => !persons.has(id)),
  ))
    persons.set(person.id, person);
  const guardianIds = [...new Set([...persons.values()].flatMap(({ guardianId }) => guardianId ?? []))].filter((id) => !persons.has(id));
  for (const guardian of await personsOf(tx, scope, guardianIds)) persons.set(guardian.id, guardian);
  return {
    setting,
    plans: await listPlans(tx, scope),
    now,
    until,
    visits: all.map((visit) => rehearsed(visit, source, clock)),
    people: await rehearsedPeople(tx, scope, setting, persons, wanted, source, now),
    client: await rehearsedClient(tx, scope, setting, source, now),
    underWay,
    persons,
    seen: new Map(all.map((visit) => [visit.id, visit])),
    occasions: kind === "tag" || kind === "customer" ? kind : "visits",
  };
}

type SeenVisit = Visit;

const visitColumns = {
  id: visits.id,
  personId: visits.personId,
  branchId: visits.branchId,
  serviceId: visits.serviceId,
  teamMemberId: visits.teamMemberId,
  about: visits.about,
  kind: visits.kind,
  tags: visits.tags,
  intakeId: visits.intakeId,
  endsAt: visits.endsAt,
  outcome: visits.outcome,
  source: visits.source,
  examineAt: visits.examineAt,
  createdAt: visits.createdAt,
};

async function visitsOf(tx: Tx, scope: Scope, source: RehearsalSource, clock: number): Promise<SeenVisit[]> {
  const own = eq(visits.clientId, scope.clientId);
  const where =
    source.kind === "past"
      ? and(own, gte(visits.endsAt, source.from), lt(visits.endsAt, source.to), sql`not coalesce(${visits.words} ?| array['service', 'branch'], false)`)
      : and(own, isNotNull(visits.examineAt), lt(visits.examineAt, clock + (source.kind === "booked" ? source.days : 0) * DAY));
  const rows = await tx.select(visitColumns).from(visits).where(where).orderBy(asc(visits.endsAt), asc(visits.id)).limit(MOST_REHEARSED);
  return rows.map((row) => ({ ...NO_VISIT, ...row, clientId: scope.clientId }));
}

/** For plans that begin with a tag or with time: the last visit of each person whose moment lies in the period, as if it ended then. */
async function occasionVisits(tx: Tx, scope: Scope, rules: PlanRules, source: RehearsalSource, clock: number): Promise<SeenVisit[]> {
  const [from, to] = source.kind === "past" ? [source.from, source.to] : [clock, clock + (source.kind === "booked" ? source.days : 0) * DAY];
  const { begins } = rules;
  const iso = (at: number) => new Date(at).toISOString();
  const moments =
    begins.kind === "customer"
      ? await rowsIn<{ person_id: string; at: string }>(
          tx,
          sql`select v.person_id, min(v.ends_at) + make_interval(secs => ${begins.days * 86_400}) as at from visits v
              where v.client_id = ${scope.clientId} and v.outcome = 'finished' and v.ends_at >= ${iso(from - begins.days * DAY)} and v.ends_at < ${iso(to - begins.days * DAY)}
                and not exists (select 1 from visits e where e.client_id = v.client_id and e.person_id = v.person_id and e.outcome = 'finished' and e.ends_at < v.ends_at)
              group by v.person_id limit ${MOST_REHEARSED}`,
        )
      : await rowsIn<{ person_id: string; at: string }>(
          tx,
          sql`select id as person_id, ${iso(from)}::timestamptz as at from people where client_id = ${scope.clientId} and merged_into is null and tags @> array[${begins.kind === "tag" ? begins.tag : ""}]::text[] limit ${MOST_REHEARSED}`,
        );
  if (moments.length === 0) return [];
  const last = await tx
    .selectDistinctOn([visits.personId], visitColumns)
    .from(visits)
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        anyOf(
          visits.personId,
          moments.map(({ person_id }) => person_id),
        ),
        eq(visits.outcome, "finished"),
      ),
    )
    .orderBy(visits.personId, sql`${visits.endsAt} desc`);
  const at = new Map(moments.map((moment) => [moment.person_id, new Date(moment.at).getTime()]));
  return last.map((row) => ({
    ...NO_VISIT,
    ...row,
    clientId: scope.clientId,
    endsAt: at.get(row.personId) ?? from,
    source: "by hand" as const,
    intakeId: null,
    kind: "appointment" as const,
  }));
}

function rehearsed(visit: SeenVisit, source: RehearsalSource, clock: number): RehearsedVisit {
  const fromList = isFromList(visit);
  const spread = source.kind === "list" ? visit.endsAt <= clock : isSpread(visit);
  return {
    id: visit.id,
    personId: visit.personId,
    branchId: visit.branchId,
    serviceId: visit.serviceId,
    kind: visit.kind,
    fromList,
    isSpread: spread,
    endsAt: visit.endsAt,
    examineAt:
      source.kind === "booked" ? (visit.examineAt ?? visit.endsAt) : source.kind === "list" ? Math.max(visit.endsAt, clock) : Math.max(visit.endsAt, spread ? visit.createdAt : 0),
    outcome: visit.outcome,
    tags: visit.tags,
  };
}

async function asksUnderWay(tx: Tx, scope: Scope, setting: Setting): Promise<RehearsedAsk[]> {
  const open = await tx
    .select({ id: asks.id })
    .from(asks)
    .where(and(eq(asks.clientId, scope.clientId), isNull(asks.stop), isNull(asks.ended)))
    .limit(MOST_REHEARSED);
  const found: RehearsedAsk[] = [];
  for (let index = 0; index < open.length; index += 1000) {
    const contexts = await loadContexts(
      tx,
      scope,
      open.slice(index, index + 1000).map(({ id }) => id),
    );
    for (const context of contexts)
      found.push({
        id: context.ask.id,
        planId: context.plan.id,
        rules: context.plan.rules,
        personId: context.person.id,
        branchId: context.ask.branchId,
        endsAt: context.visit.endsAt,
        soFar: soFar(context, setting),
        visitIds: [context.visit.id],
      });
  }
  return found;
}

const personColumns = {
  id: people.id,
  given: people.given,
  family: people.family,
  email: people.email,
  emailBouncedAt: people.emailBouncedAt,
  emailOptedOutAt: people.emailOptedOutAt,
  phone: people.phone,
  phoneTakesTexts: people.phoneTakesTexts,
  textBouncedAt: people.textBouncedAt,
  textOptedOutAt: people.textOptedOutAt,
  birthDate: people.birthDate,
  guardianId: people.guardianId,
  householdId: people.householdId,
  consent: people.consent,
  restUntil: people.restUntil,
  zone: people.zone,
  prefers: people.prefers,
  tags: people.tags,
  doNotAsk: people.doNotAsk,
  lastAskedAt: people.lastAskedAt,
  lastMessageAt: people.lastMessageAt,
  lastReviewedAt: people.lastReviewedAt,
};

async function personsOf(tx: Tx, scope: Scope, ids: string[]): Promise<Person[]> {
  if (ids.length === 0) return [];
  const rows = await tx
    .select(personColumns)
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), anyOf(people.id, ids)));
  return rows.map((row) => ({ ...NOBODY, ...row, clientId: scope.clientId }));
}

async function rehearsedPeople(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  persons: ReadonlyMap<string, Person>,
  wanted: ReadonlySet<string>,
  source: RehearsalSource,
  now: number,
): Promise<Map<string, RehearsedPerson>> {
  const ids = [...persons.keys()];
  const iso = new Date(now).toISOString();
  const isPast = source.kind === "past";
  const asked = await rowsIn<{ person_id: string; plan_id: string; by_hand: boolean; at: string }>(
    tx,
    sql`select person_id, plan_id, by_hand, max(first_sent_at) as at from asks
        where client_id = ${scope.clientId} and person_id = any(${sql.param(ids)}::uuid[]) and first_sent_at ${isPast ? sql`< ${iso}` : sql`is not null`} group by 1, 2, 3`,
  );
  const gap = new Date(now - setting.client.gapMinutes * MINUTE - 2 * DAY).toISOString();
  // What left shortly before a period that is over: those that were due within the gap.
  const written = isPast
    ? await rowsIn<{ person_id: string; at: string }>(
        tx,
        sql`select person_id, max(sent_at) as at from messages where client_id = ${scope.clientId} and due_at >= ${gap} and due_at < ${iso} and sent_at < ${iso} and direction = 'out' group by 1`,
      )
    : [];
  const writtenAt = new Map(written.map((row) => [row.person_id, new Date(row.at).getTime()]));
  const byPlan = new Map<string, Record<string, number>>();
  const byHand = new Map<string, number>();
  const lastAsked = new Map<string, number>();
  for (const row of asked) {
    const at = new Date(row.at).getTime();
    lastAsked.set(row.person_id, Math.max(at, lastAsked.get(row.person_id) ?? 0));
    if (row.by_hand) byHand.set(row.person_id, Math.max(at, byHand.get(row.person_id) ?? 0));
    const own = byPlan.get(row.person_id) ?? {};
    own[row.plan_id] = Math.max(at, own[row.plan_id] ?? 0);
    byPlan.set(row.person_id, own);
  }
  const today = todayOf(setting, now);
  const before = (at: number | null) => (at !== null && (!isPast || at < now) ? at : null);
  const first = new Set(setting.tags.filter(({ effect }) => effect === "ask first").map(({ name }) => name));
  const found = new Map<string, RehearsedPerson>();
  for (const person of persons.values()) {
    if (!wanted.has(person.id)) continue;
    const guardian = persons.get(person.guardianId ?? "") ?? null;
    const to = addresseeOf(person, guardian, today);
    const lastMessage = (id: string, own: number | null) => (isPast ? (writtenAt.get(id) ?? null) : own);
    const times = [lastMessage(person.id, person.lastMessageAt), to ? lastMessage(to.id, to.lastMessageAt) : null].filter((at) => at !== null);
    found.set(person.id, {
      id: person.id,
      name: nameOf(person),
      doNotAsk: person.doNotAsk,
      tags: person.tags,
      addresses: addressesOf(to ?? person, setting.tags),
      toId: (to ?? person).id,
      isMinor: isMinor(person.birthDate, today),
      hasGuardian: guardian !== null,
      home: homeKeyOf(person),
      zone: (to ?? person).zone,
      consent: person.consent?.given ?? null,
      restUntil: person.restUntil,
      lastAskedAt: isPast ? (lastAsked.get(person.id) ?? null) : person.lastAskedAt,
      lastAskedByHandAt: byHand.get(person.id) ?? null,
      lastAskedByPlan: byPlan.get(person.id) ?? {},
      lastReviewedAt: before(person.lastReviewedAt),
      lastMessageAt: times.length > 0 ? Math.max(...times) : null,
      goesFirst: person.tags.some((tag) => first.has(tag)),
    });
  }
  return found;
}

async function rehearsedClient(tx: Tx, scope: Scope, setting: Setting, source: RehearsalSource, now: number): Promise<RehearsedClient> {
  const { client } = setting;
  const month = monthOf(setting, now);
  const usage = source.kind === "past" ? null : await usageOf(tx, scope, month);
  const left = await rowsIn<{ channel: Channel; left: number[] }>(
    tx,
    sql`select channel, "left" from senders where client_id = ${scope.clientId} and month = ${month} and ${source.kind !== "past"}`,
  );
  const each = <T>(of: (channel: Channel) => T): Record<Channel, T> => ({ text: of("text"), email: of("email") });
  return {
    zone: client.zone,
    restDays: client.restDays,
    needsConsent: client.needsConsent,
    gapMinutes: client.gapMinutes,
    bookedCountsAsFinished: client.bookedCountsAsFinished,
    neverTags: setting.tags.filter(({ effect }) => effect === "do not ask").map(({ name }) => name),
    services: Object.fromEntries(setting.services.map(({ id, name, neverAsk }) => [id, { name, neverAsk }])),
    ceilings: each((channel) => ceilingOf(setting, channel)),
    allowances: each((channel) => allowanceOf(setting, channel)),
    used: each((channel) => usage?.[channel].used ?? 0),
    left: each((channel) => left.find((row) => row.channel === channel)?.left ?? []),
    leavesOutWhenUsedUp: client.leavesOutWhenUsedUp,
    calendars: Object.fromEntries(setting.branches.map(({ id }) => [id, calendarOf(setting, id, now)])),
  };
}

/** Runs one version of a plan, in its place among the others, on the stage. */
export function runRehearsal(stage: RehearsalStage, planId: string, rules: PlanRules): Rehearsal {
  const plans = stage.plans
    .filter(({ id, state }) => id === planId || state === "running" || state === "paused")
    .map(({ id, name, state, rules: own }): RehearsedPlan => {
      if (id !== planId) return { id, name, state, rules: own };
      // A plan that begins with a tag, with time or by hand is shown on the visits that the stage made for it.
      const onVisits = rules.begins.kind === "tag" || rules.begins.kind === "customer" || rules.begins.kind === "by hand";
      return { id, name, state: "running", rules: onVisits ? { ...rules, begins: { kind: "visit", services: [], branches: [], kinds: [] } } : rules };
    });
  const alone = rules.begins.kind === "tag" || rules.begins.kind === "customer" || rules.begins.kind === "by hand";
  return rehearse({
    plans: alone ? plans.filter(({ id }) => id === planId) : plans,
    visits: stage.visits,
    people: stage.people,
    client: stage.client,
    underWay: stage.underWay,
    now: stage.now,
    until: stage.until,
    partsOf: (message) => (message.channel === "text" ? wordsOf(stage, message).parts : null),
  });
}

const TOKEN = "k7q2m9wx4tzr3n";

/** A message exactly as it would read; only the link's own letters are made up. */
export function wordsOf(stage: RehearsalStage, message: Omit<RehearsedMessage, "parts">) {
  const { setting, persons, seen, now } = stage;
  const person = persons.get(message.personId) ?? NOBODY;
  const [first, ...others] = message.visitIds.flatMap((id) => seen.get(id) ?? []);
  const visit = first ?? { ...NO_VISIT, branchId: message.branchId };
  const along = others.map((other) => ({ about: other.about, given: persons.get(other.personId)?.given ?? "", personId: other.personId }));
  const facts = wordingFacts({ person, visit, guardian: persons.get(person.guardianId ?? "") ?? null, along }, setting, now);
  const step = message.rules.steps[message.step];
  return composeAsk(wordingFor(step, message.planId, person.id), message.channel, facts, answerLink(TOKEN, message.leg));
}

/** The numbers of a rehearsal of one plan. */
export type RehearsalSum = {
  visits: number;
  asked: number;
  joined: number;
  messages: number;
  texts: number;
  emails: number;
  parts: number;
  /** In the client's currency. */
  cost: number;
  leftOut: { reason: NonNullable<RehearsedVerdict["reason"]>; count: number }[];
  elsewhere: number;
  unsent: number;
  waiting: number;
  lastAt: number | null;
  days: { day: string; text: number; email: number }[];
};

/** Sums up what a rehearsal says of one plan. */
export function sumUp(stage: RehearsalStage, planId: string, rehearsal: Rehearsal, dayOf: (at: number) => string): RehearsalSum {
  const own = rehearsal.messages.filter((message) => message.planId === planId && !message.underWay);
  const verdicts = rehearsal.verdicts.filter((verdict) => verdict.planId === planId);
  const days = new Map<string, { text: number; email: number }>();
  for (const { at, channel } of own) {
    const day = dayOf(at);
    const found = days.get(day) ?? { text: 0, email: 0 };
    found[channel] += 1;
    days.set(day, found);
  }
  const reasons = new Map<NonNullable<RehearsedVerdict["reason"]>, number>();
  for (const { reason } of verdicts) if (reason) reasons.set(reason, (reasons.get(reason) ?? 0) + 1);
  const texts = own.filter(({ channel }) => channel === "text");
  const parts = texts.reduce((sum, message) => sum + (message.parts ?? 1), 0);
  const mine = new Set(verdicts.map(({ visitId }) => visitId));
  return {
    visits: verdicts.length,
    asked: verdicts.filter(({ reason, joins }) => !reason && !joins).length,
    joined: verdicts.filter(({ joins }) => joins).length,
    messages: own.length,
    texts: texts.length,
    emails: own.length - texts.length,
    parts,
    cost: (parts * stage.setting.client.partPrice) / 1000,
    leftOut: [...reasons].map(([reason, count]) => ({ reason, count })).sort((a, b) => b.count - a.count),
    elsewhere: rehearsal.verdicts.length - verdicts.length,
    unsent: rehearsal.unsent.filter(({ visitIds }) => visitIds.some((id) => mine.has(id))).length,
    waiting: rehearsal.waiting,
    lastAt: own.at(-1)?.at ?? null,
    days: [...days].map(([day, counts]) => ({ day, ...counts })).sort((a, b) => (a.day < b.day ? -1 : 1)),
  };
}
