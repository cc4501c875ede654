import { sql } from "drizzle-orm";
import { index, integer, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { HiddenReason } from "@/core/reviews/ownReviews";
import { answers } from "./answers";
import { branches, clientId } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { personal } from "./personal";

/** Answers whose writers agreed that they are shown: the business's own reviews, with a public page. */
export const ownReviews = pgTable(
  "own_reviews",
  {
    id: key(),
    clientId: clientId(),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    answerId: uuid("answer_id")
      .notNull()
      .references(() => answers.id, { onDelete: "cascade" }),
    personId: uuid("person_id").references(() => people.id, { onDelete: "cascade" }),
    /** "Odette M."; blank where nobody knows. */
    name: text("name").notNull(),
    rating: integer("rating").notNull(),
    words: text("words").notNull(),
    /** BCP 47. */
    language: text("language").notNull(),
    writtenAt: instant("written_at").notNull(),
    /** Its writer took it back. */
    withdrawnAt: instant("withdrawn_at"),
    /** Not shown for a named reason, which is counted on the page. */
    hiddenWhy: text("hidden_why").$type<HiddenReason>(),
    hiddenBy: text("hidden_by"),
    hiddenAt: instant("hidden_at"),
    reply: text("reply"),
    repliedBy: text("replied_by"),
    repliedAt: instant("replied_at"),
  },
  (t) => [
    uniqueIndex("own_reviews_answer").on(t.answerId),
    index("own_reviews_shown").on(t.clientId, t.writtenAt, t.id).where(sql`withdrawn_at is null and hidden_at is null`),
    index("own_reviews_all").on(t.clientId, t.writtenAt, t.id),
    index("own_reviews_person").on(t.clientId, t.personId),
  ],
);

export const ownReviewsPersonal = personal(ownReviews, {
  owners: [ownReviews.personId],
  merge: "follows",
  erase: "delete",
  exports: { as: "ownReviews" },
});
