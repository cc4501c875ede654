import { and, eq, gte, isNull, lte, type SQL, sql } from "drizzle-orm";
import type { ArrivingVisit } from "@/core/intake/arrival";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { Multimap } from "@/platform/multimap";
import { type RowChange, updateRows } from "@/platform/updateRows";
import { services } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { visits } from "@/schema/visits";
import type { Visit } from "./service";

/** A visit as it arrives: names are settled, or stand in `words` until somebody says what they mean. */
export type IncomingVisit = Omit<ArrivingVisit, "service" | "branch" | "teamMember"> & {
  /** The identifier it gets where it is new. */
  id?: string;
  personId: string;
  serviceId: string | null;
  /** Whether the source said what it was. */
  isServiceNamed?: boolean;
  branchId: string;
  /** Whether the source said where it was: a default never moves a visit. */
  isBranchNamed: boolean;
  teamMemberId: string | null;
  words: Visit["words"];
  source: Visit["source"];
  feedId?: string | null;
  intakeId?: string | null;
  /** When the source said so, by its own clock. */
  saidAt: number | null;
  /** Whether plans look at it. */
  looked: boolean;
  /** Somebody who came with it: there can be no visit of theirs yet but in the same list. */
  isOfNewPerson?: boolean;
};

export type UpsertedVisit = { kind: "new" | "changed" | "unchanged"; visit: Visit; before: Visit | null };

/** What was done, in words, wherever visits are listed (joined left to the services). */
export const serviceWords = sql<string>`coalesce(${services.name}, ${visits.words} ->> 'service', 'visit')`;

/** Whether plans have to wait because words of it are not known yet. */
export function waitsForWords(words: Visit["words"]): boolean {
  return !!words?.service || !!words?.branch;
}

/**
 * Adds visits, or finds those that are here already: the same number in the client's books, or the same person, moment
 * and service, is the same visit. What the source said earlier and comes later changes nothing. Plans look at a visit
 * when it ends.
 */
export async function upsertVisits(
  tx: Tx,
  scope: Scope,
  incoming: readonly IncomingVisit[],
  now: number,
  rehearsal?: VisitsDryRun,
): Promise<UpsertedVisit[]> {
  if (incoming.length === 0) return [];
  const { byNumber, byPerson, loaded } = rehearsal ?? new VisitsDryRun();
  const remember = (visit: Visit) => {
    if (visit.externalId) byNumber.set(visit.externalId, visit);
    byPerson.add(visit.personId, visit);
  };
  for (const visit of await loadKnown(tx, scope, incoming, rehearsal !== undefined)) {
    if (loaded.has(visit.id)) continue;
    loaded.add(visit.id);
    remember(visit);
  }
  const added: Visit[] = [];
  const isAdded = new Set<string>();
  const changed = new Map<string, RowChange<Visit>>();
  const results = incoming.map((coming): UpsertedVisit => {
    const onDay = onItsDay(coming, byPerson.get(coming.personId));
    const row = onDay ? asItIs(coming, onDay, now) : coming;
    const same =
      onDay ||
      (row.externalId && byNumber.get(row.externalId)) ||
      byPerson.get(row.personId).find((visit) => {
        const isOther = row.externalId !== null && visit.externalId !== null && row.externalId !== visit.externalId;
        return (
          !isOther &&
          visit.endsAt === row.endsAt &&
          visit.serviceId === row.serviceId &&
          visit.about === row.about &&
          visit.words?.service === row.words?.service
        );
      });
    if (!same) {
      const fresh = newVisit(scope, row, now);
      remember(fresh);
      added.push(fresh);
      isAdded.add(fresh.id);
      return { kind: "new", visit: { ...fresh }, before: null };
    }
    const change = changeOf(same, row, now);
    if (Object.keys(change).length === 0) return { kind: "unchanged", visit: same, before: same };
    const before = { ...same };
    Object.assign(same, change);
    if (!isAdded.has(same.id))
      changed.set(same.id, { id: same.id, change: { ...changed.get(same.id)?.change, ...change } });
    return { kind: "changed", visit: { ...same }, before };
  });
  if (rehearsal) return results;
  await insertVisits(tx, added);
  await updateRows(tx, scope, visits, [...changed.values()]);
  return results;
}

/**
 * The visit that a row with no more than a day speaks of: the only one of its person on that day, of the same service
 * and about the same where it says so. None where there are several: any of them could be meant.
 */
function onItsDay(row: IncomingVisit, known: readonly Visit[]): Visit | undefined {
  const { day } = row;
  if (!day || row.externalId !== null) return undefined;
  const [only, ...others] = known.filter(
    ({ endsAt, serviceId, about }) =>
      endsAt >= day.from &&
      endsAt < day.to &&
      (!row.isServiceNamed || serviceId === row.serviceId) &&
      (row.about === null || about === null || about === row.about),
  );
  return others.length === 0 ? only : undefined;
}

/** What such a row says of the visit, no less exactly than it is known: its hour and its service stay. */
function asItIs(row: IncomingVisit, visit: Visit, now: number): IncomingVisit {
  const isOver = row.outcome === "cancelled" || row.outcome === "no-show" || visit.endsAt <= now;
  return {
    ...row,
    endsAt: visit.endsAt,
    serviceId: row.isServiceNamed ? row.serviceId : visit.serviceId,
    about: row.about ?? visit.about,
    outcome: isOver && (visit.outcome === "booked" || row.outcome !== "finished") ? row.outcome : visit.outcome,
  };
}

/** The visits that a rehearsal would have added or changed so far. */
export class VisitsDryRun {
  readonly byNumber = new Map<string, Visit>();
  readonly byPerson = new Multimap<Visit>();
  /** Those that were loaded. */
  readonly loaded = new Set<string>();
}

async function loadKnown(
  tx: Tx,
  scope: Scope,
  incoming: readonly IncomingVisit[],
  onlyLook: boolean,
): Promise<Visit[]> {
  const own = eq(visits.clientId, scope.clientId);
  const numbers = [...new Set(incoming.flatMap(({ externalId }) => externalId ?? []))];
  const ofKnown = incoming.filter(({ isOfNewPerson }) => !isOfNewPerson);
  const persons = [...new Set(ofKnown.map(({ personId }) => personId))];
  const times = ofKnown.flatMap(({ endsAt, day }) => (day ? [day.from, day.to, endsAt] : [endsAt]));
  const find = (where: SQL | undefined) => {
    const query = tx.select().from(visits).where(and(own, where)).orderBy(visits.id);
    // Rows are locked: a worker may be looking at one of them right now.
    return onlyLook ? query : query.for("update");
  };
  const numbered = numbers.length > 0 ? await find(sql`${visits.externalId} = any(${sql.param(numbers)}::text[])`) : [];
  const placed =
    persons.length === 0
      ? []
      : await find(
          and(
            anyOf(visits.personId, persons),
            gte(visits.endsAt, Math.min(...times)),
            lte(visits.endsAt, Math.max(...times)),
          ),
        );
  return [...new Map([...numbered, ...placed].map((visit) => [visit.id, visit])).values()];
}

/** A visit of which nothing is known but that it is over. */
export const NO_VISIT: Visit = {
  id: "",
  clientId: "",
  personId: "",
  branchId: "",
  serviceId: null,
  teamMemberId: null,
  about: null,
  kind: "appointment",
  words: null,
  tags: [],
  externalId: null,
  feedId: null,
  intakeId: null,
  saidAt: null,
  endsAt: 0,
  outcome: "finished",
  source: "by hand",
  examineAt: null,
  decision: null,
  reason: null,
  trace: null,
  examinedAt: null,
  askId: null,
  waitsFor: null,
  claimedUntil: null,
  createdAt: 0,
  requestKey: null,
};

function newVisit(scope: Scope, row: IncomingVisit, now: number): Visit {
  return {
    ...NO_VISIT,
    id: row.id ?? newId(),
    clientId: scope.clientId,
    personId: row.personId,
    branchId: row.branchId,
    serviceId: row.serviceId,
    teamMemberId: row.teamMemberId,
    about: row.about,
    kind: row.kind,
    words: row.words,
    externalId: row.externalId,
    feedId: row.feedId ?? null,
    intakeId: row.intakeId ?? null,
    saidAt: row.saidAt,
    endsAt: row.endsAt,
    outcome: row.outcome,
    source: row.source,
    examineAt: row.looked && !waitsForWords(row.words) ? Math.max(row.endsAt, now) : null,
    createdAt: now,
  };
}

function changeOf(visit: Visit, row: IncomingVisit, now: number): Partial<Visit> {
  const isStale = visit.saidAt !== null && row.saidAt !== null && row.saidAt < visit.saidAt;
  const change: Partial<Visit> = {};
  if (!visit.externalId && row.externalId) change.externalId = row.externalId;
  if (!visit.feedId && row.feedId) change.feedId = row.feedId;
  if (isStale) return change;
  const isSettled = visit.outcome !== "booked";
  // A booking cannot undo what has happened, unless it moves the visit to a day still to come.
  const isRebooked = row.outcome === "booked" && isSettled && row.endsAt > now && row.endsAt > visit.endsAt;
  if (row.outcome !== visit.outcome && (row.outcome !== "booked" || isRebooked)) change.outcome = row.outcome;
  if (
    row.endsAt !== visit.endsAt &&
    visit.decision !== "asked" &&
    (row.outcome === "booked" ? !isSettled || isRebooked : row.outcome === "finished")
  )
    change.endsAt = row.endsAt;
  if (row.serviceId && row.serviceId !== visit.serviceId) change.serviceId = row.serviceId;
  if (row.teamMemberId && row.teamMemberId !== visit.teamMemberId) change.teamMemberId = row.teamMemberId;
  if (row.isBranchNamed && row.branchId !== visit.branchId && !row.words?.branch) change.branchId = row.branchId;
  if (row.about && row.about !== visit.about) change.about = row.about;
  if (Object.keys(change).length === 0) return {};
  if (row.saidAt !== null) change.saidAt = row.saidAt;
  const outcome = change.outcome ?? visit.outcome;
  const isOpen = visit.decision !== "asked" && (visit.decision === null || change.outcome !== undefined);
  if (
    row.looked &&
    isOpen &&
    (outcome === "booked" || outcome === "finished" || visit.decision === null) &&
    !waitsForWords(visit.words)
  ) {
    Object.assign(change, { examineAt: Math.max(change.endsAt ?? visit.endsAt, now), claimedUntil: null });
  }
  return change;
}

async function insertVisits(tx: Tx, list: readonly Visit[]): Promise<void> {
  if (list.length === 0) return;
  const time = (value: number | null) => (value === null ? undefined : new Date(value).toISOString());
  const rows = list.map((visit) => ({
    id: visit.id,
    client_id: visit.clientId,
    person_id: visit.personId,
    branch_id: visit.branchId,
    service_id: visit.serviceId ?? undefined,
    team_member_id: visit.teamMemberId ?? undefined,
    about: visit.about ?? undefined,
    kind: visit.kind,
    words: visit.words ?? undefined,
    external_id: visit.externalId ?? undefined,
    feed_id: visit.feedId ?? undefined,
    intake_id: visit.intakeId ?? undefined,
    said_at: time(visit.saidAt),
    ends_at: time(visit.endsAt),
    outcome: visit.outcome,
    source: visit.source,
    examine_at: time(visit.examineAt),
    created_at: time(visit.createdAt),
  }));
  await tx.execute(sql`
    insert into visits (id, client_id, person_id, branch_id, service_id, team_member_id, about, kind, words, external_id, feed_id, intake_id, said_at, ends_at, outcome, source, examine_at, created_at)
    select * from json_to_recordset(${JSON.stringify(rows)}::json) as d(
      id uuid, client_id uuid, person_id uuid, branch_id uuid, service_id uuid, team_member_id uuid, about text, kind text, words jsonb, external_id text, feed_id uuid, intake_id uuid,
      said_at timestamptz, ends_at timestamptz, outcome text, source text, examine_at timestamptz, created_at timestamptz)`);
}

/** Lets the visits whose words were assigned be looked at by plans, and gives those words up. */
export async function settleWords(
  tx: Tx,
  scope: Scope,
  kind: "service" | "branch" | "team",
  name: string,
  targetId: string | null,
  now: number,
): Promise<number> {
  const column = { service: sql`service_id`, branch: sql`branch_id`, team: sql`team_member_id` }[kind];
  const target = targetId ? sql`, ${column} = ${targetId}` : sql``;
  const at = new Date(now).toISOString();
  const result = await tx.execute(sql`
    update visits set words = nullif(words - ${kind}::text, '{}'::jsonb)${target},
      examine_at = case when decision is null and examine_at is null and ${kind !== "team"} and (words - ${kind}::text - 'team') = '{}'::jsonb then greatest(ends_at, ${at}::timestamptz) else examine_at end
    where client_id = ${scope.clientId} and words is not null and words ->> ${kind}::text = ${name}`);
  return result.rowCount ?? 0;
}

/** Visits that wait for words to be assigned. */
export async function countWaiting(tx: Tx, scope: Scope): Promise<number> {
  const [row] = await tx
    .select({ n: sql<number>`count(*)`.mapWith(Number) })
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), sql`${visits.words} is not null`, isNull(visits.decision)));
  return row.n;
}
