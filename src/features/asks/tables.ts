import { sql } from "drizzle-orm";
import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { TraceLine } from "@/core/asks/examine";
import type { Stop } from "@/core/asks/nextStep";
import type { Channel } from "@/core/time/sendHours";
import { instant, key } from "@/platform/columns";
import { branches, clients } from "../clients/tables";
import { people } from "../people/tables";
import { plans } from "../plans/tables";
import { visits } from "../visits/tables";

export type AskEnd = "all sent" | "too late" | "unreachable" | "never open";

export const asks = pgTable(
  "asks",
  {
    id: key(),
    clientId: uuid("client_id")
      .notNull()
      .references(() => clients.id, { onDelete: "cascade" }),
    planId: uuid("plan_id")
      .notNull()
      .references(() => plans.id),
    personId: uuid("person_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
    visitId: uuid("visit_id")
      .notNull()
      .references(() => visits.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    /** The unguessable part of the customer's link. */
    token: text("token").notNull().unique(),
    anchorAt: instant("anchor_at").notNull(),
    byHand: boolean("by_hand").notNull().default(false),
    askedBy: text("asked_by"),
    chosenChannel: text("chosen_channel").$type<Channel>(),
    sentCount: integer("sent_count").notNull().default(0),
    lastSentAt: instant("last_sent_at"),
    stop: text("stop").$type<Stop>(),
    ended: text("ended").$type<AskEnd>(),
    endedAt: instant("ended_at"),
    answeredAt: instant("answered_at"),
    siteFollowedAt: instant("site_followed_at"),
    trace: jsonb("trace").$type<TraceLine[]>(),
    createdAt: instant("created_at").notNull(),
    requestKey: text("request_key"),
  },
  (t) => [
    // However many tabs and workers: a person has one open ask per client.
    uniqueIndex("asks_one_open").on(t.clientId, t.personId).where(sql`stop is null and ended is null`),
    uniqueIndex("asks_request").on(t.clientId, t.requestKey),
    index("asks_person").on(t.clientId, t.personId, t.createdAt),
    index("asks_visit").on(t.clientId, t.visitId),
    index("asks_made").on(t.clientId, t.createdAt),
  ],
);
