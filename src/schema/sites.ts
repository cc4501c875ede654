import { index, integer, jsonb, pgTable, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { ConnectorId } from "@/core/reviews/sites";
import { clientId, listings } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** A client's sign-in at a review site: its tokens, encrypted at rest. */
export const siteAccounts = pgTable(
  "site_accounts",
  {
    id: key(),
    clientId: clientId(),
    connector: text("connector").$type<ConnectorId>().notNull(),
    /** As whom the site knows it. */
    name: text("name").notNull(),
    accessToken: text("access_token").notNull(),
    refreshToken: text("refresh_token").notNull(),
    expiresAt: instant("expires_at").notNull(),
    /** When the site took it back; null while it holds. */
    endedAt: instant("ended_at"),
    signedInBy: text("signed_in_by").notNull(),
    signedInAt: instant("signed_in_at").notNull(),
  },
  (t) => [index("site_accounts_client").on(t.clientId, t.connector)],
);

/** What was found for a branch, or that it is not on the site. */
export type PlaceChoice = {
  branchId: string;
  place: { id: string; name: string; address: string; url: string; rating: string | null; count: number } | null;
};

/** A site that is being connected: it can be left at any step and taken up again. */
export const siteConnections = pgTable(
  "site_connections",
  {
    id: key(),
    clientId: clientId(),
    connector: text("connector").$type<ConnectorId>().notNull(),
    /** What is looked for; "" until somebody has. */
    name: text("name").notNull(),
    town: text("town").notNull(),
    /** Null until places were chosen. */
    choices: jsonb("choices").$type<PlaceChoice[]>(),
    accountId: uuid("account_id"),
    /** A sign-in that somebody has begun: the state it must come back with, and its verifier, encrypted at rest. */
    signInState: text("sign_in_state"),
    signInVerifier: text("sign_in_verifier"),
    signInBy: text("sign_in_by"),
    signInAt: instant("sign_in_at"),
    beganBy: text("began_by").notNull(),
    changedAt: instant("changed_at").notNull(),
  },
  (t) => [uniqueIndex("site_connections_site").on(t.clientId, t.connector)],
);

/** A reading of everything at a page that was left before its end: where it goes on, and what it has seen. */
export const siteReadings = pgTable(
  "site_readings",
  {
    listingId: uuid("listing_id")
      .primaryKey()
      .references(() => listings.id, { onDelete: "cascade" }),
    clientId: clientId(),
    cursor: text("cursor").notNull(),
    seen: text("seen").array().notNull(),
    total: integer("total"),
    beganAt: instant("began_at").notNull(),
  },
  (t) => [index("site_readings_client").on(t.clientId)],
);

export const siteAccountsPersonal = notPersonal(siteAccounts);
export const siteConnectionsPersonal = notPersonal(siteConnections);
export const siteReadingsPersonal = notPersonal(siteReadings);
