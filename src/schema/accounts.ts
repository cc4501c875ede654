import {
  bigint,
  boolean,
  index,
  integer,
  pgTable,
  text,
  timestamp,
  uniqueIndex,
  uuid,
  varchar,
} from "drizzle-orm/pg-core";
import type { Role } from "@/core/access/roles";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** Accounts: who may sign in and where they belong. These tables hold no business data of a client. */

export const users = pgTable("users", {
  id: text("id").primaryKey(),
  name: text("name").notNull(),
  email: text("email").notNull().unique(),
  emailVerified: boolean("email_verified").notNull().default(false),
  image: text("image"),
  createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
});

export const sessions = pgTable(
  "sessions",
  {
    id: text("id").primaryKey(),
    expiresAt: timestamp("expires_at", { withTimezone: true }).notNull(),
    token: text("token").notNull().unique(),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
    updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
    ipAddress: text("ip_address"),
    userAgent: text("user_agent"),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
  },
  (t) => [index("sessions_user").on(t.userId)],
);

export const accounts = pgTable(
  "accounts",
  {
    id: text("id").primaryKey(),
    accountId: text("account_id").notNull(),
    providerId: text("provider_id").notNull(),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    accessToken: text("access_token"),
    refreshToken: text("refresh_token"),
    idToken: text("id_token"),
    accessTokenExpiresAt: timestamp("access_token_expires_at", { withTimezone: true }),
    refreshTokenExpiresAt: timestamp("refresh_token_expires_at", { withTimezone: true }),
    scope: text("scope"),
    password: text("password"),
    createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
    updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (t) => [index("accounts_user").on(t.userId)],
);

export const verifications = pgTable("verifications", {
  id: text("id").primaryKey(),
  identifier: text("identifier").notNull(),
  value: text("value").notNull(),
  expiresAt: timestamp("expires_at", { withTimezone: true }).notNull(),
  createdAt: timestamp("created_at", { withTimezone: true }).notNull().defaultNow(),
  updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
});

export const agencies = pgTable("agencies", {
  id: key(),
  name: text("name").notNull(),
});

/** A seat: one person's role in an agency, for all its clients or for one of them. */
export const seats = pgTable(
  "seats",
  {
    id: key(),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    agencyId: uuid("agency_id")
      .notNull()
      .references(() => agencies.id, { onDelete: "cascade" }),
    /** Null for the agency role, which sees every client. */
    onlyClient: uuid("only_client"),
    role: text("role").$type<Role>().notNull(),
  },
  (t) => [uniqueIndex("seats_once").on(t.userId, t.agencyId, t.onlyClient)],
);

/**
 * What was counted against limits (rate-limiter-flexible's own table): a key, its points, and when it is over
 * (milliseconds).
 */
export const rateLimits = pgTable(
  "rate_limits",
  {
    key: varchar("key", { length: 255 }).primaryKey(),
    points: integer("points").notNull().default(0),
    expire: bigint("expire", { mode: "number" }),
  },
  (t) => [index("rate_limits_over").on(t.expire)],
);

/** The demo clock: one row, only in demo mode. `at` is what it showed when the real clock showed `since`. */
export const demoClock = pgTable("demo_clock", {
  id: integer("id").primaryKey(),
  at: instant("at").notNull(),
  since: instant("since").notNull(),
  /** While it skips ahead: where to. The clock then stands at `at` instead of running. */
  skippingTo: instant("skipping_to"),
  skipFrom: instant("skip_from"),
});

/** Of staff, not of customers. */
export const usersPersonal = notPersonal(users);
export const sessionsPersonal = notPersonal(sessions);
export const accountsPersonal = notPersonal(accounts);
export const verificationsPersonal = notPersonal(verifications);
export const agenciesPersonal = notPersonal(agencies);
export const seatsPersonal = notPersonal(seats);
export const rateLimitsPersonal = notPersonal(rateLimits);
export const demoClockPersonal = notPersonal(demoClock);
