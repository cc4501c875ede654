import { sql } from "drizzle-orm";
import { date, index, integer, pgTable, primaryKey, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { ConcernOutcome } from "@/core/concerns/outcomes";
import { answers } from "./answers";
import { branches, clientId, teamMembers } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { notPersonal, personal } from "./personal";
import { visits } from "./visits";

/** They took it; a rule gave it to them, or to whom they stand in for; somebody handed it over. */
export type TakenHow = "self" | "rule" | "stand-in" | "handed over";

export const concerns = pgTable(
  "concerns",
  {
    id: key(),
    clientId: clientId(),
    answerId: uuid("answer_id")
      .notNull()
      .references(() => answers.id, { onDelete: "cascade" }),
    /** Null while nobody knows who it was. */
    personId: uuid("person_id").references(() => people.id, { onDelete: "cascade" }),
    /** Null where the answer is about no visit that is known. */
    visitId: uuid("visit_id").references(() => visits.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    rating: integer("rating"),
    words: text("words").notNull(),
    state: text("state").$type<"new" | "taken" | "closed">().notNull(),
    openedAt: instant("opened_at").notNull(),
    answerBy: instant("answer_by").notNull(),
    /** When whoever looks after it is reminded next, while nobody has answered; null for no more. */
    remindAt: instant("remind_at"),
    /** The name as it was then, and whose it is. */
    takenBy: text("taken_by"),
    takenById: text("taken_by_id"),
    takenAt: instant("taken_at"),
    /** How it came to them; null while it is nobody's. */
    takenHow: text("taken_how").$type<TakenHow>(),
    answeredAt: instant("answered_at"),
    outcome: text("outcome").$type<ConcernOutcome>(),
    outcomeNote: text("outcome_note"),
    closedAt: instant("closed_at"),
    closedBy: text("closed_by"),
    closedById: text("closed_by_id"),
  },
  (t) => [
    uniqueIndex("concerns_answer").on(t.answerId),
    index("concerns_state").on(t.clientId, t.state, t.openedAt),
    // All of them, newest first; and those that are open, unanswered ones first.
    index("concerns_opened").on(t.clientId, t.openedAt),
    index("concerns_open")
      .on(t.clientId, sql`(answered_at is not null)`, t.openedAt)
      .where(sql`state in ('new', 'taken')`),
    index("concerns_remind").on(t.remindAt).where(sql`remind_at is not null`),
    index("concerns_person").on(t.clientId, t.personId),
  ],
);

export const concernsPersonal = personal(concerns, {
  owners: [concerns.personId],
  merge: "follows",
  erase: { words: "", outcomeNote: null },
  keeps: ["state", "takenBy", "takenById", "takenHow", "outcome", "closedBy", "closedById"],
  exports: { as: "concerns" },
});

/** What the team writes to itself about a concern; its customer never sees it. */
export const concernNotes = pgTable(
  "concern_notes",
  {
    id: key(),
    clientId: clientId(),
    concernId: uuid("concern_id")
      .notNull()
      .references(() => concerns.id, { onDelete: "cascade" }),
    words: text("words").notNull(),
    writtenBy: text("written_by").notNull(),
    writtenAt: instant("written_at").notNull(),
  },
  (t) => [index("concern_notes_concern").on(t.concernId, t.writtenAt), index("concern_notes_client").on(t.clientId)],
);

export const concernNotesPersonal = personal(concernNotes, {
  owners: [{ column: concernNotes.concernId, of: concerns.id, owner: concerns.personId }],
  merge: "follows",
  erase: "delete",
  exports: { as: "concernNotes" },
});

/** Whose the concerns of a branch are, or of the visits with one of the team; all others, where both are null. */
export const concernOwners = pgTable(
  "concern_owners",
  {
    id: key(),
    clientId: clientId(),
    branchId: uuid("branch_id").references(() => branches.id, { onDelete: "cascade" }),
    teamMemberId: uuid("team_member_id").references(() => teamMembers.id, { onDelete: "cascade" }),
    userId: text("user_id").notNull(),
  },
  (t) => [index("concern_owners_client").on(t.clientId)],
);

/** Until when somebody is away, with that day, and who stands in for them. */
export const absences = pgTable(
  "absences",
  {
    clientId: clientId(),
    userId: text("user_id").notNull(),
    until: date("until").notNull(),
    standInId: text("stand_in_id"),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.userId] })],
);

export const concernOwnersPersonal = notPersonal(concernOwners);
export const absencesPersonal = notPersonal(absences);
