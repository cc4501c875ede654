import { sql } from "drizzle-orm";
import { boolean, doublePrecision, index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { ReplyWhy } from "@/core/replies/rules";
import type { Scale } from "@/core/reviews/rating";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import type { Language } from "@/core/words/languages";
import { branches, clientId, listings } from "./clients";
import { instant, key } from "./columns";
import { notPersonal, personal } from "./personal";

/**
 * How the reply to a review stands: "planned" by a rule, which posts it in time; "posting" while it is handed to the
 * site, again and again where that does not get through; "not possible" at a site that takes none.
 */
export type ReplyState =
  | "none"
  | "awaits approval"
  | "planned"
  | "posting"
  | "posted"
  | "failed"
  | "set aside"
  | "not possible";

export const reviews = pgTable(
  "reviews",
  {
    id: key(),
    clientId: clientId(),
    listingId: uuid("listing_id")
      .notNull()
      .references(() => listings.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    externalId: text("external_id").notNull(),
    /** Who is taken to have written it, and the ask that led there. */
    personId: uuid("person_id"),
    askId: uuid("ask_id"),
    author: text("author").notNull(),
    scale: text("scale").$type<Scale>().notNull(),
    /** The site's own value. */
    ownRating: doublePrecision("own_rating").notNull(),
    /** The same on Estima's 1 to 5. */
    rating: integer("rating").notNull(),
    words: text("words").notNull(),
    writtenAt: instant("written_at").notNull(),
    collectedAt: instant("collected_at").notNull(),
    /** When the site was asked that showed it as it is kept. */
    seenAt: instant("seen_at").notNull(),
    /** Somebody reported it to the site, which has not decided yet. */
    isReported: boolean("is_reported").notNull().default(false),
    editedAt: instant("edited_at"),
    deletedAt: instant("deleted_at"),
    reply: text("reply"),
    replyState: text("reply_state").$type<ReplyState>().notNull().default("none"),
    replyError: jsonb("reply_error").$type<SiteProblem>(),
    replyBy: text("reply_by"),
    repliedAt: instant("replied_at"),
    /** Who wrote it, where another approved it; null for a rule. */
    replyDraftedBy: text("reply_drafted_by"),
    /** When it is handed to the site next; null where nothing is under way. */
    replyDueAt: instant("reply_due_at"),
    replyAttempts: integer("reply_attempts").notNull().default(0),
    /** One for each reply that is written: by it a site knows one that is handed over again. */
    replyKey: uuid("reply_key"),
    /** The rule that decided, and why. */
    replyRuleId: uuid("reply_rule_id"),
    replyWhy: jsonb("reply_why").$type<ReplyWhy>(),
    /** The file or form by which somebody brought it in; null for what was read. */
    importId: uuid("import_id"),
    /** In which it is written, as it was read; null without words, and until then. */
    language: text("language").$type<Language>(),
    /** Its words are still to be read for what they name. */
    isUnread: boolean("is_unread").notNull().default(true),
  },
  (t) => [
    uniqueIndex("reviews_external").on(t.listingId, t.externalId),
    index("reviews_person").on(t.clientId, t.personId).where(sql`person_id is not null`),
    index("reviews_written").on(t.clientId, t.writtenAt),
    // Those in a language that few write.
    index("reviews_language").on(t.clientId, t.language, t.writtenAt).where(sql`language is not null`),
    index("reviews_rating").on(t.clientId, t.listingId, t.rating).where(sql`deleted_at is null`),
    // The last replies of a listing, which a draft is made unlike.
    index("reviews_replied").on(t.clientId, t.listingId, t.repliedAt).where(sql`replied_at is not null`),
    index("reviews_aside").on(t.clientId, t.writtenAt, t.id).where(sql`reply_state = 'set aside'`),
    // Those that wait for a reply, in the order in which they are read.
    index("reviews_waiting")
      .on(t.clientId, t.rating, t.writtenAt)
      .where(sql`reply_state in ('none', 'failed', 'posting', 'awaits approval') and deleted_at is null`),
    index("reviews_approval")
      .on(t.clientId, t.rating, t.writtenAt)
      .where(sql`reply_state = 'awaits approval' and deleted_at is null`),
    index("reviews_unread").on(t.clientId).where(sql`is_unread and words <> ''`),
    index("reviews_import").on(t.importId).where(sql`import_id is not null`),
    index("reviews_planned").on(t.clientId, t.replyDueAt).where(sql`reply_state = 'planned'`),
    index("reviews_reply_due").on(t.replyDueAt).where(sql`reply_due_at is not null`),
    index("reviews_by_rule").on(t.clientId, t.replyRuleId, t.repliedAt).where(sql`reply_rule_id is not null`),
  ],
);

/** What the review site shows stays: it is public there. */
export const reviewsPersonal = personal(reviews, {
  owners: [reviews.personId],
  merge: "follows",
  erase: {},
  keeps: [
    "externalId",
    "author",
    "scale",
    "words",
    "reply",
    "replyState",
    "replyError",
    "replyBy",
    "replyDraftedBy",
    "replyWhy",
    "language",
  ],
  exports: { as: "reviews" },
});

/** Named views of all reviews: what they narrow down to, as the page's address says it. */
export const reviewViews = pgTable(
  "review_views",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    query: text("query").notNull(),
    madeBy: text("made_by").notNull(),
  },
  (t) => [uniqueIndex("review_views_name").on(t.clientId, t.name)],
);
export const reviewViewsPersonal = notPersonal(reviewViews);
