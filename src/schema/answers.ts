import { index, integer, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
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
    askId: uuid("ask_id")
      .notNull()
      .references(() => asks.id, { onDelete: "cascade" }),
    personId: uuid("person_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
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
  keeps: ["scale"],
  exports: { as: "answers" },
});

export const sitesFollowedPersonal = personal(sitesFollowed, {
  owners: [{ column: sitesFollowed.askId, of: asks.id, owner: asks.personId }],
  erase: {},
  exports: { as: "sitesOpened" },
});
