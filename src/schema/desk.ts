import { index, integer, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import { users } from "./accounts";
import { branches, clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** A phone or tablet that a client's staff share: signed in as itself, it may only ask. */
export const sharedPhones = pgTable(
  "shared_phones",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    /** For one branch alone; null for all of the client's. */
    branchId: uuid("branch_id").references(() => branches.id, { onDelete: "cascade" }),
    /** As whom it is signed in: a user that is no person. */
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    /** Until when it may stay signed in. */
    until: instant("until").notNull(),
    by: text("by").notNull(),
    createdAt: instant("created_at").notNull(),
    /** The link that signs it in: a hash of its token, and until when it is good (real time). */
    linkHash: text("link_hash").unique(),
    linkExpiresAt: instant("link_expires_at"),
    openedAt: instant("opened_at"),
  },
  (t) => [index("shared_phones_client").on(t.clientId, t.createdAt), index("shared_phones_user").on(t.userId)],
);

/** Whose phone it is, nobody's: what it does is noted with its name. */
export const sharedPhonesPersonal = notPersonal(sharedPhones);

/** Wrong digits that were typed for someone on a shared phone; once too many, until they sign in somewhere else. */
export const deskTries = pgTable(
  "desk_tries",
  {
    clientId: clientId(),
    phoneId: uuid("phone_id")
      .notNull()
      .references(() => sharedPhones.id, { onDelete: "cascade" }),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    wrong: integer("wrong").notNull(),
    /** Since when their digits count no more on this phone. */
    lockedAt: instant("locked_at"),
  },
  (t) => [
    primaryKey({ columns: [t.phoneId, t.userId] }),
    index("desk_tries_client").on(t.clientId),
    index("desk_tries_user").on(t.userId),
  ],
);

/** About the client's staff, whose accounts are not among its customers' data. */
export const deskTriesPersonal = notPersonal(deskTries);
