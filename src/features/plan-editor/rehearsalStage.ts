import { and, eq, isNull, sql } from "drizzle-orm";
import type { RehearsedAsk, RehearsedClient, RehearsedPerson, RehearsedVisit } from "@/core/asks/rehearsal";
import { beginsAtMoment, type MOMENTS, type PlanRules } from "@/core/plans/planRules";
import type { Channel } from "@/core/time/sendHours";
import { DAY } from "@/core/time/zone";
import { loadContexts, soFar } from "@/features/asks";
import { allowanceOf, calendarOf, ceilingOf, monthOf, type Setting, usageOf } from "@/features/clients";
import { dryRunOfList } from "@/features/intake";
import type { Person } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import { rowsIn, type Scope, type Tx } from "@/platform/database";
import { asks } from "@/schema/asks";
import { personsOf, rehearsedPeople } from "./rehearsedPeople";
import { MOST_REHEARSED, type RehearsalSource, rehearsed, triggerVisits, visitsOf } from "./rehearsedVisits";

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
  triggers: "visits" | (typeof MOMENTS)[number];
};

const LATER = 60 * DAY;

/** Reads what a rehearsal of `plan` needs; null when the list cannot be read. */
export async function stageRehearsal(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  rules: PlanRules,
  source: RehearsalSource,
  clock: number,
): Promise<RehearsalStage | null> {
  const now = source.kind === "past" ? source.from : clock;
  const until =
    (source.kind === "past" ? source.to : source.kind === "booked" ? clock + source.days * DAY : clock) +
    LATER +
    (rules.portions ? 300 * DAY : 0);
  const kind = rules.begins.kind;
  const own = beginsAtMoment(kind) ? await triggerVisits(tx, scope, rules, source, clock) : null;
  const taken = source.kind === "list" ? await dryRunOfList(tx, scope, setting, source.id, clock) : null;
  if (source.kind === "list" && !taken) return null;
  const found =
    own ??
    taken?.map(({ visit }) => ({
      ...visit,
      examineAt: clock,
      createdAt: Math.max(visit.endsAt, clock),
      intakeId: visit.intakeId ?? visit.id,
    })) ??
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
  const guardianIds = [...new Set([...persons.values()].flatMap(({ guardianId }) => guardianId ?? []))].filter(
    (id) => !persons.has(id),
  );
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
    triggers: beginsAtMoment(kind) ? kind : "visits",
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

async function rehearsedClient(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  source: RehearsalSource,
  now: number,
): Promise<RehearsedClient> {
  const { client } = setting;
  const month = monthOf(setting, now);
  const usage = source.kind === "past" ? null : await usageOf(tx, scope, month);
  const sent = await rowsIn<{ channel: Channel; recentSends: number[] }>(
    tx,
    sql`select channel, recent_sends as "recentSends" from senders where client_id = ${scope.clientId} and month = ${month} and ${source.kind !== "past"}`,
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
    recentSends: each((channel) => sent.find((row) => row.channel === channel)?.recentSends ?? []),
    leavesOutWhenUsedUp: client.leavesOutWhenUsedUp,
    calendars: Object.fromEntries(setting.branches.map(({ id }) => [id, calendarOf(setting, id, now)])),
  };
}
