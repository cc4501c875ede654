import type { Arrival } from "@/core/intake/arrival";
import type { Field } from "@/core/intake/fields";
import type { Remark } from "@/core/intake/remarks";
import { stopAsksOfVisits, stopUnwanted } from "@/features/asks";
import type { Setting } from "@/features/clients";
import {
  noteVisits,
  type Person,
  refreshLastVisits,
  type UpsertedPerson,
  type UpsertOptions,
  upsertPeople,
} from "@/features/people";
import { type IncomingVisit, type UpsertedVisit, upsertVisits, type Visit, type VisitsDryRun } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { loadNames, type Names, saveUnknownNames } from "./names";
import { visitOfRow } from "./rowIds";

/** `row`: where it stands in its list, for lists that are read as a whole. */
export type IngestItem = { arrival: Arrival; saidAt?: number | null; row?: number };

export type IngestOptions = UpsertOptions & {
  way: Visit["source"];
  feedId?: string | null;
  /** Whether plans look at the visits. */
  looked: boolean;
  /** For visits that name none. */
  serviceId: string | null;
  branchId: string | null;
  now: number;
  visitsRehearsal?: VisitsDryRun;
  /** Names that were loaded already. */
  names?: Names;
};

/** What became of one arrival. `kind` is of person and visit together: nothing new at all is "unchanged". */
export type IngestResult = {
  kind: "new" | "changed" | "unchanged" | "refused";
  person: Person | null;
  visit: Visit | null;
  visitKind: UpsertedVisit["kind"] | null;
  remarks: Remark[];
  why: "erased" | null;
  before: Partial<Person> | null;
  after: Partial<Person> | null;
};

/**
 * The one way in. Whatever brings people and visits (a form, a list, a feed, the API) ends here: names are settled,
 * people found or added, visits found or added, and plans look at what is over. Gives one result for each arrival, in
 * order.
 */
export async function ingest(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  coming: readonly IngestItem[],
  options: IngestOptions,
): Promise<IngestResult[]> {
  if (coming.length === 0) return [];
  const names = options.names ?? (await loadNames(tx, scope, setting));
  const settled = coming.map(({ arrival, saidAt }) => settleNames(arrival, saidAt ?? null, names, setting, options));
  const people = await upsertPeople(
    tx,
    scope,
    coming.map(({ arrival }, index) => ({
      ...arrival.person,
      tags: settled[index].tags,
      visit: settled[index].visit?.outcome === "cancelled" ? null : settled[index].visit,
    })),
    options.now,
    options,
  );
  const rows = people.flatMap((kept, index) => {
    const visit = settled[index].visit;
    if (!kept.person || !visit) return [];
    const { row } = coming[index];
    const id = row !== undefined && options.intakeId ? visitOfRow(options.intakeId, row) : undefined;
    return [{ index, visit: { ...visit, id, personId: kept.person.id, isOfNewPerson: kept.kind === "new" } }];
  });
  const visits = await upsertVisits(
    tx,
    scope,
    rows.map(({ visit }) => visit),
    options.now,
    options.visitsRehearsal,
  );
  const visitOf = new Map(rows.map(({ index }, at) => [index, visits[at]]));
  const results = people.map((kept, index) =>
    resultOf(kept, visitOf.get(index) ?? null, [...coming[index].arrival.remarks, ...settled[index].remarks]),
  );
  if (options.rehearsal) return results;
  await noteVisits(
    tx,
    scope,
    visits.flatMap(({ visit, kind }, at) =>
      kind === "new" && visit.outcome !== "cancelled" && people[rows[at].index].kind !== "new" ? [visit] : [],
    ),
  );
  // A visit that was moved or cancelled may have been the last.
  await refreshLastVisits(tx, scope, [
    ...new Set(visits.flatMap(({ visit, kind }) => (kind === "changed" ? [visit.personId] : []))),
  ]);
  await stopCancelled(tx, scope, visits, options.now);
  const withdrawn = people.flatMap((kept) =>
    kept.kind === "changed" && (kept.after.consent?.given === false || kept.after.tags) ? [kept.person.id] : [],
  );
  await stopUnwanted(tx, scope, withdrawn, options.now);
  await saveUnknownNames(tx, scope, names, options.now);
  return results;
}

type Settled = { tags: string[]; visit: Omit<IncomingVisit, "personId"> | null; remarks: IngestResult["remarks"] };

/**
 * Words to the client's services, branches, team members and tags. Unknown words stay beside the visit, which waits
 * for them.
 */
export function settleNames(
  arrival: Arrival,
  saidAt: number | null,
  names: Names,
  setting: Setting,
  options: Pick<IngestOptions, "way" | "feedId" | "intakeId" | "looked" | "serviceId" | "branchId">,
): Settled {
  const remarks: IngestResult["remarks"] = [];
  const tagName = new Map(setting.tags.map(({ id, name }) => [id, name]));
  const tags = arrival.person.tags.flatMap((tag) => {
    const meaning = names.look("tag", tag);
    if (meaning === "nothing") return [];
    if (meaning !== "unknown") return tagName.get(meaning.id) ?? [];
    remarks.push({ code: "unknown tag", field: "tags", text: tag });
    return `${names.spelling("tag", tag)} ?`;
  });
  const { visit } = arrival;
  if (!visit) return { tags, visit: null, remarks };
  const words: NonNullable<Visit["words"]> = {};
  const settle = (
    kind: "service" | "branch" | "team",
    text: string | null,
    field: "service" | "branch" | "team member",
  ): string | null | "nothing" => {
    if (!text) return null;
    const meaning = names.look(kind, text);
    if (meaning === "nothing") return "nothing";
    if (meaning !== "unknown") return meaning.id;
    words[kind] = names.spelling(kind, text);
    remarks.push({ code: `unknown ${field}`, field, text });
    return null;
  };
  const service = settle("service", visit.service, "service");
  if (service === "nothing") {
    remarks.push({ code: "counts as no visit", field: "service", text: visit.service ?? "" });
    return { tags, visit: null, remarks };
  }
  const branch = settle("branch", visit.branch, "branch");
  const team = settle("team", visit.teamMember, "team member");
  return {
    tags,
    remarks,
    visit: {
      externalId: visit.externalId,
      kind: visit.kind,
      endsAt: visit.endsAt,
      ...(visit.day ? { day: visit.day } : {}),
      outcome: visit.outcome,
      about: visit.about,
      serviceId: service ?? (words.service ? null : options.serviceId),
      isServiceNamed: service !== null || words.service !== undefined,
      branchId: (branch === "nothing" ? null : branch) ?? options.branchId ?? setting.branches[0].id,
      isBranchNamed: branch !== null && branch !== "nothing",
      teamMemberId: team === "nothing" ? null : team,
      words: Object.keys(words).length > 0 ? words : null,
      source: options.way,
      feedId: options.feedId ?? null,
      intakeId: options.intakeId ?? null,
      saidAt,
      looked: options.looked,
    },
  };
}

/** A visit that turns out cancelled or missed ends its ask at once. */
async function stopCancelled(tx: Tx, scope: Scope, kept: readonly UpsertedVisit[], now: number): Promise<void> {
  const gone = kept.filter(
    ({ kind, visit, before }) =>
      kind === "changed" &&
      before?.outcome !== visit.outcome &&
      (visit.outcome === "cancelled" || visit.outcome === "no-show"),
  );
  await stopAsksOfVisits(
    tx,
    scope,
    gone.map(({ visit }) => visit.id),
    now,
  );
}

/** A person who is here already, as the fields of a row that names them. */
export function fieldsOfKnown(person: Person): Partial<Record<Field, string>> {
  return {
    "customer number": person.externalId ?? "",
    "given name": person.given,
    "family name": person.family,
    email: person.email ?? "",
    phone: person.phone ?? "",
  };
}

function resultOf(kept: UpsertedPerson, visit: UpsertedVisit | null, remarks: IngestResult["remarks"]): IngestResult {
  if (kept.kind === "refused")
    return {
      kind: "refused",
      person: null,
      visit: null,
      visitKind: null,
      remarks,
      why: kept.why,
      before: null,
      after: null,
    };
  const doubt = kept.doubt ? [{ ...kept.doubt, field: "full name" as const }] : [];
  const kind =
    kept.kind === "new"
      ? "new"
      : kept.kind === "changed" || (visit && visit.kind !== "unchanged")
        ? "changed"
        : "unchanged";
  return {
    kind,
    person: kept.person,
    visit: visit?.visit ?? null,
    visitKind: visit?.kind ?? null,
    remarks: [...remarks, ...doubt],
    why: null,
    before: kept.kind === "changed" ? kept.before : null,
    after: kept.kind === "changed" ? kept.after : null,
  };
}
