import { boolean, index, integer, jsonb, pgTable, text } from "drizzle-orm/pg-core";
import type { ReplyRule } from "@/core/replies/rules";
import type { Language } from "@/core/words/languages";
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

/** Words for replies that somebody has kept: everybody's at the client, or one's own. */
export const savedReplies = pgTable(
  "saved_replies",
  {
    id: key(),
    clientId: clientId(),
    /** Whose own it is; null for everybody's. */
    userId: text("user_id"),
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

export const replyRulesPersonal = notPersonal(replyRules);
export const savedRepliesPersonal = notPersonal(savedReplies);
