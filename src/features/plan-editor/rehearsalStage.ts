import type { RehearsedAsk, RehearsedClient, RehearsedPerson, RehearsedVisit } from "@/core/asks/rehearsal";
import { beginsAtMoment, type MOMENTS, type PlanRules } from "@/core/plans/planRules";
import { DAY } from "@/core/time/zone";
import {
  asksUnderWay,
  MOST_REHEARSED,
  personsOf,
  rehearsedAsk,
  rehearsedClient,
  rehearsedPeople,
} from "@/features/asks";
import type { Setting } from "@/features/clients";
import { dryRunOfList } from "@/features/intake";
import type { Person } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import type { Visit } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { type RehearsalSource, rehearsed, triggerVisits, visitsOf } from "./rehearsedVisits";

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
  const underWay = source.kind === "past" ? [] : await asksUnderWay(tx, scope);
  const persons = new Map<string, Person>((taken ?? []).map(({ person }) => [person.id, person]));
  for (const { person } of underWay) if (!persons.has(person.id)) persons.set(person.id, person);
  const wanted = new Set([...all.map(({ personId }) => personId), ...underWay.map(({ person }) => person.id)]);
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
    people: await rehearsedPeople(tx, scope, setting, persons, wanted, source.kind === "past", now),
    client: await rehearsedClient(tx, scope, setting, source.kind === "past", now),
    underWay: underWay.map((context) => rehearsedAsk(context, setting)),
    persons,
    seen: new Map([...underWay.map(({ visit }) => visit), ...all].map((visit) => [visit.id, visit])),
    triggers: beginsAtMoment(kind) ? kind : "visits",
  };
}
