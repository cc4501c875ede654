import type { z } from "@hono/zod-openapi";
import { type Arrival, parseArrival, type VisitKind } from "@/core/intake/arrival";
import type { Field } from "@/core/intake/fields";
import { ingest } from "@/features/intake";
import { remarkSentence, remarkSentences } from "@/locales/intake";
import type * as m from "./models";

import { type Call, Problem } from "./operation";

/** People and visits as calls name them, taken in as any other arrival. */

export type PersonIn = z.output<typeof m.personInput>;

export function fieldsOf(person: PersonIn): Partial<Record<Field, string>> {
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

export const POINTERS: Partial<Record<Field, string>> = {
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
export function arrivalOf(
  call: Call,
  fields: Partial<Record<Field, string>>,
  prefix: string,
  kind?: VisitKind,
): Arrival {
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

export async function ingestArrival(
  call: Call,
  arrival: Arrival,
  ids: { serviceId?: string | null; branchId?: string | null } = {},
) {
  const [taken] = await ingest(call.tx, call.scope, call.setting, [{ arrival }], {
    source: `API, ${call.who}`,
    sharedAddress: "another person",
    replaces: true,
    way: "API",
    looked: true,
    serviceId: ids.serviceId ?? null,
    branchId: ids.branchId ?? null,
    now: call.now,
  });
  if (taken.kind === "refused" || !taken.person) throw new Problem(409, taken.why ?? "This person can’t be added.");
  return taken;
}
