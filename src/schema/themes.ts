import { index, integer, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { Polarity } from "@/core/themes/themes";
import { answers } from "./answers";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal, personal } from "./personal";
import { reviews } from "./reviews";

/** What a review or a private answer names: one row for each clause that does. */
export const namedThemes = pgTable(
  "named_themes",
  {
    id: key(),
    clientId: clientId(),
    reviewId: uuid("review_id").references(() => reviews.id, { onDelete: "cascade" }),
    answerId: uuid("answer_id").references(() => answers.id, { onDelete: "cascade" }),
    /** One of ours, or the identifier of one of the client's own. */
    theme: text("theme").notNull(),
    polarity: text("polarity").$type<Polarity>().notNull(),
    /** Where the clause stands in the words: characters, from 0. */
    from: integer("clause_from").notNull(),
    to: integer("clause_to").notNull(),
    branchId: uuid("branch_id").notNull(),
    teamMemberId: uuid("team_member_id"),
    serviceId: uuid("service_id"),
    saidAt: instant("said_at").notNull(),
  },
  (t) => [
    index("named_themes_said").on(t.clientId, t.saidAt),
    index("named_themes_theme").on(t.clientId, t.theme, t.saidAt),
    index("named_themes_review").on(t.reviewId),
    index("named_themes_answer").on(t.answerId),
  ],
);

/** Themes that a client has added by example words. */
export const ownThemes = pgTable(
  "own_themes",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    words: text("words").array().notNull(),
    changedBy: text("changed_by").notNull(),
    changedAt: instant("changed_at").notNull(),
  },
  (t) => [uniqueIndex("own_themes_name").on(t.clientId, t.name)],
);

/** What stays when somebody is erased is of the review site's public words. */
export const namedThemesPersonal = personal(namedThemes, {
  owners: [{ column: namedThemes.answerId, of: answers.id, owner: answers.personId }],
  erase: "delete",
});
export const ownThemesPersonal = notPersonal(ownThemes);
