import { boolean, index, integer, jsonb, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { ReplyRule } from "@/core/replies/rules";
import type { Language } from "@/core/words/languages";
import { agencies } from "./accounts";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** Which reviews are replied to how, in their order: the first that fits decides. */
export const replyRules = pgTable(
  "reply_rules",
  {
    id: key(),
    clientId: clientId(),
    position: integer("position").notNull(),
    isOn: boolean("is_on").notNull().default(true),
    rule: jsonb("rule").$type<ReplyRule>().notNull(),
    changedBy: text("changed_by").notNull(),
    changedAt: instant("changed_at").notNull(),
  },
  (t) => [index("reply_rules_client").on(t.clientId, t.position)],
);

export const SAVED_USES = ["reviews", "conversations"] as const;
export type SavedUse = (typeof SAVED_USES)[number];

/** Words for replies that somebody has kept: everybody's at the client, or one's own. */
export const savedReplies = pgTable(
  "saved_replies",
  {
    id: key(),
    clientId: clientId(),
    /** Whose own it is; null for everybody's. */
    userId: text("user_id"),
    /** Where it is offered: under public reviews, or in conversations. */
    use: text("use").$type<SavedUse>().notNull().default("reviews"),
    /** What it is for: "Happy, without words". Several of one purpose are variants of it. */
    purpose: text("purpose").notNull(),
    language: text("language").$type<Language>().notNull(),
    words: text("words").notNull(),
    /** How often it was used, and when last. */
    uses: integer("uses").notNull().default(0),
    usedAt: instant("used_at"),
    changedBy: text("changed_by").notNull(),
    changedAt: instant("changed_at").notNull(),
  },
  (t) => [index("saved_replies_client").on(t.clientId, t.purpose)],
);

/** Words for replies that an agency keeps for all its clients. */
export const agencySavedReplies = pgTable(
  "agency_saved_replies",
  {
    id: key(),
    agencyId: uuid("agency_id")
      .notNull()
      .references(() => agencies.id, { onDelete: "cascade" }),
    use: text("use").$type<SavedUse>().notNull().default("reviews"),
    purpose: text("purpose").notNull(),
    language: text("language").$type<Language>().notNull(),
    words: text("words").notNull(),
    changedBy: text("changed_by").notNull(),
    changedAt: instant("changed_at").notNull(),
  },
  (t) => [index("agency_saved_replies_agency").on(t.agencyId, t.purpose)],
);

/** How often a client used what its agency keeps. */
export const agencyReplyUses = pgTable(
  "agency_reply_uses",
  {
    clientId: clientId(),
    replyId: uuid("reply_id")
      .notNull()
      .references(() => agencySavedReplies.id, { onDelete: "cascade" }),
    uses: integer("uses").notNull().default(0),
    usedAt: instant("used_at"),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.replyId] })],
);

export const replyRulesPersonal = notPersonal(replyRules);
export const savedRepliesPersonal = notPersonal(savedReplies);
export const agencySavedRepliesPersonal = notPersonal(agencySavedReplies);
export const agencyReplyUsesPersonal = notPersonal(agencyReplyUses);
