import { sql } from "drizzle-orm";
import { index, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { AuditAction, AuditSubject } from "@/core/audit/actions";
import { asks } from "./asks";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { concerns } from "./concerns";
import { personal } from "./personal";
import { visits } from "./visits";

/** Who changed what, and when. Written in the same transaction as the change. */
export const auditEntries = pgTable(
  "audit_entries",
  {
    id: key(),
    clientId: clientId(),
    at: instant("at").notNull(),
    /** The name as it was then, and whose it is: a person's identifier, or nothing for a program. */
    who: text("who").notNull(),
    whoId: text("who_id").default(sql`nullif(current_setting('estima.user', true), '')`),
    action: text("action").$type<AuditAction>().notNull(),
    subject: text("subject").$type<AuditSubject>().notNull(),
    subjectId: uuid("subject_id"),
    details: jsonb("details"),
  },
  (t) => [index("audit_subject").on(t.clientId, t.subjectId, t.at), index("audit_time").on(t.clientId, t.at, t.id)],
);

/** Of what was noted about a person, or about something of theirs, only that it was done stays. */
export const auditEntriesPersonal = personal(auditEntries, {
  owners: [
    auditEntries.subjectId,
    { column: auditEntries.subjectId, of: visits.id, owner: visits.personId },
    { column: auditEntries.subjectId, of: asks.id, owner: asks.personId },
    { column: auditEntries.subjectId, of: concerns.id, owner: concerns.personId },
  ],
  erase: { details: null },
  keeps: ["who", "whoId", "action", "subject"],
  exports: { as: "changes", only: ["at", "action", "subject"] },
});
