import { sql } from "drizzle-orm";
import { index, integer, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { PictureRefusal } from "@/core/conversations/pictures";
import { clientId } from "./clients";
import { bytes, instant, key } from "./columns";
import { messages } from "./messages";
import { personal } from "./personal";

/** A picture that came with a message: fetched from where the gateway has it, and drawn anew by us. */
export const messagePictures = pgTable(
  "message_pictures",
  {
    id: key(),
    clientId: clientId(),
    messageId: uuid("message_id")
      .notNull()
      .references(() => messages.id, { onDelete: "cascade" }),
    position: integer("position").notNull(),
    /** Where the gateway has it; null once it is here. */
    address: text("address"),
    /** When it is to be fetched, or tried again; null for no more. */
    fetchAt: instant("fetch_at"),
    attempts: integer("attempts").notNull().default(0),
    refusal: text("refusal").$type<PictureRefusal>(),
    /** IANA media type of what is kept. */
    type: text("type"),
    /** Pixels. */
    width: integer("width"),
    height: integer("height"),
    content: bytes("content"),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [
    index("message_pictures_message").on(t.messageId, t.position),
    index("message_pictures_client").on(t.clientId),
    index("message_pictures_due").on(t.fetchAt).where(sql`fetch_at is not null`),
  ],
);

export const messagePicturesPersonal = personal(messagePictures, {
  owners: [{ column: messagePictures.messageId, of: messages.id, owner: messages.personId }],
  merge: "follows",
  erase: "delete",
  exports: { as: "messagePictures", only: ["width", "height", "createdAt"] },
});
