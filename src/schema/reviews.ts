import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { Scale } from "@/core/reviews/rating";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import { branches, clientId, listings } from "./clients";
import { instant, key } from "./columns";
import { personal } from "./personal";

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
    ownRating: integer("own_rating").notNull(),
    /** The same on Estima's 1 to 5. */
    rating: integer("rating").notNull(),
    words: text("words").notNull(),
    writtenAt: instant("written_at").notNull(),
    collectedAt: instant("collected_at").notNull(),
    editedAt: instant("edited_at"),
    deletedAt: instant("deleted_at"),
    reply: text("reply"),
    replyState: text("reply_state")
      .$type<"none" | "posting" | "posted" | "failed" | "set aside">()
      .notNull()
      .default("none"),
    replyError: jsonb("reply_error").$type<SiteProblem>(),
    replyBy: text("reply_by"),
    repliedAt: instant("replied_at"),
  },
  (t) => [
    uniqueIndex("reviews_external").on(t.listingId, t.externalId),
    index("reviews_person").on(t.clientId, t.personId).where(sql`person_id is not null`),
    index("reviews_written").on(t.clientId, t.writtenAt),
    index("reviews_rating").on(t.clientId, t.listingId, t.rating).where(sql`deleted_at is null`),
    // The last replies of a listing, which a draft is made unlike.
    index("reviews_replied").on(t.clientId, t.listingId, t.repliedAt).where(sql`replied_at is not null`),
    index("reviews_aside").on(t.clientId, t.writtenAt, t.id).where(sql`reply_state = 'set aside'`),
    // Those that wait for a reply, in the order in which they are read.
    index("reviews_waiting")
      .on(t.clientId, t.rating, t.writtenAt)
      .where(sql`reply_state in ('none', 'failed', 'posting') and deleted_at is null`),
  ],
);

/** What the review site shows stays: it is public there. */
export const reviewsPersonal = personal(reviews, {
  owners: [reviews.personId],
  merge: "follows",
  erase: {},
  keeps: ["externalId", "author", "scale", "words", "reply", "replyState", "replyError", "replyBy"],
  exports: { as: "reviews" },
});
