import { sql } from "drizzle-orm";
import { boolean, check, index, integer, jsonb, pgTable, smallint, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { AnswerOrigin } from "@/core/answers/answerRules";
import type { Question } from "@/core/plans/planRules";
import { asks } from "./asks";
import { branches, clientId, listings } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { personal } from "./personal";
import { standingLinks } from "./standingLinks";

/** A rating and when it was given, in milliseconds. */
export type GivenRating = { rating: number; at: number };

export const answers = pgTable(
  "answers",
  {
    id: key(),
    clientId: clientId(),
    /** Null for an answer that no ask began. */
    askId: uuid("ask_id").references(() => asks.id, { onDelete: "cascade" }),
    origin: text("origin").$type<AnswerOrigin>().notNull().default("ask"),
    /** Null while nobody knows who it was. */
    personId: uuid("person_id").references(() => people.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    rating: integer("rating"),
    /** Every rating they gave, the first one first; the last is the one that counts. */
    ratings: jsonb("ratings").$type<GivenRating[]>().notNull().default([]),
    /** How they were asked: one to five, by stars or faces, or two buttons, kept as 5 and 1. */
    scale: text("scale").$type<Question>().notNull().default("five"),
    words: text("words"),
    /** What they were typing when it was last kept, before they sent it. */
    draftWords: text("draft_words"),
    /** The same for the other open questions, by question. */
    draftMore: jsonb("draft_more").$type<Record<string, string>>().notNull().default({}),
    /** The mailbox or the mobile (E.164) that they gave for an answer to what they wrote. */
    replyTo: text("reply_to"),
    /** BCP 47: the language in which they answered. */
    language: text("language"),
    /** What they said of each side of the visit, by its name: 1 to 5; null for "does not apply". */
    aspects: jsonb("aspects").$type<Record<string, number | null>>().notNull().default({}),
    /** How likely they would recommend the business, 0 to 10; yes, perhaps and no are 10, 7 and 0. */
    recommend: smallint("recommend"),
    /** What they wrote to the other open questions, by question. */
    more: jsonb("more").$type<Record<string, string>>().notNull().default({}),
    /** When they agreed that their words may be shown; null where they did not. */
    mayShowAt: instant("may_show_at"),
    /** The standing link at which it was given. */
    standingLinkId: uuid("standing_link_id").references(() => standingLinks.id, { onDelete: "set null" }),
    /** Given by what behaves like a machine: shown apart, and nobody's concern. */
    isDoubtful: boolean("is_doubtful").notNull().default(false),
    /** When someone read it and said whether a person wrote it. */
    doubtSettledAt: instant("doubt_settled_at"),
    givenAt: instant("given_at").notNull(),
    wordsAt: instant("words_at"),
    /** When one of the team read the words, and who; null while nobody has. New words are read anew. */
    readAt: instant("read_at"),
    readBy: text("read_by"),
    /** Its words are still to be read for what they name. */
    isUnread: boolean("is_unread").notNull().default(true),
  },
  (t) => [
    uniqueIndex("answers_ask").on(t.askId),
    check("answers_origin", sql`(origin = 'ask') = (ask_id is not null)`),
    index("answers_given").on(t.clientId, t.givenAt),
    index("answers_doubtful").on(t.clientId, t.givenAt).where(sql`is_doubtful and doubt_settled_at is null`),
    index("answers_unread").on(t.clientId).where(sql`is_unread and words <> ''`),
    index("answers_written")
      .on(t.clientId, t.wordsAt)
      .where(
        sql`words_at is not null and not is_doubtful and (may_show_at is null or words is null or rating is null)`,
      ),
    index("answers_person").on(t.clientId, t.personId),
    index("answers_standing_link").on(t.standingLinkId).where(sql`standing_link_id is not null`),
  ],
);

/** A customer went from the answer page to a listing. */
export const sitesFollowed = pgTable(
  "sites_followed",
  {
    id: key(),
    clientId: clientId(),
    askId: uuid("ask_id")
      .notNull()
      .references(() => asks.id, { onDelete: "cascade" }),
    listingId: uuid("listing_id")
      .notNull()
      .references(() => listings.id, { onDelete: "cascade" }),
    at: instant("at").notNull(),
  },
  (t) => [uniqueIndex("sites_followed_once").on(t.askId, t.listingId), index("sites_followed_at").on(t.clientId, t.at)],
);

export const answersPersonal = personal(answers, {
  owners: [answers.personId],
  merge: "follows",
  erase: { words: null, draftWords: null, more: {}, draftMore: {}, replyTo: null, mayShowAt: null },
  keeps: ["scale", "origin", "language", "aspects", "ratings", "readBy"],
  exports: { as: "answers" },
});

export const sitesFollowedPersonal = personal(sitesFollowed, {
  owners: [{ column: sitesFollowed.askId, of: asks.id, owner: asks.personId }],
  erase: {},
  exports: { as: "sitesOpened" },
});
