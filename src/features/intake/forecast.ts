import { checkEligibility } from "@/core/asks/eligibility";
import type { Arrival } from "@/core/intake/arrival";
import type { ForecastVerdict } from "@/core/intake/forecast";
import { type ComingVisit, EligibilityFacts, type Fate, foretell, planOf } from "@/features/asks";
import type { Setting } from "@/features/clients";
import { NOBODY, nameOf, type Person } from "@/features/people";
import { listPlans } from "@/features/plans";
import { type IncomingVisit, NO_VISIT, type Visit, waitsForWords } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import type { Forecast, IntakeCounts, ReadingChoice } from "@/schema/intake";
import { type IngestOptions, ingest, settleNames } from "./ingest";
import { dryRunOptions } from "./listOptions";
import type { ReadRow } from "./listReading";
import type { Intake } from "./listState";
import { loadNames } from "./names";
import { inChunks } from "./readAhead";

export const CHUNK = 2500;
/** How many rows the forecast tells one by one; the rest is in the numbers. */
const TOLD = 300;

/**
 * What keeping a list and asking would do, row by row, by the very functions that do it, and without writing anything:
 * how many are new, changed, unchanged, doubtful, refused, and what plans would say to each visit.
 */
export async function previewImport(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  intake: Intake,
  rows: Iterable<ReadRow>,
  choice: ReadingChoice,
  now: number,
): Promise<Forecast> {
  const counts: IntakeCounts = { rows: 0, new: 0, changed: 0, unchanged: 0, refused: 0, doubtful: 0, visits: 0 };
  const names = await loadNames(tx, scope, setting);
  const options = dryRunOptions(intake, choice, names, now);
  const forecast: Forecast = {
    counts,
    asked: 0,
    leftOut: {},
    later: 0,
    firstLeaves: null,
    unknownNames: [],
    visits: [],
  };
  const told: { line: Forecast["visits"][number]; visitId: string }[] = [];
  /** What plans would look at, each visit once however many rows name it. */
  const coming = new Map<string, ComingVisit>();
  const tell = (row: number, visit: Visit, person: Person, what: ForecastVerdict) => {
    if (told.length < TOLD)
      told.push({ line: { row, name: nameOf(person), what, endsAt: visit.endsAt }, visitId: visit.id });
  };
  for await (const chunk of inChunks(rows, CHUNK)) {
    const usable = chunk.flatMap((row) => ("person" in row.read ? [{ row: row.row, arrival: row.read }] : []));
    counts.rows += chunk.length;
    counts.refused += chunk.length - usable.length;
    for (const [index, result] of (await ingest(tx, scope, setting, usable, options)).entries()) {
      counts[result.kind] += 1;
      if (result.kind !== "refused" && result.remarks.length > 0) counts.doubtful += 1;
      const { visit, person, visitKind } = result;
      if (!visit || !person || visitKind === "unchanged") continue;
      if (visitKind === "new") counts.visits += 1;
      const { row } = usable[index];
      if (waitsForWords(visit.words)) tell(row, visit, person, { code: "waits for names" });
      else if (visit.examineAt === null) continue;
      else if (visit.examineAt > now) tell(row, visit, person, { code: "decided later" });
      else tell(row, visit, person, { code: "not recorded" });
      if (visit.examineAt !== null) coming.set(visit.id, { visit, person });
    }
  }
  const fates = await foretell(tx, scope, setting, [...coming.values()], now);
  for (const { visit } of coming.values()) {
    const fate = fates.get(visit.id);
    if (!fate || fate.kind === "later" || (visit.examineAt ?? 0) > now) forecast.later = (forecast.later ?? 0) + 1;
    else if (fate.kind === "left out") forecast.leftOut[fate.reason] = (forecast.leftOut[fate.reason] ?? 0) + 1;
    else {
      forecast.asked += 1;
      forecast.firstLeaves = Math.min(forecast.firstLeaves ?? fate.at, fate.at);
    }
  }
  forecast.visits = told.map(({ line, visitId }) =>
    line.what.code === "not recorded" ? { ...line, what: verdictOf(fates.get(visitId)) } : line,
  );
  forecast.unknownNames = names.unknown().map(({ kind, name, times }) => ({ kind, name, count: times }));
  return forecast;
}

const verdictOf = (fate: Fate | undefined): ForecastVerdict =>
  fate?.kind === "asked"
    ? { code: "asked", at: fate.at }
    : fate?.kind === "left out"
      ? { code: "left out", reason: fate.reason }
      : { code: "decided later" };

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
