import { sql } from "drizzle-orm";
import { check, index, integer, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { AnswerOrigin } from "@/core/answers/answerRules";
import { asks } from "./asks";
import { branches, clientId, listings } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { personal } from "./personal";

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
    /** How they were asked: one to five, or two buttons, kept as 5 and 1. */
    scale: text("scale").$type<"five" | "two">().notNull().default("five"),
    words: text("words"),
    givenAt: instant("given_at").notNull(),
    wordsAt: instant("words_at"),
  },
  (t) => [
    uniqueIndex("answers_ask").on(t.askId),
    check("answers_origin", sql`(origin = 'ask') = (ask_id is not null)`),
    index("answers_given").on(t.clientId, t.givenAt),
    index("answers_person").on(t.clientId, t.personId),
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
  erase: { words: null },
  keeps: ["scale", "origin"],
  exports: { as: "answers" },
});

export const sitesFollowedPersonal = personal(sitesFollowed, {
  owners: [{ column: sitesFollowed.askId, of: asks.id, owner: asks.personId }],
  erase: {},
  exports: { as: "sitesOpened" },
});
