import { sql } from "drizzle-orm";
import { index, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { clients } from "./clients";
import { instant, key } from "./columns";

/** Who changed what, and when. Written in the same transaction as the change. */
export const auditEntries = pgTable(
  "audit_entries",
  {
    id: key(),
    clientId: uuid("client_id")
      .notNull()
      .references(() => clients.id, { onDelete: "cascade" }),
    at: instant("at").notNull(),
    /** The name as it was then, and whose it is: a person's identifier, or nothing for a program. */
    who: text("who").notNull(),
    whoId: text("who_id").default(sql`nullif(current_setting('estima.user', true), '')`),
    action: text("action").notNull(),
    subject: text("subject").notNull(),
    subjectId: uuid("subject_id"),
    details: jsonb("details"),
  },
  (t) => [index("audit_subject").on(t.clientId, t.subjectId, t.at), index("audit_time").on(t.clientId, t.at, t.id)],
);
