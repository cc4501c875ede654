import { z } from "@hono/zod-openapi";
import { OUTCOMES } from "@/core/asks/findings";
import { VISIT_KINDS } from "@/core/intake/arrival";
import { dayText, instantText } from "@/core/time/range";
import { capital } from "@/core/time/say";
import { isZone } from "@/core/time/zone";
import type { Ask } from "@/features/asks";
import type { Feed, InboundEvent } from "@/features/intake";
import { type Person, settledZone } from "@/features/people";
import type { Visit } from "@/features/visits";
import { messageSentence, reasonWords } from "@/locales/asking";
import { eventSentence, fetchProblemSentence, fetchSentence } from "@/locales/intake";
import type { answers } from "@/schema/answers";
import { MESSAGE_STATES, type messages } from "@/schema/messages";

/** The shapes of the API: JSON with snake_case names, instants in ISO 8601 (UTC), identifiers as UUIDs. */

const id = z.uuid();
const time = instantText;
const instant = (at: number | null) => (at === null ? null : new Date(at).toISOString());
const must = (at: number) => new Date(at).toISOString();

const addressState = z.enum(["works", "bounced", "opted out", "landline"]);

/** A code with its parameters, and what they say in English. */
const coded = z.looseObject({ code: z.string(), sentence: z.string() }).meta({ id: "Coded" });

export const personModel = z
  .object({
    id,
    external_id: z.string().nullable(),
    given_name: z.string(),
    family_name: z.string(),
    email: z.string().nullable(),
    email_state: addressState.nullable(),
    phone: z.string().nullable().describe("E.164"),
    phone_state: addressState.nullable(),
    language: z.string().nullable(),
    zone: z.string().nullable().describe("Their IANA time zone, used for text hours, where known"),
    birth_date: z.iso.date().nullable(),
    postal_address: z.string().nullable(),
    guardian_id: id.nullable(),
    household_id: id.nullable(),
    tags: z.array(z.string()),
    note: z.string(),
    do_not_ask: z.string().nullable().describe("Why this person is never asked"),
    consent: z.object({ given: z.boolean(), at: time, source: z.string() }).nullable(),
    rest_until: time.nullable(),
    last_visit_at: time.nullable(),
    last_asked_at: time.nullable(),
    last_answered_at: time.nullable(),
    created_at: time,
  })
  .meta({ id: "Person" });

export function personJson(person: Person): z.output<typeof personModel> {
  const { consent } = person;
  return {
    id: person.id,
    external_id: person.externalId,
    given_name: person.given,
    family_name: person.family,
    email: person.email,
    email_state:
      person.email === null ? null : person.emailOptedOutAt ? "opted out" : person.emailBouncedAt ? "bounced" : "works",
    phone: person.phone,
    phone_state:
      person.phone === null
        ? null
        : person.textOptedOutAt
          ? "opted out"
          : person.textBouncedAt
            ? "bounced"
            : person.phoneTakesTexts
              ? "works"
              : "landline",
    language: person.language,
    zone: settledZone(person),
    birth_date: person.birthDate,
    postal_address: person.postalAddress,
    guardian_id: person.guardianId,
    household_id: person.householdId,
    tags: person.tags,
    note: person.note,
    do_not_ask: person.doNotAsk,
    consent: consent && { given: consent.given, at: must(consent.at), source: consent.source },
    rest_until: instant(person.restUntil),
    last_visit_at: instant(person.lastVisitAt),
    last_asked_at: instant(person.lastAskedAt),
    last_answered_at: instant(person.lastAnsweredAt),
    created_at: must(person.createdAt),
  };
}

const short = (most: number) => z.string().trim().max(most);

export const personInput = z
  .object({
    external_id: short(100).optional().describe("Your own customer number; the same number is the same person"),
    name: short(120).optional().describe("The whole name, instead of given_name and family_name"),
    given_name: short(120).optional(),
    family_name: short(120).optional(),
    email: short(254).optional(),
    phone: short(40).optional().describe("In any usual format; the client's country is assumed"),
    language: short(20).optional(),
    birth_date: dayText.optional(),
    postal_address: short(300).optional(),
    tags: z
      .array(short(40))
      .max(20)
      .optional()
      .describe("Names of the client's tags; an unknown one waits to be matched"),
    note: short(2000).optional(),
    consent: z.boolean().optional(),
    guardian: z
      .strictObject({ name: short(120).optional(), email: short(254).optional(), phone: short(40).optional() })
      .optional()
      .describe("The adult we write to instead of a minor"),
  })
  .strict()
  .meta({ id: "PersonInput" });

export const personChange = z
  .object({
    given_name: short(120).min(1).optional(),
    family_name: short(120).optional(),
    email: short(254).nullable().optional(),
    phone: short(40).nullable().optional(),
    language: short(20).nullable().optional(),
    zone: short(60)
      .refine(isZone, "Name an IANA time zone, like America/New_York.")
      .nullable()
      .optional()
      .describe("Their time zone, for text hours; null to go by their phone number"),
    birth_date: dayText.nullable().optional(),
    postal_address: short(300).nullable().optional(),
    tags: z.array(short(60)).max(20).optional(),
    note: short(2000).optional(),
    do_not_ask: short(200).nullable().optional(),
    rest_until: time.nullable().optional(),
  })
  .strict()
  .meta({ id: "PersonChange" });

export const visitModel = z
  .object({
    id,
    external_id: z.string().nullable(),
    person_id: id,
    kind: z.enum(VISIT_KINDS),
    service_id: id.nullable(),
    service_words: z.string().nullable().describe("A service name nobody has matched yet; the visit waits"),
    branch_id: id,
    team_member_id: id.nullable(),
    about: z.string().nullable(),
    ends_at: time,
    outcome: z.enum(OUTCOMES),
    source: z.string(),
    decision: z.enum(["asked", "left out"]).nullable(),
    reason: coded.nullable().describe("Why it was left out"),
    created_at: time,
  })
  .meta({ id: "Visit" });

export function visitJson(visit: Visit): z.output<typeof visitModel> {
  return {
    id: visit.id,
    external_id: visit.externalId,
    person_id: visit.personId,
    kind: visit.kind,
    service_id: visit.serviceId,
    service_words: visit.words?.service ?? null,
    branch_id: visit.branchId,
    team_member_id: visit.teamMemberId,
    about: visit.about,
    ends_at: must(visit.endsAt),
    outcome: visit.outcome,
    source: visit.source,
    decision: visit.decision,
    reason: visit.reason && { code: visit.reason, sentence: `${capital(reasonWords(visit.reason))}.` },
    created_at: must(visit.createdAt),
  };
}

export const visitInput = z
  .object({
    person_id: id.optional(),
    person: personInput.optional().describe("Instead of person_id: found or added"),
    external_id: short(100).optional().describe("Your own visit number; the same number is the same visit"),
    kind: z.enum(VISIT_KINDS).default("appointment"),
    ends_at: time,
    outcome: z
      .enum(OUTCOMES)
      .optional()
      .describe("If missing, the time decides: booked before it ends, finished after"),
    service_id: id.optional(),
    service: short(120).optional().describe("By name, instead of service_id"),
    branch_id: id.optional(),
    branch: short(120).optional().describe("By name, instead of branch_id"),
    team_member_id: id.optional(),
    team_member: short(120).optional().describe("By name, instead of team_member_id"),
    about: short(60).optional(),
  })
  .strict()
  .refine((visit) => (visit.person_id === undefined) !== (visit.person === undefined), {
    path: ["person"],
    message: "Give either person_id or person.",
  })
  .meta({ id: "VisitInput" });

export const visitChange = z.strictObject({ outcome: z.enum(OUTCOMES) }).meta({ id: "VisitChange" });

export const askModel = z
  .object({
    id,
    person_id: id,
    visit_id: id,
    plan_id: id,
    by_hand: z.boolean(),
    sent_count: z.int(),
    last_sent_at: time.nullable(),
    state: z.enum(["open", "stopped", "ended"]),
    why: z.string().nullable(),
    answered_at: time.nullable(),
    created_at: time,
  })
  .meta({ id: "Ask" });

export function askJson(ask: Ask): z.output<typeof askModel> {
  return {
    id: ask.id,
    person_id: ask.personId,
    visit_id: ask.visitId,
    plan_id: ask.planId,
    by_hand: ask.byHand,
    sent_count: ask.sentCount,
    last_sent_at: instant(ask.lastSentAt),
    state: ask.stop ? "stopped" : ask.ended ? "ended" : "open",
    why: ask.stop ?? ask.ended,
    answered_at: instant(ask.answeredAt),
    created_at: must(ask.createdAt),
  };
}

export const askInput = z
  .strictObject({
    visit_id: id.describe("The visit to ask about"),
    channel: z.enum(["text", "email"]).optional().describe("If missing, the plan's first message decides"),
  })
  .meta({ id: "AskInput" });

export const messageModel = z
  .object({
    id,
    person_id: id.nullable(),
    ask_id: id.nullable(),
    direction: z.enum(["out", "in"]),
    channel: z.enum(["text", "email"]),
    state: z.enum(MESSAGE_STATES),
    reason: coded.nullable(),
    due_at: time.nullable(),
    sent_at: time.nullable(),
    delivered_at: time.nullable(),
    opened_at: time.nullable(),
    followed_at: time.nullable(),
    subject: z.string().nullable(),
    body: z.string().nullable(),
    parts: z.int().nullable(),
  })
  .meta({ id: "Message" });

export function messageJson(message: typeof messages.$inferSelect): z.output<typeof messageModel> {
  return {
    id: message.id,
    person_id: message.personId,
    ask_id: message.askId,
    direction: message.direction,
    channel: message.channel,
    state: message.state,
    reason: message.reason && { ...message.reason, sentence: messageSentence(message.reason) },
    due_at: instant(message.dueAt),
    sent_at: instant(message.sentAt),
    delivered_at: instant(message.deliveredAt),
    opened_at: instant(message.openedAt),
    followed_at: instant(message.followedAt),
    subject: message.subject,
    body: message.body,
    parts: message.parts,
  };
}

export const answerModel = z
  .object({
    id,
    ask_id: id.nullable(),
    person_id: id.nullable(),
    branch_id: id,
    rating: z.int().min(1).max(5).nullable(),
    words: z.string().nullable(),
    given_at: time,
  })
  .meta({ id: "Answer" });

export function answerJson(answer: typeof answers.$inferSelect): z.output<typeof answerModel> {
  return {
    id: answer.id,
    ask_id: answer.askId,
    person_id: answer.personId,
    branch_id: answer.branchId,
    rating: answer.rating,
    words: answer.words,
    given_at: must(answer.givenAt),
  };
}

export const feedModel = z
  .object({
    id,
    kind: z.enum(["webhook", "calendar", "drop-off", "end of day"]),
    name: z.string(),
    state: z.enum(["on", "off"]),
    fetched_at: time.nullable(),
    report: coded.nullable().describe("What the last fetch found"),
    problem: coded.nullable().describe("Why it could not be fetched"),
    created_at: time,
  })
  .meta({ id: "Feed" });

export function feedJson(feed: Feed): z.output<typeof feedModel> {
  return {
    id: feed.id,
    kind: feed.kind,
    name: feed.name,
    state: feed.state,
    fetched_at: instant(feed.polledAt),
    report: feed.report && { ...feed.report, sentence: fetchSentence(feed.report) },
    problem: feed.problem && { ...feed.problem, sentence: fetchProblemSentence(feed.problem) },
    created_at: must(feed.createdAt),
  };
}

export const feedChange = z.strictObject({ state: z.enum(["on", "off"]) }).meta({ id: "FeedChange" });

export const deliveryModel = z
  .object({
    id,
    event_id: z.string(),
    at: time,
    state: z.enum(["waiting", "done", "ignored", "failed"]),
    result: coded.nullable().describe("What it did"),
    person_id: id.nullable(),
    visit_id: id.nullable(),
  })
  .meta({ id: "Delivery" });

export function deliveryJson(delivery: InboundEvent, zone: string, now: number): z.output<typeof deliveryModel> {
  return {
    id: delivery.id,
    event_id: delivery.eventId,
    at: must(delivery.at),
    state: delivery.state,
    result: delivery.result && { ...delivery.result, sentence: eventSentence(delivery.result, zone, now) },
    person_id: delivery.personId,
    visit_id: delivery.visitId,
  };
}

export const namedModel = z.object({ id, name: z.string() }).meta({ id: "Named" });

export const problemModel = z
  .object({
    type: z.string(),
    title: z.string(),
    status: z.int(),
    detail: z.string(),
    errors: z.array(z.object({ pointer: z.string(), detail: z.string() })).optional(),
  })
  .meta({ id: "Problem", description: "Problem details (RFC 9457)" });
