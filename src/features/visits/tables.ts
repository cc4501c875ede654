import { sql } from "drizzle-orm";
import { index, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { Reason, TraceLine, VisitOutcome } from "@/core/asks/examine";
import { instant, key } from "@/platform/columns";
import { branches, clients, services, teamMembers } from "../clients/tables";
import { people } from "../people/tables";

export const visits = pgTable(
  "visits",
  {
    id: key(),
    clientId: uuid("client_id")
      .notNull()
      .references(() => clients.id, { onDelete: "cascade" }),
    personId: uuid("person_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    serviceId: uuid("service_id")
      .notNull()
      .references(() => services.id),
    teamMemberId: uuid("team_member_id").references(() => teamMembers.id),
    /** Whom or what the visit was about, where that is not the person: a pet, a piano, a pupil. */
    about: text("about"),
    endsAt: instant("ends_at").notNull(),
    outcome: text("outcome").$type<VisitOutcome>().notNull(),
    source: text("source").$type<"by hand" | "asked by hand" | "demo book">().notNull(),
    /** When plans look at it; null once they have. */
    examineAt: instant("examine_at"),
    decision: text("decision").$type<"asked" | "left out">(),
    reason: text("reason").$type<Reason>(),
    trace: jsonb("trace").$type<TraceLine[]>(),
    examinedAt: instant("examined_at"),
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
  ],
);
