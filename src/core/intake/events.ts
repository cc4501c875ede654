import { z } from "zod";
import { isInRange } from "../time/range";
import { type Arrival, type ArrivalSetting, parseArrival, type Unusable, type VisitKind } from "./arrival";
import type { EventResult } from "./feedReports";
import { FIELDS, type Field, headerKey } from "./fields";

/** Events of other programs to arrivals. A feed's mapping says where in a delivery each thing stands. */

export const EVENT_TYPES = [
  "visit booked",
  "visit finished",
  "visit cancelled",
  "visit missed",
  "invoice paid",
  "order placed",
  "stay ended",
] as const;
export type EventType = (typeof EVENT_TYPES)[number];

/** Path into a delivery ("data.customer.email"; a number picks from a list), or null when it is not there. */
export type Path = string | null;

export const feedMappingSchema = z.object({
  type: z.string().max(200),
  at: z.string().max(200).nullable(),
  fields: z.partialRecord(z.enum(FIELDS), z.string().max(200)),
  /** Their names for events, to ours. */
  types: z.record(z.string().max(100), z.enum([...EVENT_TYPES, "leave aside"])),
});
export type FeedMapping = z.infer<typeof feedMappingSchema>;

/** The shape that Estima itself suggests to programs that can choose. */
export const OWN_MAPPING: FeedMapping = {
  type: "type",
  at: "timestamp",
  fields: {
    "customer number": "data.person.id",
    "full name": "data.person.name",
    "given name": "data.person.given_name",
    "family name": "data.person.family_name",
    email: "data.person.email",
    phone: "data.person.phone",
    language: "data.person.language",
    "birth date": "data.person.birth_date",
    "guardian name": "data.person.guardian.name",
    "guardian email": "data.person.guardian.email",
    "guardian phone": "data.person.guardian.phone",
    tags: "data.person.tags",
    "visit number": "data.visit.id",
    "visit date": "data.visit.ends_at",
    service: "data.visit.service",
    branch: "data.visit.branch",
    "team member": "data.visit.team_member",
    about: "data.visit.about",
  },
  types: {},
};

/** The value at a path as text: lists are joined, objects and nothing are empty. */
export function valueAt(body: unknown, path: Path | undefined): string {
  if (!path) return "";
  let value: unknown = body;
  for (const part of path.split(".")) {
    if (Array.isArray(value)) value = value[Number(part)];
    else if (value !== null && typeof value === "object" && Object.hasOwn(value, part))
      value = (value as Record<string, unknown>)[part];
    else return "";
  }
  if (Array.isArray(value))
    return value.filter((each) => typeof each === "string" || typeof each === "number").join(", ");
  return typeof value === "string" || typeof value === "number" || typeof value === "boolean" ? String(value) : "";
}

/**
 * Every path of a delivery that holds a value, with the value: what a person picks from. At most 200, four levels
 * deep into lists.
 */
export function pathsOf(body: unknown, most = 200): { path: string; value: string }[] {
  const found: { path: string; value: string }[] = [];
  const walk = (value: unknown, path: string, depth: number) => {
    if (found.length >= most || depth > 8) return;
    if (value !== null && typeof value === "object") {
      for (const [name, inner] of Object.entries(value).slice(0, 100))
        walk(inner, path ? `${path}.${name}` : name, depth + 1);
    } else if (value !== null && value !== undefined && path) found.push({ path, value: String(value).slice(0, 200) });
  };
  walk(body, "", 0);
  return found;
}

const TYPE_WORDS: [EventType, RegExp][] = [
  ["visit missed", /no ?show|missed|did not attend|absent/],
  ["visit cancelled", /cancel|deleted|void/],
  ["invoice paid", /invoice|payment|paid/],
  ["order placed", /order|purchase|checkout completed/],
  ["stay ended", /stay|check ?out|checked out|departure/],
  ["visit finished", /finish|complete|done|closed|ended|attended/],
  ["visit booked", /book|creat|schedul|confirm|updat|reschedul/],
];

/** Which of our events a name means: as the feed says, or else by its words; null for a name that says nothing. */
export function eventTypeOf(name: string, mapping: FeedMapping): EventType | "leave aside" | null {
  const said = mapping.types[name];
  if (said) return said;
  const key = headerKey(name);
  // "customer.created" speaks of a person, and of no visit.
  if (/\b(?:customer|client|contact|person|patient|user)\b/.test(key) && !/visit|appointment|job|booking/.test(key))
    return null;
  return TYPE_WORDS.find(([, words]) => words.test(key))?.[0] ?? null;
}

const OUTCOME_OF: Record<EventType, string> = {
  "visit booked": "booked",
  "visit finished": "finished",
  "visit cancelled": "cancelled",
  "visit missed": "no-show",
  "invoice paid": "finished",
  "order placed": "finished",
  "stay ended": "finished",
};

const KIND_OF: Partial<Record<EventType, VisitKind>> = {
  "invoice paid": "invoice",
  "order placed": "order",
  "stay ended": "stay",
};

export type ReadEvent =
  | {
      kind: "arrival";
      type: EventType;
      arrival: Arrival /** When it happened, by the sender's clock. */;
      saidAt: number | null;
    }
  | { kind: "left aside"; why: Extract<EventResult, { code: "left aside" | "unknown event" | "names no event" }> }
  | { kind: "unusable"; problems: Unusable["problems"] };

/**
 * Reads one delivery after a feed's mapping. A visit without a day happened when the event did; `missing` fills in
 * for an event that names nobody.
 */
export function readEvent(
  body: unknown,
  mapping: FeedMapping,
  setting: Omit<ArrivalSetting, "undated" | "kind" | "order">,
  missing: Partial<Record<Field, string>> | null = null,
): ReadEvent {
  const name = valueAt(body, mapping.type);
  const type = eventTypeOf(name, mapping);
  if (type === "leave aside") return { kind: "left aside", why: { code: "left aside", event: name.slice(0, 60) } };
  if (!type)
    return {
      kind: "left aside",
      why: name ? { code: "unknown event", event: name.slice(0, 60) } : { code: "names no event" },
    };
  const fields: Partial<Record<Field, string>> = {};
  for (const [field, path] of Object.entries(mapping.fields)) {
    const value = valueAt(body, path);
    if (value) fields[field as Field] = value;
  }
  if (missing && !fields.email && !fields.phone && !fields["customer number"]) Object.assign(fields, missing);
  const at = valueAt(body, mapping.at);
  const instant = at ? Date.parse(at) : Number.NaN;
  const saidAt = isInRange(instant) ? instant : null;
  fields.outcome = OUTCOME_OF[type];
  if (!fields["visit date"])
    fields["visit date"] = new Date(Math.min(saidAt ?? setting.now, setting.now)).toISOString();
  const arrival = parseArrival(fields, {
    ...setting,
    order: "day first",
    undated: "today",
    kind: KIND_OF[type] ?? "appointment",
  });
  if ("problems" in arrival) return { kind: "unusable", problems: arrival.problems };
  // Whoever says that a visit is over means it, whatever end was planned.
  if (arrival.visit && type === "visit finished" && arrival.visit.endsAt > setting.now)
    arrival.visit = { ...arrival.visit, endsAt: Math.min(saidAt ?? setting.now, setting.now), outcome: "finished" };
  return { kind: "arrival", type, arrival, saidAt };
}
