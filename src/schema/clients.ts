import { sql } from "drizzle-orm";
import {
  boolean,
  doublePrecision,
  index,
  integer,
  jsonb,
  pgTable,
  primaryKey,
  text,
  uniqueIndex,
  uuid,
} from "drizzle-orm/pg-core";
import type { PlacePermission } from "@/core/access/permissions";
import type { AnswerRules } from "@/core/answers/answerRules";
import type { AwayWord } from "@/core/conversations/automatic";
import type { Tone } from "@/core/replies/sentences/bank";
import type { Scale } from "@/core/reviews/rating";
import type { SiteProblem } from "@/core/reviews/siteProblems";
import type { ConnectorId } from "@/core/reviews/sites";
import { READER } from "@/core/themes/themes";
import type { SendHours, WeekHours } from "@/core/time/sendHours";
import type { Logo } from "@/core/words/logo";
import type { BranchLook, Look } from "@/core/words/look";
import type { PrivacyNotes } from "@/core/words/privacy";
import { agencies, clientGroups } from "./accounts";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** Where an outside text service answers, and the key for it, encrypted. */
export type TextService = { address: string; key: string };

export const clients = pgTable(
  "clients",
  {
    id: key(),
    agencyId: uuid("agency_id")
      .notNull()
      .references(() => agencies.id),
    slug: text("slug").notNull().unique(),
    name: text("name").notNull(),
    groupId: uuid("group_id").references(() => clientGroups.id, { onDelete: "set null" }),
    /** Who of the agency looks after it: a user's identifier. */
    lookedAfterBy: text("looked_after_by"),
    /** What the client's own people are shown; null for all that their roles allow. */
    shownPlaces: text("shown_places").array().$type<PlacePermission[]>(),
    /** ISO 3166-1 alpha-2: default for phones, and whose public holidays are kept. */
    country: text("country").notNull(),
    zone: text("zone").notNull(),
    /** BCP 47 language tag of what customers read. */
    language: text("language").notNull().default("en"),
    colour: text("colour").notNull().default("#6A2156"),
    /** What customers see in place of its name's first letter; null for none. */
    logo: jsonb("logo").$type<Logo>(),
    senderEmail: text("sender_email").notNull(),
    /** When whoever reads its mail said that emails may go out from it (real time); null while nobody has. */
    senderConfirmedAt: instant("sender_confirmed_at"),
    postalAddress: text("postal_address").notNull(),
    /** E.164. Clients of one agency may share a number; the database refuses it to those of two. */
    textNumber: text("text_number").notNull(),
    sendHours: jsonb("send_hours").$type<SendHours>().notNull(),
    closedDates: jsonb("closed_dates").$type<string[]>().notNull().default([]),
    keepsHolidays: boolean("keeps_holidays").notNull().default(true),
    gapMinutes: integer("gap_minutes").notNull().default(240),
    /** Nobody is asked again within so many days, whichever plan asked. */
    restDays: integer("rest_days").notNull().default(0),
    /** Only those are asked who agreed to it. */
    needsConsent: boolean("needs_consent").notNull().default(false),
    /** At most so many messages leave in any 60 minutes; null for no ceiling. */
    textsAnHour: integer("texts_an_hour"),
    emailsAnHour: integer("emails_an_hour"),
    /** At most so many parts of texts and so many emails leave in a month; null for no limit. */
    textsAMonth: integer("texts_a_month"),
    emailsAMonth: integer("emails_a_month"),
    /** What a part of a text costs, in thousandths of the currency; for totals, nothing is charged here. */
    partPrice: integer("part_price").notNull().default(40),
    /** What a text with a picture costs, in thousandths of the currency. */
    mediaPrice: integer("media_price").notNull().default(120),
    /** ISO 4217. */
    currency: text("currency").notNull().default("GBP"),
    /** When both are used up: leave people out rather than hold their asks. */
    leavesOutWhenUsedUp: boolean("leaves_out_when_used_up").notNull().default(false),
    /**
     * Everything is paused: since when, until when (null until somebody goes on), by whom and why. What falls due
     * meanwhile waits, and leaves or ends as too late when it goes on.
     */
    pausedAt: instant("paused_at"),
    pausedUntil: instant("paused_until"),
    pausedBy: text("paused_by"),
    pausedWhy: text("paused_why"),
    /** Archived: nothing is done any more, and after a while it is deleted. */
    archivedAt: instant("archived_at"),
    archivedBy: text("archived_by"),
    /** Being deleted for good: nobody enters it any more. */
    deletingAt: instant("deleting_at"),
    /** Who is told when it is gone: a user's identifier. */
    deletingFor: text("deleting_for"),
    /** How many rows of each table are gone so far. */
    deleted: jsonb("deleted").$type<Record<string, number>>(),
    /** Real time: until when one worker deletes, and no other. */
    deleteClaimedUntil: instant("delete_claimed_until"),
    /** In how many office hours a concern is answered, and one with the lowest rating where that is less. */
    answerWithinHours: integer("answer_within_hours").notNull().default(4),
    urgentWithinHours: integer("urgent_within_hours"),
    /** An outside service that writes drafts; null for none. Its key is encrypted at rest. */
    textService: jsonb("text_service").$type<TextService>(),
    /** What people get who write while nobody is there; null for the starter words. */
    awayWord: jsonb("away_word").$type<AwayWord>(),
    /** How many days a link in a message works after the last one was sent. */
    linkDays: integer("link_days").notNull().default(180),
    /** The address of its own reviews, below /reviews/; null while there is none. */
    reviewsAddress: text("reviews_address").unique(),
    /** What it keeps of its customers and why, in its own words by language; the starter text of its country elsewhere. */
    privacyNote: jsonb("privacy_note").$type<PrivacyNotes>(),
    /** Texts in Polish keep their marks (ą, ł, ż), and so take more parts. */
    keepsMarks: boolean("keeps_marks").notNull().default(false),
    /** By which reader of themes all that its customers said was read (core/themes/themes). */
    themesReader: integer("themes_reader")
      .notNull()
      .default(0)
      .$defaultFn(() => READER),
    /** How what customers get looks beside colour and logo. */
    look: jsonb("look").$type<Look>(),
    /** A wide picture above emails and pages, and the face of who writes; null for none. */
    header: jsonb("header").$type<Logo>(),
    portrait: jsonb("portrait").$type<Logo>(),
    /** How drafts of replies sound. */
    replyTone: text("reply_tone").$type<Tone>().notNull().default("plain"),
    /** How answers are taken that no ask began; null for the plain rules. */
    openAnswers: jsonb("open_answers").$type<AnswerRules>(),
    /** A booked visit counts as finished when its end passes, unless somebody says otherwise. */
    bookedCountsAsFinished: boolean("booked_counts_as_finished").notNull().default(true),
  },
  (t) => [
    index("clients_agency").on(t.agencyId),
    index("clients_text_number").on(t.textNumber),
    uniqueIndex("clients_confirmed_sender").on(sql`lower(sender_email)`).where(sql`sender_confirmed_at is not null`),
  ],
);

/** The column of every table that holds rows of a client. */
export const clientId = () =>
  uuid("client_id")
    .notNull()
    .references(() => clients.id, { onDelete: "cascade" });

export const branches = pgTable(
  "branches",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    zone: text("zone").notNull(),
    address: text("address").notNull(),
    /**
     * ISO 3166-2 subdivision without the country, whose public holidays are kept; null for the usual one of the
     * country.
     */
    region: text("region"),
    phone: text("phone"),
    position: integer("position").notNull().default(0),
    /** When somebody is there to answer; null for the hours in which emails leave, by day. */
    officeHours: jsonb("office_hours").$type<WeekHours>(),
    /** Where it looks different from the business; null for the same. */
    look: jsonb("look").$type<BranchLook>(),
  },
  (t) => [index("branches_client").on(t.clientId, t.position)],
);

export const services = pgTable(
  "services",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    neverAsk: boolean("never_ask").notNull().default(false),
    /** No longer offered; its visits keep it. */
    retired: boolean("retired").notNull().default(false),
  },
  (t) => [uniqueIndex("services_name").on(t.clientId, t.name)],
);

export const teamMembers = pgTable(
  "team_members",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    retired: boolean("retired").notNull().default(false),
  },
  (t) => [uniqueIndex("team_members_name").on(t.clientId, t.name)],
);

export const listings = pgTable(
  "listings",
  {
    id: key(),
    clientId: clientId(),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id, { onDelete: "cascade" }),
    /** Name of the review site, as customers know it. */
    site: text("site").notNull(),
    /** Where a customer writes a review. */
    url: text("url").notNull(),
    position: integer("position").notNull().default(0),
    /** Why the link leads nowhere, and when somebody last looked. */
    problem: jsonb("problem").$type<SiteProblem>(),
    lookedAt: instant("looked_at"),
    /** Mail domains whose mailboxes are accounts of the site, or whose mail is hosted there. */
    accountDomains: text("account_domains").array().notNull().default(sql`'{}'::text[]`),
    /** The connector that collects and answers, with its address and key; null for a site that only has a link. */
    connector: text("connector").$type<ConnectorId>(),
    connectorUrl: text("connector_url"),
    /** The key, encrypted at rest. */
    connectorKey: text("connector_key"),
    /** The account by whose sign-in it is read; null where a key or nothing is needed. */
    accountId: uuid("account_id"),
    /** The site's own name of the place. */
    placeId: text("place_id"),
    /** How the site's reviews rate. */
    scale: text("scale").$type<Scale>().notNull().default("five"),
    /**
     * How many reviews its page shows, and what their ratings add up to, as last collected; null before the first
     * time.
     */
    reviewCount: integer("review_count"),
    ratingSum: doublePrecision("rating_sum"),
    /** The sum of the site's own values. */
    ownRatingSum: doublePrecision("own_rating_sum"),
    collectAt: instant("collect_at"),
    collectedAt: instant("collected_at"),
    collectError: jsonb("collect_error").$type<SiteProblem>(),
    /** Since when it cannot be read, and how often in a row it could not; null while it can. */
    failingSince: instant("failing_since"),
    failures: integer("failures").notNull().default(0),
    /** When everything had been read for the first time, and how far that has come until then. */
    firstReadAt: instant("first_read_at"),
    readCount: integer("read_count").notNull().default(0),
    readTotal: integer("read_total"),
    cursor: text("cursor"),
  },
  (t) => [index("listings_branch").on(t.clientId, t.branchId, t.position), index("listings_due").on(t.collectAt)],
);

export const TAG_EFFECTS = ["none", "do not ask", "ask first", "email only", "text only"] as const;
export type TagEffect = (typeof TAG_EFFECTS)[number];

/** Words that people and visits can be marked with, each with what it does. They are picked, never typed to match. */
export const tags = pgTable(
  "tags",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    effect: text("effect").$type<TagEffect>().notNull().default("none"),
  },
  (t) => [uniqueIndex("tags_name").on(t.clientId, t.name)],
);

/** What a client's senders have used in a month, and what left within the last hour where a ceiling holds. */
export const senders = pgTable(
  "senders",
  {
    clientId: clientId(),
    channel: text("channel").$type<"text" | "email">().notNull(),
    /** "2026-11", in the client's zone. */
    month: text("month").notNull(),
    messages: integer("messages").notNull().default(0),
    /** Parts of texts; emails count one each. */
    used: integer("used").notNull().default(0),
    /** Instants within the last hour, oldest first. */
    recentSends: jsonb("recent_sends").$type<number[]>().notNull().default([]),
  },
  (t) => [primaryKey({ columns: [t.clientId, t.channel, t.month] })],
);

/** Who hosts the mail of a domain, as a resolver said; of no client. */
export const mailDomains = pgTable("mail_domains", {
  domain: text("domain").primaryKey(),
  host: text("host"),
  lookedAt: instant("looked_at").notNull(),
});

export const clientsPersonal = notPersonal(clients);
export const branchesPersonal = notPersonal(branches);
export const servicesPersonal = notPersonal(services);
export const teamMembersPersonal = notPersonal(teamMembers);
export const listingsPersonal = notPersonal(listings);
export const tagsPersonal = notPersonal(tags);
export const sendersPersonal = notPersonal(senders);
export const mailDomainsPersonal = notPersonal(mailDomains);
