import { sql } from "drizzle-orm";
import { boolean, index, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { instant, key } from "@/platform/columns";
import { clients } from "../clients/tables";

export const people = pgTable(
  "people",
  {
    id: key(),
    clientId: uuid("client_id")
      .notNull()
      .references(() => clients.id, { onDelete: "cascade" }),
    given: text("given").notNull(),
    family: text("family").notNull().default(""),
    email: text("email"),
    emailBouncedAt: instant("email_bounced_at"),
    emailOptedOutAt: instant("email_opted_out_at"),
    /** E.164. */
    phone: text("phone"),
    phoneTakesTexts: boolean("phone_takes_texts").notNull().default(false),
    textBouncedAt: instant("text_bounced_at"),
    textOptedOutAt: instant("text_opted_out_at"),
    /** IANA zone where it is known to differ from the branch's. */
    zone: text("zone"),
    tags: text("tags").array().notNull().default(sql`'{}'::text[]`),
    /** Why this person is never asked; null when they may be. */
    doNotAsk: text("do_not_ask"),
    note: text("note").notNull().default(""),
    lastAskedAt: instant("last_asked_at"),
    lastMessageAt: instant("last_message_at"),
    lastReviewedAt: instant("last_reviewed_at"),
    createdAt: instant("created_at").notNull(),
    /** What search looks through. */
    search: text("search").generatedAlwaysAs(sql`lower(given || ' ' || family || ' ' || coalesce(email, '') || ' ' || coalesce(phone, '') || ' ' || note)`),
  },
  (t) => [
    index("people_email").on(t.clientId, t.email),
    index("people_phone").on(t.clientId, t.phone),
    index("people_name").on(t.clientId, t.family, t.given, t.id),
    index("people_search").using("gin", sql`${t.search} gin_trgm_ops`),
  ],
);
