import { doublePrecision, index, integer, jsonb, pgTable, primaryKey, smallint, text } from "drizzle-orm/pg-core";
import type { Need } from "@/core/activity/needs";
import { agencyId } from "./accounts";
import { clientId } from "./clients";
import { instant } from "./columns";
import { notPersonal } from "./personal";

/**
 * How each client is doing, as last worked out by the worker: one row a client, so that an agency's page reads one index
 * however much its clients have.
 */
export const outlooks = pgTable(
  "outlooks",
  {
    clientId: clientId().primaryKey(),
    agencyId: agencyId(),
    at: instant("at").notNull(),
    needs: jsonb("needs").$type<Need[]>().notNull().default([]),
    /** Of these, those that somebody has set aside. */
    aside: jsonb("aside").$type<NeedAside[]>().notNull().default([]),
    /** How much it needs somebody: the smaller the sooner; null where it runs by itself. */
    urgency: smallint("urgency"),
    /** People asked and new reviews in the last seven days. */
    asked: integer("asked").notNull().default(0),
    newReviews: integer("new_reviews").notNull().default(0),
    /** What the review sites show, normalised to 1 to 5; null without a review. */
    shown: doublePrecision("shown"),
    /** The share of the last 90 days' reviews that are answered, 0 to 1; null where nothing could be answered. */
    answered: doublePrecision("answered"),
    /** People asked in each of the last eight weeks, the oldest first. */
    weeks: integer("weeks").array().notNull().default([]),
    /** A worker works it out until then (real time). */
    claimedUntil: instant("claimed_until"),
  },
  (t) => [index("outlooks_agency").on(t.agencyId, t.urgency), index("outlooks_age").on(t.at)],
);

/** A need that somebody has set aside, for as long as it stays the same. */
export type NeedAside = { need: Need; key: string; reason: string; by: string; at: number };

/** What somebody has set aside, by `needKey`; once it is over it is forgotten, and counts anew when it comes back. */
export const needsAside = pgTable(
  "needs_aside",
  {
    clientId: clientId(),
    key: text("key").notNull(),
    reason: text("reason").notNull(),
    by: text("by").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.key] })],
);

export const needsAsidePersonal = notPersonal(needsAside);
export const outlooksPersonal = notPersonal(outlooks);
