import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { ToldChoice } from "@/core/notices/choices";
import type { Told } from "@/core/notices/told";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** What somebody of the staff has chosen to be told at a client; those who have not begin with what fits their role. */
export const toldChoices = pgTable(
  "told_choices",
  {
    clientId: clientId(),
    userId: text("user_id").notNull(),
    choice: jsonb("choice").$type<ToldChoice>().notNull(),
    changedAt: instant("changed_at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.userId] })],
);

/**
 * A matter that one person is told of, once. It holds identifiers alone: what is said is looked up when it is said, so
 * that nothing is told of what is settled by then, or of somebody who was erased.
 */
export const tellings = pgTable(
  "tellings",
  {
    id: key(),
    clientId: clientId(),
    userId: text("user_id").notNull(),
    /** What it is about: the same matter is told once to each. */
    about: text("about").notNull(),
    told: jsonb("told").$type<Told>().notNull(),
    createdAt: instant("created_at").notNull(),
    /** When it is to be told, or tried again; null once it was, or is only shown in the application. */
    dueAt: instant("due_at"),
    claimedUntil: instant("claimed_until"),
    attempts: integer("attempts").notNull().default(0),
    /** Those that are told in one message. */
    batchId: uuid("batch_id"),
    toldAt: instant("told_at"),
    /** By which ways it was told. */
    ways: text("ways").array().notNull().default(sql`'{}'`),
  },
  (t) => [
    uniqueIndex("tellings_once").on(t.clientId, t.userId, t.about),
    index("tellings_of").on(t.clientId, t.userId, t.createdAt),
    index("tellings_due").on(t.dueAt).where(sql`due_at is not null`),
  ],
);

export const toldChoicesPersonal = notPersonal(toldChoices);
export const tellingsPersonal = notPersonal(tellings);
