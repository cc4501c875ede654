import { z } from "@hono/zod-openapi";
import { and, asc, eq, gt, isNull, type SQL } from "drizzle-orm";
import type { AnyPgColumn, PgTable } from "drizzle-orm/pg-core";
import { OUTCOMES } from "@/core/asks/findings";
import { normaliseEmail } from "@/core/contacts/email";
import { normalisePhone } from "@/core/contacts/phone";
import { type Arrival, parseArrival, type VisitKind } from "@/core/intake/arrival";
import type { Field } from "@/core/intake/fields";
import { askByHand, beginningOf, stopAsks, stopAsksOfVisits, stopUnwanted } from "@/features/asks";
import type { Setting } from "@/features/clients";
import { changeFeed, fieldsOfKnown, findFeed, ingest, retryInboundEvent } from "@/features/intake";
import { changePerson, findPerson } from "@/features/people";
import { erasePeople, restMany } from "@/features/people-admin";
import { planForHand } from "@/features/plans";
import { setOutcome } from "@/features/visits";
import { lastTraceSentence } from "@/locales/asking";
import { remarkSentence, remarkSentences } from "@/locales/intake";
import type { Scope, Tx } from "@/platform/database";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { feeds, inboundEvents } from "@/schema/feeds";
import { MESSAGE_STATES, messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import type { ApiScope } from "./keys";
import * as m from "./models";

/**
 * Every operation of the API: its address, what it takes, what it gives and what it does. The router and the OpenAPI
 * document are both made from this list.
 */

/** A call that cannot be followed: problem details with this status. */
export class Problem extends Error {
  constructor(
    readonly status: number,
    detail: string,
    readonly errors?: { pointer: string; detail: string }[],
  ) {
    super(detail);
  }
}

export type Call = {
  tx: Tx;
  scope: Scope;
  setting: Setting;
  now: number;
  who: string;
  path: Record<string, string>;
  query: Record<string, unknown>;
  body: unknown;
};

export type Operation = {
  id: string;
  method: "GET" | "POST" | "PATCH" | "DELETE";
  path: string;
  scope: ApiScope;
  summary: string;
  query?: z.ZodObject;
  body?: z.ZodType;
  /** The model it gives: one, a page of them, or nothing. */
  gives: { model: z.ZodType; many?: boolean; status?: number } | null;
  run: (call: Call) => Promise<{ status?: number; body: unknown }>;
};

const page = {
  limit: z.coerce.number().int().min(1).max(200).default(50).describe("How many at most"),
  after: z.uuid().optional().describe("The `next` of the page before"),
};
const missing = (what: string) => new Problem(404, `There is no such ${what}.`);

/** One page of a table by key: oldest first, since identifiers grow with time. */
async function pageOf<Row extends { id: string }>(
  call: Call,
  table: PgTable & { id: AnyPgColumn; clientId: AnyPgColumn },
  where: (SQL | undefined)[],
  json: (row: never) => unknown,
) {
  const { limit, after } = call.query as { limit: number; after?: string };
  const rows = (await call.tx
    .select()
    .from(table)
    .where(and(eq(table.clientId, call.scope.clientId), after ? gt(table.id, after) : undefined, ...where))
    .orderBy(asc(table.id))
    .limit(limit + 1)) as Row[];
  const items = rows.slice(0, limit);
  return {
    body: {
      items: items.map((row) => json(row as never)),
      next: rows.length > limit ? items[items.length - 1].id : null,
    },
  };
}

async function oneOf<Row>(
  call: Call,
  table: PgTable & { id: AnyPgColumn; clientId: AnyPgColumn },
  what: string,
): Promise<Row> {
  const [row] = await call.tx
    .select()
    .from(table)
    .where(and(eq(table.clientId, call.scope.clientId), eq(table.id, call.path.id)));
  if (!row) throw missing(what);
  return row as Row;
}

type PersonIn = z.output<typeof m.personInput>;

function fieldsOf(person: PersonIn): Partial<Record<Field, string>> {
  return {
    "customer number": person.external_id ?? "",
    "full name": person.name ?? "",
    "given name": person.given_name ?? "",
    "family name": person.family_name ?? "",
    email: person.email ?? "",
    phone: person.phone ?? "",
    language: person.language ?? "",
    "birth date": person.birth_date ?? "",
    "postal address": person.postal_address ?? "",
    tags: (person.tags ?? []).join(","),
    note: person.note ?? "",
    consent: person.consent === undefined ? "" : person.consent ? "yes" : "no",
    "guardian name": person.guardian?.name ?? "",
    "guardian email": person.guardian?.email ?? "",
    "guardian phone": person.guardian?.phone ?? "",
  };
}

const POINTERS: Partial<Record<Field, string>> = {
  email: "email",
  phone: "phone",
  "full name": "name",
  "birth date": "birth_date",
  "guardian name": "guardian",
  "guardian email": "guardian/email",
  "guardian phone": "guardian/phone",
  "visit date": "ends_at",
};

/** The one reading of arrivals; where a list would go on with a remark, a program is told what is wrong. */
function arrivalOf(call: Call, fields: Partial<Record<Field, string>>, prefix: string, kind?: VisitKind): Arrival {
  const { client } = call.setting;
  const read = parseArrival(fields, {
    country: client.country,
    zone: client.zone,
    now: call.now,
    order: "day first",
    undated: "no visit",
    kind,
  });
  const wrong =
    "problems" in read
      ? read.problems
      : read.remarks.filter(({ field }) =>
          ["email", "phone", "birth date", "guardian name", "guardian email", "guardian phone"].includes(field),
        );
  if ("problems" in read || wrong.length > 0) {
    throw new Problem(
      422,
      remarkSentences(wrong),
      wrong.map((remark) => ({
        pointer: `#/${prefix}${POINTERS[remark.field] ?? remark.field}`,
        detail: remarkSentence(remark),
      })),
    );
  }
  return read;
}

async function take(call: Call, arrival: Arrival, ids: { serviceId?: string | null; branchId?: string | null } = {}) {
  const [taken] = await ingest(call.tx, call.scope, call.setting, [{ arrival }], {
    source: `API, ${call.who}`,
    sharedAddress: "same person",
    replaces: true,
    way: "API",
    looked: true,
    serviceId: ids.serviceId ?? null,
    branchId: ids.branchId ?? null,
    now: call.now,
  });
  if (taken.kind === "refused" || !taken.person) throw new Problem(409, taken.why ?? "This person cannot be taken in.");
  return taken;
}

const requireOwn = (list: { id: string }[], id: string | undefined, pointer: string) => {
  if (id && !list.some((one) => one.id === id))
    throw new Problem(422, "There is no such thing.", [
      { pointer: `#/${pointer}`, detail: "This identifier is not one of the client's." },
    ]);
};

const nameIn = (list: { id: string; name: string }[], id: string | undefined, name: string | undefined) =>
  list.find((one) => one.id === id)?.name ?? name ?? "";

export const OPERATIONS: Operation[] = [
  {
    id: "listPeople",
    method: "GET",
    path: "/people",
    scope: "people:read",
    summary: "People, oldest first",
    query: z.object({
      ...page,
      email: z.string().max(254).optional(),
      phone: z.string().max(40).optional(),
      external_id: z.string().max(100).optional(),
    }),
    gives: { model: m.personModel, many: true },
    run: (call) => {
      const { email, phone, external_id } = call.query as Record<string, string | undefined>;
      const number = phone ? (normalisePhone(phone, call.setting.client.country)?.number ?? phone) : undefined;
      return pageOf(
        call,
        people,
        [
          email ? eq(people.email, normaliseEmail(email) ?? email) : undefined,
          number ? eq(people.phone, number) : undefined,
          external_id ? eq(people.externalId, external_id) : undefined,
          isNull(people.mergedInto),
          isNull(people.erasedAt),
        ],
        m.personJson,
      );
    },
  },
  {
    id: "keepPerson",
    method: "POST",
    path: "/people",
    scope: "people:write",
    summary: "Add a person, or find and complete the one who is here already",
    body: m.personInput,
    gives: { model: m.personModel, status: 201 },
    run: async (call) => {
      const taken = await take(call, arrivalOf(call, fieldsOf(call.body as PersonIn), ""));
      return { status: taken.kind === "new" ? 201 : 200, body: m.personJson(taken.person as never) };
    },
  },
  {
    id: "getPerson",
    method: "GET",
    path: "/people/{id}",
    scope: "people:read",
    summary: "One person",
    gives: { model: m.personModel },
    run: async (call) => ({ body: m.personJson(await present(call)) }),
  },
  {
    id: "changePerson",
    method: "PATCH",
    path: "/people/{id}",
    scope: "people:write",
    summary: "Change a person",
    body: m.personChange,
    gives: { model: m.personModel },
    run: async (call) => {
      const before = await present(call);
      const change = call.body as z.output<typeof m.personChange>;
      const { country } = call.setting.client;
      const email = change.email ? normaliseEmail(change.email) : change.email;
      const phone = change.phone
        ? normalisePhone(change.phone, country)
        : change.phone === undefined
          ? undefined
          : null;
      const wrong = [
        ...(change.email && !email ? [{ pointer: "#/email", detail: "This is not an email address." }] : []),
        ...(change.phone && !phone ? [{ pointer: "#/phone", detail: "This is not a phone number." }] : []),
        ...(change.tags ?? []).flatMap((tag) =>
          call.setting.tags.some(({ name }) => name === tag)
            ? []
            : [{ pointer: "#/tags", detail: `There is no tag “${tag}”.` }],
        ),
      ];
      if (wrong.length > 0) throw new Problem(422, wrong[0].detail, wrong);
      const kept = await changePerson(
        call.tx,
        call.scope,
        call.who,
        before.id,
        {
          given: change.given_name,
          family: change.family_name,
          email: email || (email === undefined ? undefined : null),
          phone,
          note: change.note,
          doNotAsk: change.do_not_ask === undefined ? undefined : change.do_not_ask || null,
          language: change.language,
          zone: change.zone,
          birthDate: change.birth_date,
          postalAddress: change.postal_address,
          tags: change.tags,
        },
        call.now,
      );
      await stopUnwanted(call.tx, call.scope, [before.id], call.now);
      if (change.rest_until !== undefined)
        await restMany(
          call.tx,
          call.scope,
          [before.id],
          change.rest_until === null ? null : Date.parse(change.rest_until),
          "",
          call.who,
          call.now,
        );
      return { body: m.personJson((await findPerson(call.tx, call.scope, before.id)) ?? kept ?? before) };
    },
  },
  {
    id: "erasePerson",
    method: "DELETE",
    path: "/people/{id}",
    scope: "people:write",
    summary: "Erase a person for good; numbers stay right, and no list brings them back",
    gives: null,
    run: async (call) => {
      const person = await present(call);
      await erasePeople(call.tx, call.scope, [person.id], call.who, call.now);
      return { status: 204, body: null };
    },
  },
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
    id: "keepVisit",
    method: "POST",
    path: "/visits",
    scope: "visits:write",
    summary: "Add a visit, or change the one with this number; plans look at it when it ends",
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
          throw new Problem(422, "There is no such person.", [
            { pointer: "#/person_id", detail: "There is no such person." },
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
      const taken = await take(call, arrival);
      if (!taken.visit) throw new Problem(409, "This service counts as no visit, as somebody said under Set-up.");
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
  {
    id: "listAsks",
    method: "GET",
    path: "/asks",
    scope: "asks:read",
    summary: "Asks, in the order they began",
    query: z.object({ ...page, person_id: z.uuid().optional(), visit_id: z.uuid().optional() }),
    gives: { model: m.askModel, many: true },
    run: (call) => {
      const { person_id, visit_id } = call.query as Record<string, string | undefined>;
      return pageOf(
        call,
        asks,
        [person_id ? eq(asks.personId, person_id) : undefined, visit_id ? eq(asks.visitId, visit_id) : undefined],
        m.askJson,
      );
    },
  },
  {
    id: "ask",
    method: "POST",
    path: "/asks",
    scope: "asks:write",
    summary: "Ask somebody about a visit now; the first message leaves as soon as the send hours allow",
    body: m.askInput,
    gives: { model: m.askModel, status: 201 },
    run: async (call) => {
      const it = call.body as z.output<typeof m.askInput>;
      const [visit] = await call.tx
        .select()
        .from(visits)
        .where(and(eq(visits.clientId, call.scope.clientId), eq(visits.id, it.visit_id)));
      if (!visit)
        throw new Problem(422, "There is no such visit.", [
          { pointer: "#/visit_id", detail: "There is no such visit." },
        ]);
      const plan = await planForHand(call.tx, call.scope, beginningOf(visit));
      const usual = plan?.rules.steps[0].channel;
      const asked = await askByHand(call.tx, call.scope, {
        visit: {
          ...visit,
          outcome: visit.outcome === "booked" && visit.endsAt <= call.now ? "finished" : visit.outcome,
        },
        channel: it.channel ?? (usual === "email" ? "email" : "text"),
        who: call.who,
        requestKey: `api ${visit.id} ${call.now}`,
        now: call.now,
      });
      if ("refused" in asked) throw new Problem(409, `Not asked. ${lastTraceSentence(asked.refused.trace)}`);
      const [ask] = await call.tx.select().from(asks).where(eq(asks.id, asked.askId));
      return { status: 201, body: m.askJson(ask) };
    },
  },
  {
    id: "getAsk",
    method: "GET",
    path: "/asks/{id}",
    scope: "asks:read",
    summary: "One ask",
    gives: { model: m.askModel },
    run: async (call) => ({ body: m.askJson(await oneOf(call, asks, "ask")) }),
  },
  {
    id: "stopAsk",
    method: "POST",
    path: "/asks/{id}/stop",
    scope: "asks:write",
    summary: "End an ask: nothing of it leaves any more",
    gives: { model: m.askModel },
    run: async (call) => {
      await oneOf(call, asks, "ask");
      await stopAsks(call.tx, call.scope, [call.path.id], "cancelled by hand", call.now);
      return { body: m.askJson(await oneOf(call, asks, "ask")) };
    },
  },
  {
    id: "listMessages",
    method: "GET",
    path: "/messages",
    scope: "messages:read",
    summary: "Messages out and in",
    query: z.object({
      ...page,
      person_id: z.uuid().optional(),
      ask_id: z.uuid().optional(),
      state: z.enum(MESSAGE_STATES).optional(),
    }),
    gives: { model: m.messageModel, many: true },
    run: (call) => {
      const { person_id, ask_id, state } = call.query as Record<string, string | undefined>;
      return pageOf(
        call,
        messages,
        [
          person_id ? eq(messages.personId, person_id) : undefined,
          ask_id ? eq(messages.askId, ask_id) : undefined,
          state ? eq(messages.state, state as "planned") : undefined,
        ],
        m.messageJson,
      );
    },
  },
  {
    id: "getMessage",
    method: "GET",
    path: "/messages/{id}",
    scope: "messages:read",
    summary: "One message",
    gives: { model: m.messageModel },
    run: async (call) => ({ body: m.messageJson(await oneOf(call, messages, "message")) }),
  },
  {
    id: "listAnswers",
    method: "GET",
    path: "/answers",
    scope: "answers:read",
    summary: "Answers, in the order they were given",
    query: z.object({ ...page, person_id: z.uuid().optional() }),
    gives: { model: m.answerModel, many: true },
    run: (call) =>
      pageOf(
        call,
        answers,
        [call.query.person_id ? eq(answers.personId, String(call.query.person_id)) : undefined],
        m.answerJson,
      ),
  },
  {
    id: "getAnswer",
    method: "GET",
    path: "/answers/{id}",
    scope: "answers:read",
    summary: "One answer",
    gives: { model: m.answerModel },
    run: async (call) => ({ body: m.answerJson(await oneOf(call, answers, "answer")) }),
  },
  {
    id: "listFeeds",
    method: "GET",
    path: "/feeds",
    scope: "feeds:read",
    summary: "Feeds; secrets and links are never given",
    query: z.object(page),
    gives: { model: m.feedModel, many: true },
    run: (call) => pageOf(call, feeds, [], m.feedJson),
  },
  {
    id: "getFeed",
    method: "GET",
    path: "/feeds/{id}",
    scope: "feeds:read",
    summary: "One feed",
    gives: { model: m.feedModel },
    run: async (call) => ({ body: m.feedJson(await oneOf(call, feeds, "feed")) }),
  },
  {
    id: "changeFeed",
    method: "PATCH",
    path: "/feeds/{id}",
    scope: "feeds:write",
    summary: "Turn a feed on or off",
    body: m.feedChange,
    gives: { model: m.feedModel },
    run: async (call) => {
      const feed = await findFeed(call.tx, call.scope, call.path.id);
      if (!feed) throw missing("feed");
      await changeFeed(call.tx, call.scope, call.who, feed, call.body as z.output<typeof m.feedChange>, call.now);
      return { body: m.feedJson(await oneOf(call, feeds, "feed")) };
    },
  },
  {
    id: "listDeliveries",
    method: "GET",
    path: "/feeds/{id}/deliveries",
    scope: "feeds:read",
    summary: "What a webhook feed delivered, oldest first",
    query: z.object(page),
    gives: { model: m.deliveryModel, many: true },
    run: async (call) => {
      await oneOf(call, feeds, "feed");
      return pageOf(call, inboundEvents, [eq(inboundEvents.feedId, call.path.id)], (row) =>
        m.deliveryJson(row, call.setting.client.zone, call.now),
      );
    },
  },
  {
    id: "retryDeliveries",
    method: "POST",
    path: "/feeds/{id}/deliveries/retry",
    scope: "feeds:write",
    summary: "Work on the failed deliveries of a feed once more",
    gives: { model: z.object({ again: z.int() }).meta({ id: "Again" }) },
    run: async (call) => {
      await oneOf(call, feeds, "feed");
      return { body: { again: await retryInboundEvent(call.tx, call.scope, call.path.id, null) } };
    },
  },
  ...(["services", "branches", "team-members", "tags"] as const).map(
    (path): Operation => ({
      id: `list${path[0].toUpperCase()}${path.slice(1).replace("-m", "M")}`,
      method: "GET",
      path: `/${path}`,
      scope: "visits:read",
      summary: `The client's ${path.replace("-", " ")}`,
      gives: { model: m.namedModel, many: true },
      run: async ({ setting }) => ({
        body: {
          items: {
            services: setting.services,
            branches: setting.branches,
            "team-members": setting.team,
            tags: setting.tags,
          }[path].map(({ id, name }) => ({ id, name })),
          next: null,
        },
      }),
    }),
  ),
];

async function present(call: Call) {
  const person = await findPerson(call.tx, call.scope, call.path.id);
  if (!person || person.erasedAt || person.mergedInto) throw missing("person");
  return person;
}
