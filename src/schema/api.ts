import { boolean, index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal, personal } from "./personal";

/** Keys for programs. Only a hash is kept; the key itself is shown once. */
export const apiKeys = pgTable(
  "api_keys",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    /** The first letters, so that people can tell keys apart. */
    hint: text("hint").notNull(),
    /** SHA-256 of the whole key, hexadecimal. */
    hash: text("hash").notNull(),
    scopes: text("scopes").array().notNull(),
    madeBy: text("made_by").notNull(),
    /** Made by one of the client's own people: it opens no place that they are not shown. */
    isOfClient: boolean("is_of_client").notNull().default(false),
    createdAt: instant("created_at").notNull(),
    usedAt: instant("used_at"),
    endedAt: instant("ended_at"),
  },
  (t) => [uniqueIndex("api_keys_hash").on(t.hash), index("api_keys_client").on(t.clientId)],
);

/** Answers to calls with an Idempotency-Key, given again when the call is repeated within a day. */
export const apiRepeats = pgTable(
  "api_repeats",
  {
    clientId: clientId(),
    keyId: uuid("key_id")
      .notNull()
      .references(() => apiKeys.id, { onDelete: "cascade" }),
    key: text("key").notNull(),
    /** SHA-256 of method, path and body: the same key for another call is refused. */
    call: text("call").notNull(),
    status: integer("status").notNull(),
    body: jsonb("body").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.keyId, t.key] }), index("api_repeats_old").on(t.at)],
);

export const apiKeysPersonal = notPersonal(apiKeys);

/** Bodies of repeated calls name whom they like: the erasure searches them. */
export const apiRepeatsPersonal = personal(apiRepeats, { owners: [], erase: "by its feature" });
