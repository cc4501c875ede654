import { sql } from "drizzle-orm";
import { boolean, index, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { Channel } from "@/core/time/sendHours";
import { agencies } from "./accounts";
import { branches, clientId } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { personal } from "./personal";

/**
 * What a person and the business write to each other: one row for each person, or for each number or mailbox of which
 * nobody knows whose it is. What was written are the messages of the person, or those that name the conversation.
 */
export const conversations = pgTable(
  "conversations",
  {
    id: key(),
    clientId: clientId(),
    /** Null while nobody knows who it is. */
    personId: uuid("person_id").references(() => people.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id").references(() => branches.id, { onDelete: "set null" }),
    /** From where they wrote last: an E.164 number or a mailbox. */
    address: text("address"),
    channel: text("channel").$type<Channel>().notNull(),
    /** When something was last written, by whichever side. */
    lastAt: instant("last_at").notNull(),
    /** When they last wrote. */
    heardAt: instant("heard_at").notNull(),
    /** Since when they wait for an answer; null while they do not. */
    waitingSince: instant("waiting_since"),
    isUnread: boolean("is_unread").notNull().default(true),
    /** The name as it was then, and whose it is. */
    assignedTo: text("assigned_to"),
    assignedToId: text("assigned_to_id"),
    /** Out of the list of those that wait until then, or until they write again. */
    asideUntil: instant("aside_until"),
    /** When they were last told by itself that nobody is there, and last how to reach somebody. */
    awayToldAt: instant("away_told_at"),
    helpToldAt: instant("help_told_at"),
    /** Of a number that is nobody's: when it asked for no more texts. A person's own record says it of them. */
    stoppedAt: instant("stopped_at"),
    /** When they wrote something that sounds as if they want no more messages, until someone has settled it. */
    mayStopAt: instant("may_stop_at"),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [
    index("conversations_person").on(t.clientId, t.personId),
    index("conversations_address").on(t.clientId, t.address).where(sql`person_id is null`),
    index("conversations_waiting").on(t.clientId, t.waitingSince).where(sql`waiting_since is not null`),
    index("conversations_last").on(t.clientId, t.lastAt, t.id),
  ],
);

export const conversationsPersonal = personal(conversations, {
  owners: [conversations.personId],
  merge: "follows",
  erase: "delete",
  exports: { as: "conversations", only: ["channel", "lastAt", "createdAt"] },
});

/**
 * A text to a number that several clients of an agency share, of which nobody can tell whom it is meant for: it waits
 * until its writer, or somebody of the agency, has said so.
 */
export const sharedTexts = pgTable(
  "shared_texts",
  {
    id: key(),
    agencyId: uuid("agency_id")
      .notNull()
      .references(() => agencies.id, { onDelete: "cascade" }),
    /** The shared number, and who wrote: both E.164. */
    number: text("number").notNull(),
    sender: text("sender").notNull(),
    body: text("body").notNull(),
    gatewayId: text("gateway_id").notNull(),
    /** The clients that were named to them, in the order of their figures. */
    choices: uuid("choices").array().notNull(),
    pictures: text("pictures").array().notNull().default(sql`'{}'`),
    receivedAt: instant("received_at").notNull(),
    /** When they were asked which client they mean; null where one question stands for several texts. */
    askedAt: instant("asked_at"),
  },
  (t) => [
    index("shared_texts_sender").on(t.agencyId, t.number, t.sender, t.receivedAt),
    uniqueIndex("shared_texts_once").on(t.agencyId, t.gatewayId),
  ],
);

export const sharedTextsPersonal = personal(sharedTexts, {
  owners: [],
  erase: "by its feature",
  keeps: ["number", "gatewayId"],
});
