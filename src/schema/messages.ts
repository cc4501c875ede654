import { sql } from "drizzle-orm";
import { boolean, index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { MessageReason } from "@/core/asks/messageReasons";
import type { Channel } from "@/core/time/sendHours";
import { asks } from "./asks";
import { branches, clientId } from "./clients";
import { instant, key } from "./columns";
import { concerns } from "./concerns";
import { conversations } from "./conversations";
import { people } from "./people";
import { personal } from "./personal";

/**
 * planned: leaves at `due_at`. held: waits for a person. sending: handed over, not yet confirmed. sent: taken by the
 * gateway. delivered: the gateway said so. bounced: came back for good. failed: given up. stopped: not needed any
 * more. received: came in.
 */
export const MESSAGE_STATES = [
  "planned",
  "held",
  "sending",
  "sent",
  "delivered",
  "bounced",
  "failed",
  "stopped",
  "received",
] as const;
export type MessageState = (typeof MESSAGE_STATES)[number];

export const messages = pgTable(
  "messages",
  {
    id: key(),
    clientId: clientId(),
    /** Null for what came in from a number that nobody has. */
    personId: uuid("person_id").references(() => people.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id").references(() => branches.id),
    askId: uuid("ask_id").references(() => asks.id, { onDelete: "cascade" }),
    concernId: uuid("concern_id").references(() => concerns.id, { onDelete: "cascade" }),
    /** The conversation that it belongs to, where nobody knows who wrote it: a person's messages are theirs anyway. */
    conversationId: uuid("conversation_id").references(() => conversations.id, { onDelete: "set null" }),
    direction: text("direction").$type<"out" | "in">().notNull(),
    channel: text("channel").$type<Channel>().notNull(),
    /** Which leg of the plan, from 0; null outside a plan. */
    step: integer("step"),
    /** The version of the plan that this counts in. */
    planVersion: integer("plan_version").notNull().default(1),
    /** What the plan calls this message. */
    stepName: text("step_name"),
    /** Which of the wordings on trial. */
    wording: text("wording"),
    /** The variant of its words: "es", "en@<service>"; null for the client's own language and every service. */
    variant: text("variant"),
    /** What it waits for beside its time. */
    hold: text("hold").$type<"plan paused" | "by hand" | "allowance" | "ceiling">(),
    state: text("state").$type<MessageState>().notNull(),
    /** Why it is in this state, or why it leaves when it does. */
    reason: jsonb("reason").$type<MessageReason>(),
    /** What the gateway wrote when it refused the message or gave it back, as it wrote it. */
    gatewaySaid: text("gateway_said"),
    dueAt: instant("due_at"),
    /** Leaves before others that are due at the same time: a tag says so. */
    goesFirst: boolean("goes_first").notNull().default(false),
    address: text("address"),
    subject: text("subject"),
    body: text("body"),
    parts: integer("parts"),
    /** What is written into the picture that it carries, "" for nothing; null for none. */
    picture: text("picture"),
    attempts: integer("attempts").notNull().default(0),
    claimId: uuid("claim_id"),
    /** Real time, not the demo clock's: when another worker may take this message over. */
    claimedUntil: instant("claimed_until"),
    /** How the gateway, or the sender of an incoming message, names it. */
    gatewayId: text("gateway_id"),
    writtenBy: text("written_by"),
    sentAt: instant("sent_at"),
    deliveredAt: instant("delivered_at"),
    openedAt: instant("opened_at"),
    followedAt: instant("followed_at"),
    /** When a machine first opened it or followed its link: what people did stands in the two above. */
    machineAt: instant("machine_at"),
    endedAt: instant("ended_at"),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [
    index("messages_due").on(t.clientId, t.goesFirst, t.dueAt, t.personId).where(sql`state in ('planned', 'sending')`),
    index("messages_held").on(t.clientId, t.dueAt, t.id).where(sql`hold is not null`),
    uniqueIndex("messages_step")
      .on(t.askId, t.planVersion, t.step)
      .where(sql`direction = 'out' and step is not null and state not in ('bounced', 'failed', 'stopped')`),
    uniqueIndex("messages_incoming").on(t.clientId, t.gatewayId).where(sql`direction = 'in'`),
    index("messages_wording").on(t.clientId, t.askId).where(sql`wording is not null`),
    index("messages_person").on(t.clientId, t.personId, t.createdAt),
    index("messages_ask").on(t.clientId, t.askId),
    index("messages_concern").on(t.clientId, t.concernId).where(sql`concern_id is not null`),
    index("messages_conversation").on(t.conversationId, t.createdAt).where(sql`conversation_id is not null`),
    index("messages_log").on(t.clientId, t.dueAt, t.id),
    index("messages_opened").on(t.clientId, t.dueAt, t.id).where(sql`opened_at is not null`),
    index("messages_followed").on(t.clientId, t.dueAt, t.id).where(sql`followed_at is not null`),
    // With what Today counts, so that a crowded day is counted from the index alone.
    index("messages_state").on(t.clientId, t.state, t.dueAt, t.id, t.sentAt, t.branchId),
  ],
);

export const messagesPersonal = personal(messages, {
  owners: [messages.personId],
  merge: "follows",
  erase: {
    address: null,
    subject: null,
    body: null,
    picture: null,
    writtenBy: null,
    gatewaySaid: null,
    reason: { code: "erased" },
  },
  keeps: ["direction", "channel", "stepName", "wording", "variant", "hold", "state", "gatewayId"],
  exports: { as: "messages" },
});
