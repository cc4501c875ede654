import { checkEligibility } from "@/core/asks/eligibility";
import type { Reason } from "@/core/asks/findings";
import type { Arrival } from "@/core/intake/arrival";
import type { ForecastVerdict } from "@/core/intake/forecast";
import { turnsOf } from "@/core/plans/portions";
import {
  EligibilityFacts,
  isFromList,
  nextOf,
  planOf,
  portionAfter,
  portionsFrom,
  portionsSoFar,
  wouldBeAsk,
} from "@/features/asks";
import type { Setting } from "@/features/clients";
import { NOBODY, nameOf, PeopleDryRun, type Person } from "@/features/people";
import { listPlans, type Plan } from "@/features/plans";
import { type IncomingVisit, NO_VISIT, type Visit, VisitsDryRun, waitsForWords } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import type { Forecast, IntakeCounts, ReadingChoice } from "@/schema/intake";
import { type IngestOptions, type IngestResult, ingest, settleNames } from "./ingest";
import type { ReadRow } from "./listReading";
import { loadNames } from "./names";
import { inChunks } from "./readAhead";

export const CHUNK = 2500;
/** How many rows the forecast tells one by one; the rest is in the numbers. */
const TOLD = 300;

/** How a list is taken in without writing anything: by the very functions that keep it. */
export function dryRunOptions(choice: ReadingChoice, names: IngestOptions["names"], now: number): IngestOptions {
  return {
    source: "rehearsal",
    sharedAddress: choice.sharedAddress,
    replaces: false,
    way: "file",
    looked: true,
    serviceId: choice.serviceId,
    branchId: choice.branchId,
    now,
    names,
    rehearsal: new PeopleDryRun(),
    visitsRehearsal: new VisitsDryRun(),
  };
}

/**
 * What keeping a list and asking would do, row by row, by the very functions that do it, and without writing anything:
 * how many are new, changed, unchanged, doubtful, refused, and what plans would say to each visit.
 */
export async function previewImport(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  rows: Iterable<ReadRow>,
  choice: ReadingChoice,
  now: number,
): Promise<Forecast> {
  const counts: IntakeCounts = { rows: 0, new: 0, changed: 0, unchanged: 0, refused: 0, doubtful: 0, visits: 0 };
  const names = await loadNames(tx, scope, setting);
  const options = dryRunOptions(choice, names, now);
  const judge = await makeJudge(tx, scope, setting, now);
  const forecast: Forecast = { counts, asked: 0, leftOut: {}, firstLeaves: null, unknownNames: [], visits: [] };
  const told = (row: number, name: string, what: ForecastVerdict, endsAt: number) => {
    if (forecast.visits.length >= TOLD) return null;
    const line = { row, name, what, endsAt };
    forecast.visits.push(line);
    return line;
  };
  /** Of plans that ask their lists in portions: whom they ask, and what is told of it. */
  const portioned = new Map<Plan, { id: string; endsAt: number; tell: ((turn: number) => number) | null }[]>();
  const work = async (chunk: ReadRow[]) => {
    const usable = chunk.flatMap((row) => ("person" in row.read ? [{ row: row.row, arrival: row.read }] : []));
    counts.rows += chunk.length;
    counts.refused += chunk.length - usable.length;
    const taken = await ingest(tx, scope, setting, usable, options);
    await judge.prepare(taken);
    for (const [index, result] of taken.entries()) {
      counts[result.kind] += 1;
      if (result.kind !== "refused" && result.remarks.length > 0) counts.doubtful += 1;
      if (!result.visit || !result.person || result.visitKind === "unchanged") continue;
      if (result.visitKind === "new") counts.visits += 1;
      const { visit, person } = result;
      if (waitsForWords(visit.words)) {
        told(usable[index].row, nameOf(person), { code: "waits for names" }, visit.endsAt);
        continue;
      }
      const verdict = judge.look(visit, person);
      if (verdict.kind === "asked") {
        forecast.asked += 1;
        const line = told(usable[index].row, nameOf(person), { code: "asked", at: verdict.at }, visit.endsAt);
        if (!verdict.inPortions) {
          forecast.firstLeaves = Math.min(forecast.firstLeaves ?? verdict.at, verdict.at);
          continue;
        }
        const { plan, atTurn } = verdict.inPortions;
        const tell =
          line &&
          ((turn: number) => {
            const at = atTurn(turn);
            line.what = { code: "asked", at };
            return at;
          });
        const list = portioned.get(plan) ?? [];
        portioned.set(plan, list);
        list.push({ id: visit.id, endsAt: visit.endsAt, tell });
      } else if (verdict.kind === "left out") {
        forecast.leftOut[verdict.reason] = (forecast.leftOut[verdict.reason] ?? 0) + 1;
        told(usable[index].row, nameOf(person), { code: "left out", reason: verdict.reason }, visit.endsAt);
      } else told(usable[index].row, nameOf(person), { code: "decided later" }, visit.endsAt);
    }
  };
  for await (const chunk of inChunks(rows, CHUNK)) await work(chunk);
  for (const [plan, list] of portioned) {
    const { waiting, ...soFar } = await portionsSoFar(tx, scope, setting, plan, now);
    const turns = turnsOf([...waiting, ...list], plan.rules.portions?.perDay ?? 1, soFar, (at) =>
      portionAfter(setting, plan, at),
    );
    for (const { id, tell } of list) {
      const turn = turns.get(id);
      const at = turn === undefined ? null : tell ? tell(turn) : turn;
      if (at !== null) forecast.firstLeaves = Math.min(forecast.firstLeaves ?? at, at);
    }
  }
  forecast.unknownNames = names.unknown().map(({ kind, name, times }) => ({ kind, name, count: times }));
  return forecast;
}

/** Asked at an instant; of a plan that asks its lists in portions, at one that goes by when its turn comes. */
type Asked = { kind: "asked"; at: number; inPortions: { plan: Plan; atTurn: (turn: number) => number } | null };

/** Decides as plans would about one visit after the other, remembering whom it has "asked". */
async function makeJudge(tx: Tx, scope: Scope, setting: Setting, now: number) {
  const plans = await listPlans(tx, scope);
  const facts = await EligibilityFacts.load(tx, scope, setting, [], [], now);
  return {
    async prepare(taken: IngestResult[]): Promise<void> {
      // Of somebody new nothing is known yet, unless others belong to them.
      const known = taken.filter(
        ({ kind, person }) => kind !== "new" || person?.guardianId != null || person?.householdId != null,
      );
      await facts.loadMore(
        tx,
        scope,
        known.flatMap(({ person }) => person ?? []),
        taken.flatMap(({ visit }) => visit ?? []),
      );
    },
    look(visit: Visit, person: Person): Asked | { kind: "left out"; reason: Reason } | { kind: "later" } {
      if (visit.endsAt > now && (visit.outcome === "booked" || visit.outcome === "finished")) return { kind: "later" };
      const { plan, alsoTakenBy } = planOf(plans, visit);
      const verdict = checkEligibility(facts.forVisit(plan, alsoTakenBy, visit, person));
      if (!verdict.asked || !plan) return { kind: "left out", reason: verdict.asked ? "no plan" : verdict.reason };
      const from = plan.rules.portions ? (portionsFrom(setting, plan, now) ?? now) : now;
      const guardian = facts.guardianOf(person);
      const nextFrom = (from: number, at: number) => {
        const ask = {
          ...wouldBeAsk(visit, plan, from),
          anchorAt: plan.rules.portions ? from : visit.endsAt,
          isSpread: plan.rules.portions !== null || isFromList(visit),
        };
        return nextOf({ ask, plan, person, visit, guardian, along: [] }, setting, at);
      };
      const next = nextFrom(from, now);
      if (next.kind === "held") return { kind: "left out", reason: "plan paused" };
      if (next.kind !== "send")
        return { kind: "left out", reason: next.outcome === "too late" ? "too late" : "no reachable address" };
      const byId = { id: person.id, name: nameOf(person) };
      facts.add(person, {
        id: visit.id,
        open: true,
        endsAt: visit.endsAt,
        branchId: visit.branchId,
        soFar: { done: 0, byHand: false },
        plan: { id: plan.id },
        person: byId,
      });
      if (!plan.rules.portions) return { kind: "asked", at: next.at, inPortions: null };
      const atTurn = (turn: number) => {
        const then = nextFrom(turn, turn);
        return then.kind === "send" ? then.at : turn;
      };
      return { kind: "asked", at: next.at, inPortions: { plan, atTurn } };
    },
  };
}

/**
 * What plans would say to these arrivals if nobody had been here before: of what was typed alone, whoever they are. For
 * pages that must not tell who is known.
 */
export async function fatesOfStrangers(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  arrivals: readonly Arrival[],
  from: Pick<IngestOptions, "way" | "feedId" | "serviceId" | "branchId" | "now">,
): Promise<(ForecastVerdict | null)[]> {
  const names = await loadNames(tx, scope, setting);
  const plans = await listPlans(tx, scope);
  const facts = await EligibilityFacts.load(tx, scope, setting, [], [], from.now);
  return arrivals.map((arrival, index) => {
    const settled = settleNames(arrival, null, names, setting, { ...from, looked: true });
    const { given, family, email, phone, birthDate, consent } = arrival.person;
    const person: Person = {
      ...NOBODY,
      // Nobody who is kept: no identifier is used up for them.
      id: `stranger ${index}`,
      clientId: scope.clientId,
      given,
      family,
      email,
      phone: phone?.number ?? null,
      phoneTakesTexts: phone?.canText ?? false,
      birthDate,
      tags: settled.tags,
      consent: consent === null ? null : { given: consent, at: from.now, how: "list" },
    } as Person;
    if (!settled.visit) return null;
    const { isBranchNamed: _, ...visited } = settled.visit as IncomingVisit;
    const visit = {
      ...NO_VISIT,
      ...visited,
      id: `visit ${index}`,
      clientId: scope.clientId,
      personId: person.id,
      createdAt: from.now,
    } as Visit;
    if (waitsForWords(visit.words)) return { code: "waits for names" };
    if (visit.endsAt > from.now && visit.outcome !== "cancelled") return { code: "decided later" };
    const { plan, alsoTakenBy } = planOf(plans, visit);
    const verdict = checkEligibility(facts.forVisit(plan, alsoTakenBy, visit, person));
    if (!verdict.asked) return { code: "left out", reason: verdict.reason };
    return plan === null ? { code: "left out", reason: "no plan" } : { code: "asked", at: from.now };
  });
}
