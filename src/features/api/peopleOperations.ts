import { z } from "@hono/zod-openapi";
import { eq, isNull } from "drizzle-orm";
import { normaliseEmail } from "@/core/contacts/email";
import { normalisePhone } from "@/core/contacts/phone";
import { stopUnwanted } from "@/features/asks";
import { changePerson, findPerson } from "@/features/people";
import { erasePeople, restMany } from "@/features/people-admin";
import { people } from "@/schema/people";
import { arrivalOf, fieldsOf, ingestArrival, type PersonIn } from "./arrivals";
import * as m from "./models";
import { type Call, missing, type Operation, Problem, page, pageOf } from "./operation";

/** People, as the API gives and takes them. */
export const PEOPLE: Operation[] = [
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
    id: "upsertPerson",
    method: "POST",
    path: "/people",
    scope: "people:write",
    summary: "Add a person, or find and update an existing one",
    body: m.personInput,
    gives: { model: m.personModel, status: 201 },
    run: async (call) => {
      const taken = await ingestArrival(call, arrivalOf(call, fieldsOf(call.body as PersonIn), ""));
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
        ...(change.email && !email ? [{ pointer: "#/email", detail: "That isn't an email address." }] : []),
        ...(change.phone && !phone ? [{ pointer: "#/phone", detail: "That isn't a phone number." }] : []),
        ...(change.tags ?? []).flatMap((tag) =>
          call.setting.tags.some(({ name }) => name === tag)
            ? []
            : [{ pointer: "#/tags", detail: `There's no tag “${tag}”.` }],
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
    summary: "Permanently erase a person; totals stay correct, and no list adds them again",
    gives: null,
    run: async (call) => {
      const person = await present(call);
      await erasePeople(call.tx, call.scope, [person.id], call.who, call.now);
      return { status: 204, body: null };
    },
  },
];

async function present(call: Call) {
  const person = await findPerson(call.tx, call.scope, call.path.id);
  if (!person || person.erasedAt || person.mergedInto) throw missing("person");
  return person;
}
