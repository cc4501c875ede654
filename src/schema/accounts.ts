import { sql } from "drizzle-orm";
import {
  bigint,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  timestamp,
  unique,
  uniqueIndex,
  uuid,
  varchar,
} from "drizzle-orm/pg-core";
import type { AccountAction, AccountSubject } from "@/core/access/accountActions";
import type { Permission, StarterRole } from "@/core/access/permissions";
import type { Look } from "@/core/words/look";
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
  /** For texts to staff, E.164. */
  phone: text("phone"),
  /** What they are called in replies; null for their name. */
  replyName: text("reply_name"),
  twoFactorEnabled: boolean("two_factor_enabled").notNull().default(false),
  /** The four digits by which they say who they are on a shared phone, hashed like a password; null for none. */
  deskCode: text("desk_code"),
});

/** The second step of somebody's sign-in: the sign-in library's own table, its secrets encrypted by it. */
export const twoFactors = pgTable(
  "two_factors",
  {
    id: text("id").primaryKey(),
    secret: text("secret").notNull(),
    backupCodes: text("backup_codes").notNull(),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    verified: boolean("verified").notNull().default(true),
    failedVerificationCount: integer("failed_verification_count").notNull().default(0),
    lockedUntil: timestamp("locked_until", { withTimezone: true }),
  },
  (t) => [index("two_factors_user").on(t.userId)],
);

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
  /** In addresses of the agency's own pages. */
  slug: text("slug").notNull().unique().default(sql`'agency-' || substr(md5(random()::text), 1, 12)`),
  name: text("name").notNull(),
  colour: text("colour").notNull().default("#6A2156"),
  /** From which address its own mails come: invitations, passwords, summaries. */
  senderEmail: text("sender_email").notNull().default(""),
  /** When whoever reads its mail said so (real time); null while nobody has, and mails come from the installation. */
  senderConfirmedAt: instant("sender_confirmed_at"),
  /** Its logo, among `images`. */
  logoId: uuid("logo_id"),
  /** The look that new clients begin with; null for the plain one. */
  clientLook: jsonb("client_look").$type<Look>(),
  /** Where clients' people ask for help; empty for nowhere. */
  helpEmail: text("help_email").notNull().default(""),
  /** Whoever has a seat signs in with two steps. */
  needsTwoSteps: boolean("needs_two_steps").notNull().default(false),
});

/** The column of every table that holds rows of an agency. */
export const agencyId = () =>
  uuid("agency_id")
    .notNull()
    .references(() => agencies.id, { onDelete: "cascade" });

/** Who gets an agency's summary by mail each morning, and for which day they last did (ISO 8601 day). */
export const summaryReaders = pgTable(
  "summary_readers",
  {
    agencyId: agencyId(),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    lastDay: text("last_day"),
  },
  (t) => [primaryKey({ columns: [t.agencyId, t.userId] })],
);

/** A role that an agency made: a set of permissions with a name. */
export const roles = pgTable(
  "roles",
  {
    id: key(),
    agencyId: agencyId(),
    name: text("name").notNull(),
    permissions: text("permissions").array().$type<Permission[]>().notNull(),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [uniqueIndex("roles_name").on(t.agencyId, t.name)],
);

/** Clients that an agency looks at together. */
export const clientGroups = pgTable(
  "client_groups",
  { id: key(), agencyId: agencyId(), name: text("name").notNull() },
  (t) => [uniqueIndex("client_groups_name").on(t.agencyId, t.name)],
);

/** What a seat or an invitation gives: a role, for the whole agency or for less of it; a branch with its client. */
const given = () => ({
  /** For the clients of one group. */
  onlyGroup: uuid("only_group"),
  /** For one client; beside `onlyBranch` the client of that branch. */
  onlyClient: uuid("only_client"),
  /** For one branch of the client. */
  onlyBranch: uuid("only_branch"),
  /** One of the roles that every agency has; with `roleId` the agency's own role counts instead. */
  role: text("role").$type<StarterRole>().notNull(),
  roleId: uuid("role_id").references(() => roles.id),
});

/** A seat: one person's role in an agency, for all its clients, a group of them, one, or one branch of it. */
export const seats = pgTable(
  "seats",
  {
    id: key(),
    userId: text("user_id")
      .notNull()
      .references(() => users.id, { onDelete: "cascade" }),
    agencyId: agencyId(),
    ...given(),
  },
  (t) => [
    unique("seats_once").on(t.userId, t.agencyId, t.onlyGroup, t.onlyClient, t.onlyBranch).nullsNotDistinct(),
    index("seats_agency").on(t.agencyId),
  ],
);

/** Somebody who was asked by email to take a seat. The link's token is kept as a hash only. */
export const invitations = pgTable(
  "invitations",
  {
    id: key(),
    agencyId: agencyId(),
    email: text("email").notNull(),
    name: text("name").notNull(),
    ...given(),
    tokenHash: text("token_hash").notNull().unique(),
    by: text("by").notNull(),
    sentAt: instant("sent_at").notNull(),
    expiresAt: instant("expires_at").notNull(),
    endedAt: instant("ended_at"),
    ended: text("ended").$type<"accepted" | "withdrawn">(),
  },
  (t) => [index("invitations_agency").on(t.agencyId, t.endedAt)],
);

/** What was done to an agency itself: who has a seat, which roles there are. What is done at a client is its own. */
export const accountEntries = pgTable(
  "account_entries",
  {
    id: key(),
    agencyId: agencyId(),
    at: instant("at").notNull(),
    who: text("who").notNull(),
    whoId: text("who_id").default(sql`nullif(current_setting('estima.user', true), '')`),
    action: text("action").$type<AccountAction>().notNull(),
    subject: text("subject").$type<AccountSubject>().notNull(),
    /** The name of what it was done to, as it was then. */
    name: text("name").notNull(),
    aboutClient: uuid("about_client"),
    details: jsonb("details"),
  },
  (t) => [index("account_entries_time").on(t.agencyId, t.at, t.id)],
);

/** A client that one agency offers to another, until the other has answered. */
export const handovers = pgTable(
  "handovers",
  {
    id: key(),
    /** Whose client it is. */
    agencyId: agencyId(),
    toAgencyId: uuid("to_agency_id")
      .notNull()
      .references(() => agencies.id, { onDelete: "cascade" }),
    aboutClient: uuid("about_client").notNull(),
    /** What agency and client were called when it was offered. */
    fromName: text("from_name").notNull(),
    clientName: text("client_name").notNull(),
    by: text("by").notNull(),
    at: instant("at").notNull(),
    endedAt: instant("ended_at"),
    ended: text("ended").$type<"accepted" | "declined" | "withdrawn">(),
  },
  (t) => [
    uniqueIndex("handovers_open").on(t.aboutClient).where(sql`ended_at is null`),
    index("handovers_to").on(t.toAgencyId, t.endedAt),
    index("handovers_from").on(t.agencyId, t.endedAt),
  ],
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
export const twoFactorsPersonal = notPersonal(twoFactors);
export const summaryReadersPersonal = notPersonal(summaryReaders);
export const sessionsPersonal = notPersonal(sessions);
export const accountsPersonal = notPersonal(accounts);
export const verificationsPersonal = notPersonal(verifications);
export const agenciesPersonal = notPersonal(agencies);
export const rolesPersonal = notPersonal(roles);
export const clientGroupsPersonal = notPersonal(clientGroups);
export const seatsPersonal = notPersonal(seats);
export const invitationsPersonal = notPersonal(invitations);
export const accountEntriesPersonal = notPersonal(accountEntries);
export const handoversPersonal = notPersonal(handovers);
export const rateLimitsPersonal = notPersonal(rateLimits);
export const demoClockPersonal = notPersonal(demoClock);
