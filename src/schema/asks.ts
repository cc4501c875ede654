import { sql } from "drizzle-orm";
import { boolean, index, integer, jsonb, pgTable, smallint, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { SiteReason } from "@/core/answers/siteMix";
import type { TraceLine } from "@/core/asks/findings";
import type { AskEnd, Stop } from "@/core/asks/nextStep";
import type { Channel } from "@/core/time/sendHours";
import { branches, clientId } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { personal } from "./personal";
import { plans } from "./plans";
import { visits } from "./visits";

const FURTHEST = sql`case when reviewed_at is not null then 7 when site_followed_at is not null then 6 when answered_at is not null then 5 when first_sent_at is null then 0 when followed_at is not null then 4 when opened_at is not null then 3 when delivered_at is not null then 2 else 1 end`;

export const asks = pgTable(
  "asks",
  {
    id: key(),
    clientId: clientId(),
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
    /** The version of the plan it goes by. */
    planVersion: integer("plan_version").notNull().default(1),
    /** The unguessable part of the customer's link. */
    token: text("token").notNull().unique(),
    anchorAt: instant("anchor_at").notNull(),
    byHand: boolean("by_hand").notNull().default(false),
    askedBy: text("asked_by"),
    chosenChannel: text("chosen_channel").$type<Channel>(),
    /** Messages that left. */
    sentCount: integer("sent_count").notNull().default(0),
    /** Legs of its plan that are done: sent, or passed over. */
    done: integer("done").notNull().default(0),
    firstSentAt: instant("first_sent_at"),
    lastSentAt: instant("last_sent_at"),
    /** When a message of it was first known to have arrived. */
    deliveredAt: instant("delivered_at"),
    /** When a message of it, or the page behind it, was last opened. */
    openedAt: instant("opened_at"),
    /** When the link in a message of it was first followed. */
    followedAt: instant("followed_at"),
    /** When the page behind "no more messages" was last looked at: who follows that and the link at once is no person. */
    optOutSeenAt: instant("opt_out_seen_at"),
    /** Spread with its list over the send hours. */
    isSpread: boolean("is_spread").notNull().default(false),
    heldBy: text("held_by"),
    heldAt: instant("held_at"),
    sendNow: jsonb("send_now").$type<{ leg: number; at: number; overHours: boolean }>(),
    /** The month's allowance was used up: when the next begins. */
    allowanceFrom: instant("allowance_from"),
    /** The site that comes first for this person, where the plan shares out or goes by mailbox, and why. */
    firstSite: text("first_site"),
    siteWhy: jsonb("site_why").$type<SiteReason>(),
    stop: text("stop").$type<Stop>(),
    ended: text("ended").$type<AskEnd>(),
    endedAt: instant("ended_at"),
    answeredAt: instant("answered_at"),
    answerRating: integer("answer_rating"),
    /** The rating by which its doors opened, where the plan looks at another part of the answer. */
    answerJudged: smallint("answer_judged"),
    /** How likely they would recommend the business, 0 to 10. */
    answerRecommend: smallint("answer_recommend"),
    siteFollowedAt: instant("site_followed_at"),
    /** A review that is taken to come from it. */
    reviewedAt: instant("reviewed_at"),
    /** How far it came, as its place among `ASK_STAGES`: kept by the database, so that pages count it from an index. */
    furthest: smallint("furthest").notNull().generatedAlwaysAs(FURTHEST),
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
    index("asks_made").on(
      t.clientId,
      t.createdAt,
      t.id,
      t.furthest,
      t.planId,
      t.branchId,
      t.answeredAt,
      t.siteFollowedAt,
    ),
    index("asks_open").on(t.planId).where(sql`stop is null and ended is null`),
  ],
);

export const asksPersonal = personal(asks, {
  owners: [asks.personId],
  merge: "follows",
  erase: { trace: null, siteWhy: null },
  keeps: ["token", "askedBy", "chosenChannel", "heldBy", "sendNow", "firstSite", "stop", "ended", "requestKey"],
  exports: { as: "asks" },
});
