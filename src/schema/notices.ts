import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, text, uniqueIndex } from "drizzle-orm/pg-core";
import type { NoticeContent } from "@/core/notices/notice";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** What whoever looks after a client is told by email, because it should not wait until they look. */
export const notices = pgTable(
  "notices",
  {
    id: key(),
    clientId: clientId(),
    /** What it is about: the same thing is told once. */
    about: text("about").notNull(),
    content: jsonb("content").$type<NoticeContent>().notNull(),
    createdAt: instant("created_at").notNull(),
    /** When it is handed over, or tried again; null once that is done with. */
    dueAt: instant("due_at"),
    claimedUntil: instant("claimed_until"),
    attempts: integer("attempts").notNull().default(0),
    toldAt: instant("told_at"),
    /** Those who were told, as mailboxes (RFC 5322): "Ada Finch <ada@vets.example>". */
    told: text("told").array().notNull().default(sql`'{}'`),
  },
  (t) => [
    uniqueIndex("notices_once").on(t.clientId, t.about),
    index("notices_due").on(t.dueAt).where(sql`${t.dueAt} is not null`),
  ],
);

export const noticesPersonal = notPersonal(notices);
