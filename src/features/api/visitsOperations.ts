import { z } from "@hono/zod-openapi";
import { eq } from "drizzle-orm";
import { OUTCOMES } from "@/core/asks/findings";
import type { Field } from "@/core/intake/fields";
import { stopAsksOfVisits } from "@/features/asks";
import { fieldsOfKnown } from "@/features/intake";
import { findPerson } from "@/features/people";
import { setOutcome } from "@/features/visits";
import { visits } from "@/schema/visits";
import { arrivalOf, fieldsOf, ingestArrival } from "./arrivals";
import * as m from "./models";
import { missing, type Operation, oneOf, Problem, page, pageOf } from "./operation";

/** Visits, as the API gives and takes them. */
export const VISITS: Operation[] = [
  {
    id: "listVisits",
    method: "GET",
    path: "/visits",
    scope: "visits:read",
    summary: "Visits, in the order they came in",
    query: z.object({
      ...page,
      person_id: z.uuid().optional(),
      external_id: z.string().max(100).optional(),
      outcome: z.enum(OUTCOMES).optional(),
    }),
    gives: { model: m.visitModel, many: true },
    run: (call) => {
      const { person_id, external_id, outcome } = call.query as Record<string, string | undefined>;
      return pageOf(
        call,
        visits,
        [
          person_id ? eq(visits.personId, person_id) : undefined,
          external_id ? eq(visits.externalId, external_id) : undefined,
          outcome ? eq(visits.outcome, outcome as "booked") : undefined,
        ],
        m.visitJson,
      );
    },
  },
  {
    id: "upsertVisit",
    method: "POST",
    path: "/visits",
    scope: "visits:write",
    summary: "Add a visit, or change the one with this number; plans decide about it when it ends",
    body: m.visitInput,
    gives: { model: m.visitModel, status: 201 },
    run: async (call) => {
      const it = call.body as z.output<typeof m.visitInput>;
      const { services, branches, team } = call.setting;
      requireOwn(services, it.service_id, "service_id");
      requireOwn(branches, it.branch_id, "branch_id");
      requireOwn(team, it.team_member_id, "team_member_id");
      let person: Partial<Record<Field, string>>;
      if (it.person) person = fieldsOf(it.person);
      else {
        const known = it.person_id ? await findPerson(call.tx, call.scope, it.person_id) : null;
        if (!known || known.erasedAt || known.mergedInto)
          throw new Problem(422, "This person doesn’t exist.", [
            { pointer: "#/person_id", detail: "This person doesn’t exist." },
          ]);
        person = fieldsOfKnown(known);
      }
      const arrival = arrivalOf(
        call,
        {
          ...person,
          "visit number": it.external_id ?? "",
          "visit date": it.ends_at,
          outcome: it.outcome ?? "",
          service: nameIn(services, it.service_id, it.service),
          branch: nameIn(branches, it.branch_id, it.branch),
          "team member": nameIn(team, it.team_member_id, it.team_member),
          about: it.about ?? "",
        },
        it.person ? "person/" : "",
        it.kind,
      );
      const taken = await ingestArrival(call, arrival);
      if (!taken.visit) throw new Problem(409, "This service is set not to count as a visit, under Set-up.");
      return { status: taken.visitKind === "new" ? 201 : 200, body: m.visitJson(taken.visit) };
    },
  },
  {
    id: "getVisit",
    method: "GET",
    path: "/visits/{id}",
    scope: "visits:read",
    summary: "One visit, with what was decided about it",
    gives: { model: m.visitModel },
    run: async (call) => ({ body: m.visitJson(await oneOf(call, visits, "visit")) }),
  },
  {
    id: "changeVisit",
    method: "PATCH",
    path: "/visits/{id}",
    scope: "visits:write",
    summary: "Say what happened at a visit; cancelling it stops its ask",
    body: m.visitChange,
    gives: { model: m.visitModel },
    run: async (call) => {
      const { outcome } = call.body as z.output<typeof m.visitChange>;
      const visit = await setOutcome(call.tx, call.scope, call.who, call.path.id, outcome, call.now);
      if (!visit) throw missing("visit");
      if (outcome === "cancelled" || outcome === "no-show") {
        await stopAsksOfVisits(call.tx, call.scope, [visit.id], call.now);
      }
      return { body: m.visitJson(visit) };
    },
  },
];

const requireOwn = (list: { id: string }[], id: string | undefined, pointer: string) => {
  if (id && !list.some((one) => one.id === id))
    throw new Problem(422, "This doesn’t exist.", [
      { pointer: `#/${pointer}`, detail: "This identifier doesn't belong to the client." },
    ]);
};

const nameIn = (list: { id: string; name: string }[], id: string | undefined, name: string | undefined) =>
  list.find((one) => one.id === id)?.name ?? name ?? "";
