import { sql } from "drizzle-orm";
import {
  type AnyPgColumn,
  boolean,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  smallint,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { GatewayReply } from "@/core/contacts/gatewayReply";
import type { OptOutWay } from "@/core/contacts/optOut";
import type { HouseholdSign, LikenessSigns } from "@/core/people/likeness";
import { clientId, clients } from "./clients";
import { instant, key } from "./columns";
import { notPersonal, personal } from "./personal";

export const people = pgTable(
  "people",
  {
    id: key(),
    clientId: clientId(),
    given: text("given").notNull(),
    family: text("family").notNull().default(""),
    email: text("email"),
    emailBouncedAt: instant("email_bounced_at"),
    emailBouncedWhy: jsonb("email_bounced_why").$type<GatewayReply>(),
    emailOptedOutAt: instant("email_opted_out_at"),
    emailOptedOutHow: jsonb("email_opted_out_how").$type<OptOutWay>(),
    /** E.164. */
    phone: text("phone"),
    phoneTakesTexts: boolean("phone_takes_texts").notNull().default(false),
    textBouncedAt: instant("text_bounced_at"),
    textBouncedWhy: jsonb("text_bounced_why").$type<GatewayReply>(),
    textOptedOutAt: instant("text_opted_out_at"),
    textOptedOutHow: jsonb("text_opted_out_how").$type<OptOutWay>(),
    /** Addresses that were put right by hand: a source that still says them changes nothing. */
    wrongAddresses: text("wrong_addresses").array().notNull().default(sql`'{}'::text[]`),
    /** Their number in the client's own books; the same one is the same person. */
    externalId: text("external_id"),
    /** BCP 47 primary language of what they read; null for the client's. */
    language: text("language"),
    /** The language in which they last used a page of theirs; what counts where their record says none. */
    pageLanguage: text("page_language"),
    /** ISO 8601 day. */
    birthDate: text("birth_date"),
    postalAddress: text("postal_address"),
    /** The adult who is written to instead, for a minor. */
    guardianId: uuid("guardian_id").references((): AnyPgColumn => people.id, { onDelete: "set null" }),
    householdId: uuid("household_id").references(() => households.id, { onDelete: "set null" }),
    /** Whether they agreed to be written to: what, when, and by which way it came. Null when nothing is known. */
    consent: jsonb("consent").$type<Consent>(),
    /** Not asked before this moment, whatever plans say, and why. */
    restUntil: instant("rest_until"),
    restReason: text("rest_reason"),
    /** What they would rather have; null when nobody knows. */
    prefers: text("prefers").$type<"text" | "email">(),
    /** IANA zone where it is known to differ from the branch's. */
    zone: text("zone"),
    tags: text("tags").array().notNull().default(sql`'{}'::text[]`),
    /** Why this person is never asked; null when they may be. */
    doNotAsk: text("do_not_ask"),
    note: text("note").notNull().default(""),
    lastAskedAt: instant("last_asked_at"),
    lastMessageAt: instant("last_message_at"),
    lastReviewedAt: instant("last_reviewed_at"),
    lastAnsweredAt: instant("last_answered_at"),
    /** How likely they would recommend the business when they were asked last, 0 to 10. */
    lastRecommend: smallint("last_recommend"),
    lastVisitAt: instant("last_visit_at"),
    lastBranchId: uuid("last_branch_id"),
    /** By which way they came: "by hand", the name of a file or a feed. */
    source: text("source").notNull().default("by hand"),
    /** The list that brought them, so that it can be undone. */
    intakeId: uuid("intake_id"),
    /** This record was found to be a duplicate of another, and lives on there. */
    mergedInto: uuid("merged_into"),
    erasedAt: instant("erased_at"),
    createdAt: instant("created_at").notNull(),
    /** What search looks through. */
    search: text("search").generatedAlwaysAs(
      sql`lower(given || ' ' || family || ' ' || coalesce(email, '') || ' ' || coalesce(phone, '') || ' ' || note || ' ' || coalesce(external_id, '') || ' ' || estima_words(tags))`,
    ),
  },
  (t) => [
    index("people_email").on(t.clientId, t.email),
    index("people_phone").on(t.clientId, t.phone),
    uniqueIndex("people_external").on(t.clientId, t.externalId).where(sql`external_id is not null`),
    index("people_name").on(t.clientId, t.family, t.given, t.id).where(sql`merged_into is null and erased_at is null`),
    index("people_search").using("gin", sql`${t.search} gin_trgm_ops`),
    index("people_tags").using("gin", t.tags),
    index("people_guardian").on(t.guardianId).where(sql`guardian_id is not null`),
    index("people_household").on(t.clientId, t.householdId).where(sql`household_id is not null`),
    // Not on the last ask or message: those change with every message, and an index on them would be written each time
    // with all the others.
    index("people_answered").on(t.clientId, t.lastAnsweredAt, t.id).where(sql`last_answered_at is not null`),
    index("people_reviewed").on(t.clientId, t.lastReviewedAt, t.id).where(sql`last_reviewed_at is not null`),
    index("people_branch")
      .on(t.clientId, t.lastBranchId, t.family, t.given, t.id)
      .where(sql`merged_into is null and erased_at is null`),
    index("people_came_back")
      .on(t.clientId, t.id)
      .where(sql`email_bounced_at is not null or text_bounced_at is not null`),
    index("people_opted_out")
      .on(t.clientId, t.id)
      .where(sql`email_opted_out_at is not null or text_opted_out_at is not null`),
    index("people_recommend")
      .on(t.clientId, t.family, t.given, t.id)
      .where(sql`last_recommend is not null and merged_into is null and erased_at is null`),
    index("people_resting").on(t.clientId, t.restUntil).where(sql`rest_until is not null`),
    index("people_intake").on(t.intakeId).where(sql`intake_id is not null`),
    index("people_unreachable")
      .on(t.clientId, t.family, t.given, t.id)
      .where(
        sql`(email is null or email_bounced_at is not null) and (not phone_takes_texts or text_bounced_at is not null)`,
      ),
    index("people_excluded").on(t.clientId, t.id).where(sql`do_not_ask is not null`),
    index("people_family_start").on(t.clientId, sql`lower(family) text_pattern_ops`),
    index("people_given_start").on(t.clientId, sql`lower(given) text_pattern_ops`),
    index("people_merged").on(t.mergedInto).where(sql`merged_into is not null`),
    index("people_client").on(t.clientId, t.id),
  ],
);

export type Consent = { given: boolean; at: number; source: string };

/** People who share a mailbox, a phone or an address, as a person confirmed. */
export const households = pgTable(
  "households",
  {
    id: key(),
    clientId: clientId(),
    confirmedBy: text("confirmed_by").notNull(),
    createdAt: instant("created_at").notNull(),
  },
  (t) => [index("households_client").on(t.clientId)],
);

/** Pairs or groups that somebody said are not one person, or not one household. */
export const dismissedMatches = pgTable(
  "dismissed_matches",
  {
    clientId: clientId(),
    kind: text("kind").$type<"duplicates" | "household">().notNull(),
    key: text("key").notNull(),
    by: text("by").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.kind, t.key] })],
);

/**
 * What comparing all records of a large client with one another found, by identifiers: kept, since it takes seconds.
 */
export const peopleMatches = pgTable("people_matches", {
  clientId: uuid("client_id")
    .primaryKey()
    .references(() => clients.id, { onDelete: "cascade" }),
  /** Real time. */
  foundAt: instant("found_at").notNull(),
  pairs: jsonb("pairs").$type<{ a: string; b: string; why: LikenessSigns; weight: number }[]>().notNull(),
  homes: jsonb("homes").$type<{ members: string[]; why: HouseholdSign[] }[]>().notNull(),
});

/** Two records made one: both as they were and what moved, so that it can be undone. */
export const merges = pgTable(
  "merges",
  {
    id: key(),
    clientId: clientId(),
    keptId: uuid("kept_id").notNull(),
    goneId: uuid("gone_id").notNull(),
    before: jsonb("before").notNull(),
    moved: jsonb("moved").$type<Record<string, string[]>>().notNull(),
    by: text("by").notNull(),
    at: instant("at").notNull(),
    undoneAt: instant("undone_at"),
  },
  (t) => [index("merges_kept").on(t.clientId, t.keptId, t.at)],
);

/** What is remembered of somebody who was erased: keyed hashes of their addresses, so that no list brings them back. */
export const erasures = pgTable(
  "erasures",
  { clientId: clientId(), hash: text("hash").notNull(), at: instant("at").notNull() },
  (t) => [primaryKey({ columns: [t.clientId, t.hash] })],
);

/** Filters of the list of people that somebody named. */
export const views = pgTable(
  "views",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    query: text("query").notNull(),
    madeBy: text("made_by").notNull(),
    position: integer("position").notNull().default(0),
  },
  (t) => [uniqueIndex("views_name").on(t.clientId, t.name)],
);

export const peoplePersonal = personal(people, {
  owners: [people.id],
  erase: {
    given: "Erased",
    family: "",
    email: null,
    emailBouncedAt: null,
    emailBouncedWhy: null,
    emailOptedOutAt: null,
    emailOptedOutHow: null,
    phone: null,
    phoneTakesTexts: false,
    textBouncedAt: null,
    textBouncedWhy: null,
    textOptedOutAt: null,
    textOptedOutHow: null,
    wrongAddresses: [],
    externalId: null,
    language: null,
    pageLanguage: null,
    birthDate: null,
    postalAddress: null,
    guardianId: null,
    householdId: null,
    consent: null,
    restUntil: null,
    restReason: null,
    prefers: null,
    zone: null,
    tags: [],
    doNotAsk: "Erased",
    note: "",
    source: "erased",
  },
  keeps: ["search"],
  exports: { as: "person" },
});

export const householdsPersonal = notPersonal(households);
export const dismissedMatchesPersonal = notPersonal(dismissedMatches);
export const peopleMatchesPersonal = notPersonal(peopleMatches);

export const mergesPersonal = personal(merges, {
  owners: [merges.keptId, merges.goneId],
  erase: { before: {} },
  keeps: ["moved", "by"],
});

/** Keyed hashes of addresses, so that no list brings back who was erased. */
export const erasuresPersonal = notPersonal(erasures);
export const viewsPersonal = notPersonal(views);
