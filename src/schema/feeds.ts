import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { EventRule } from "@/core/calendar/rules";
import type { FeedMapping } from "@/core/intake/events";
import type { EventResult, FetchProblem, FetchReport } from "@/core/intake/feedReports";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal, personal } from "./personal";

export const FEED_KINDS = ["webhook", "calendar", "drop-off", "end of day"] as const;
export type FeedKind = (typeof FEED_KINDS)[number];

/** A standing connection that brings people and visits in. */
export const feeds = pgTable(
  "feeds",
  {
    id: key(),
    clientId: clientId(),
    kind: text("kind").$type<FeedKind>().notNull(),
    name: text("name").notNull(),
    state: text("state").$type<"on" | "off">().notNull().default("on"),
    /** The branch its visits belong to when they name none; a drop-off link may be limited to one. */
    branchId: uuid("branch_id"),
    serviceId: uuid("service_id"),
    /** Webhook: the signing secret ("whsec_..."), encrypted at rest. */
    secret: text("secret"),
    /** Drop-off: the unguessable part of the link. */
    token: text("token"),
    /** Webhook: where in a delivery each field stands. */
    mapping: jsonb("mapping").$type<FeedMapping>(),
    /** Calendar: which events count, in order. */
    rules: jsonb("rules").$type<EventRule[]>(),
    /** Calendar and end of day: where it is fetched. */
    url: text("url"),
    etag: text("etag"),
    lastModified: text("last_modified"),
    pollAt: instant("poll_at"),
    pollMinutes: integer("poll_minutes").notNull().default(30),
    polledAt: instant("polled_at"),
    /** What the last fetch brought, and why it could not be fetched. */
    report: jsonb("report").$type<FetchReport>(),
    problem: jsonb("problem").$type<FetchProblem>(),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [
    index("feeds_client").on(t.clientId),
    uniqueIndex("feeds_token").on(t.token),
    index("feeds_due").on(t.pollAt).where(sql`poll_at is not null`),
  ],
);

/** One event that a webhook feed delivered; kept before anything is done with it. */
export const inboundEvents = pgTable(
  "inbound_events",
  {
    id: key(),
    clientId: clientId(),
    feedId: uuid("feed_id")
      .notNull()
      .references(() => feeds.id, { onDelete: "cascade" }),
    /** The sender's identifier: the same event counts once. */
    eventId: text("event_id").notNull(),
    body: jsonb("body").notNull(),
    at: instant("at").notNull(),
    state: text("state").$type<"waiting" | "done" | "ignored" | "failed">().notNull().default("waiting"),
    /** What it did. */
    result: jsonb("result").$type<EventResult>(),
    visitId: uuid("visit_id"),
    personId: uuid("person_id"),
    tries: integer("tries").notNull().default(0),
    claimedUntil: instant("claimed_until"),
  },
  (t) => [
    uniqueIndex("inbound_events_event").on(t.feedId, t.eventId),
    index("inbound_events_feed").on(t.clientId, t.feedId, t.at),
    index("inbound_events_failed").on(t.feedId).where(sql`state = 'failed'`),
    index("inbound_events_due").on(t.at).where(sql`state = 'waiting'`),
  ],
);

export const feedsPersonal = notPersonal(feeds);

export const inboundEventsPersonal = personal(inboundEvents, {
  owners: [inboundEvents.personId],
  merge: "follows",
  erase: { body: {}, result: { code: "erased" } },
  keeps: ["eventId", "state"],
  exports: { as: "feedEvents", only: ["at", "body"] },
});
