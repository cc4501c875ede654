import { z } from "zod";
import { CHANNELS } from "../time/sendHours";

/**
 * What the rules of eligibility found, as codes with parameters: kept in rows, put into words by `src/locales`. Edit
 * this when a rule looks at something new; give the code its words in every catalogue.
 */

export const OUTCOMES = ["booked", "finished", "cancelled", "no-show"] as const;
export type VisitOutcome = (typeof OUTCOMES)[number];

export const REASONS = [
  "cancelled",
  "no-show",
  "not finished",
  "service never asked about",
  "do not ask",
  "no plan",
  "plan paused",
  "excluding tag",
  "lacks the tag",
  "minor without guardian",
  "opted out",
  "consent missing",
  "address bounced",
  "no reachable address",
  "too late",
  "another ask open",
  "household asked",
  "once only",
  "resting",
  "allowance used up",
  "concern waits",
] as const;
export type Reason = (typeof REASONS)[number];

const name = z.string();
const names = z.array(name);
/** Of the person themselves, or of the guardian who is written to. */
const whose = z.enum(["own", "guardian"]);
/** Whole days. */
const days = z.int();

/** The value that decided a rule. Names are data: of services, plans, tags and people. */
export const FINDING = z.discriminatedUnion("code", [
  z.object({ code: z.literal("outcome"), outcome: z.enum(OUTCOMES) }),
  z.object({ code: z.literal("not ended") }),
  z.object({ code: z.literal("not known yet") }),
  z.object({ code: z.literal("service"), service: name }),
  z.object({ code: z.literal("not marked") }),
  z.object({ code: z.literal("marked"), whose }),
  z.object({ code: z.literal("no plan begins") }),
  z.object({ code: z.literal("plan takes it"), plan: name, before: names }),
  z.object({ code: z.literal("plan running") }),
  z.object({ code: z.literal("plan paused") }),
  z.object({ code: z.literal("tagged"), tags: names, whose }),
  z.object({ code: z.literal("no excluding tag") }),
  z.object({ code: z.literal("no tag needed") }),
  z.object({ code: z.literal("not tagged"), tags: names }),
  z.object({ code: z.literal("of age") }),
  z.object({ code: z.literal("guardian known") }),
  z.object({ code: z.literal("no guardian known") }),
  z.object({ code: z.literal("opted out"), channels: z.array(z.enum(CHANNELS)) }),
  z.object({ code: z.literal("never opted out") }),
  z.object({ code: z.literal("consent"), given: z.boolean().nullable(), whose }),
  z.object({ code: z.literal("address bounced") }),
  z.object({ code: z.literal("address works") }),
  z.object({ code: z.literal("reachable"), channel: z.enum(CHANNELS) }),
  z.object({ code: z.literal("not reachable") }),
  z.object({ code: z.literal("ended"), days, most: days }),
  z.object({ code: z.literal("no ask open") }),
  z.object({ code: z.literal("joins the ask") }),
  z.object({ code: z.literal("ask open") }),
  z.object({ code: z.literal("household not asked") }),
  z.object({ code: z.literal("plan asks each"), name }),
  z.object({ code: z.literal("asked together"), name }),
  z.object({ code: z.literal("asked that day") }),
  z.object({ code: z.literal("household asked"), name }),
  z.object({ code: z.literal("may ask again") }),
  z.object({ code: z.literal("never asked by plan") }),
  z.object({ code: z.literal("asked once"), days }),
  z.object({ code: z.literal("let rest"), days, whose }),
  z.object({ code: z.literal("with the same day") }),
  z.object({ code: z.literal("never asked") }),
  z.object({
    code: z.literal("rest"),
    since: z.enum(["asked", "reviewed"]),
    days,
    rest: days,
    /** By the rest that holds for every plan of the client. */
    everywhere: z.boolean(),
  }),
  z.object({ code: z.literal("allowance left") }),
  z.object({ code: z.literal("allowance used up") }),
  /** What was found before findings were kept as codes, and could not be read as one. */
  z.object({ code: z.literal("concern waits") }),
  z.object({ code: z.literal("no concern waits") }),
  z.object({ code: z.literal("not recorded") }),
]);
export type Finding = z.infer<typeof FINDING>;

/** One line of a trace: which rule, whether it objected, the value that decided, and whether somebody overruled it. */
export const TRACE_LINE = z.object({
  rule: z.enum(REASONS),
  objects: z.boolean(),
  finding: FINDING,
  overruled: z.literal(true).optional(),
});
export type TraceLine = z.infer<typeof TRACE_LINE>;
