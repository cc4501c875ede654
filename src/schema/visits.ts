import { sql } from "drizzle-orm";
import { index, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { Reason, TraceLine, VisitOutcome } from "@/core/asks/findings";
import type { VisitKind } from "@/core/intake/arrival";
import { branches, clientId, services, teamMembers } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { personal } from "./personal";

export const visits = pgTable(
  "visits",
  {
    id: key(),
    clientId: clientId(),
    personId: uuid("person_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    /** Null when nothing was said of it, or its words (below) are not yet known. */
    serviceId: uuid("service_id").references(() => services.id),
    teamMemberId: uuid("team_member_id").references(() => teamMembers.id),
    /** Whom or what the visit was about, where that is not the person: a pet, a piano, a pupil. */
    about: text("about"),
    kind: text("kind").$type<VisitKind>().notNull().default("appointment"),
    /** Words that came with it and that nobody has assigned yet: it waits for those of service and branch. */
    words: jsonb("words").$type<{ service?: string; branch?: string; team?: string }>(),
    tags: text("tags").array().notNull().default(sql`'{}'::text[]`),
    /** Its number in the client's own books. */
    externalId: text("external_id"),
    feedId: uuid("feed_id"),
    intakeId: uuid("intake_id"),
    /** When the source last said something of it: what was said earlier and comes later changes nothing. */
    saidAt: instant("said_at"),
    endsAt: instant("ends_at").notNull(),
    outcome: text("outcome").$type<VisitOutcome>().notNull(),
    source: text("source").$type<VisitSource>().notNull(),
    /** When plans look at it; null once they have. */
    examineAt: instant("examine_at"),
    decision: text("decision").$type<"asked" | "left out">(),
    reason: text("reason").$type<Reason>(),
    trace: jsonb("trace").$type<TraceLine[]>(),
    examinedAt: instant("examined_at"),
    /** The ask it is part of, also when that was begun about another visit of the same day. */
    askId: uuid("ask_id"),
    /** The plan in whose daily portions it waits for its turn. */
    waitsFor: uuid("waits_for"),
    claimedUntil: instant("claimed_until"),
    createdAt: instant("created_at").notNull(),
    /** Makes a form that is sent twice count once. */
    requestKey: text("request_key"),
  },
  (t) => [
    index("visits_day").on(t.clientId, t.endsAt),
    index("visits_person").on(t.clientId, t.personId, t.endsAt),
    index("visits_due").on(t.examineAt).where(sql`examine_at is not null`),
    index("visits_request").on(t.clientId, t.requestKey),
    uniqueIndex("visits_external").on(t.clientId, t.externalId).where(sql`external_id is not null`),
    index("visits_intake").on(t.intakeId).where(sql`intake_id is not null`),
    index("visits_feed").on(t.feedId, t.endsAt).where(sql`feed_id is not null`),
    index("visits_ask").on(t.askId).where(sql`ask_id is not null`),
    index("visits_waiting").on(t.waitsFor, t.endsAt).where(sql`waits_for is not null`),
    index("visits_words").on(t.clientId).where(sql`words is not null`),
  ],
);

export type VisitSource =
  | "by hand"
  | "asked by hand"
  | "file"
  | "drop-off"
  | "webhook"
  | "calendar"
  | "end of day"
  | "API";

export const visitsPersonal = personal(visits, {
  owners: [visits.personId],
  merge: "follows",
  erase: { about: null, words: null, externalId: null, tags: [], trace: null },
  keeps: ["kind", "outcome", "source", "decision", "reason", "requestKey"],
  exports: { as: "visits" },
});
