import { index, pgTable, primaryKey, smallint, text, uuid } from "drizzle-orm/pg-core";
import type { AskEventKind, AskEventSource } from "@/core/asks/askEvents";
import type { Channel } from "@/core/time/sendHours";
import { clientId } from "./clients";
import { instant, newId } from "./columns";
import { notPersonal } from "./personal";

/**
 * What happened to asks and their messages, appended and never changed: results are measured from it. It holds
 * identifiers, codes and numbers only. Partitioned by month (UTC) of `at`; the partitions are made by
 * `estima_prepare_events` of db/security.sql. Rows outlive the ask: they belong to no person.
 */
export const askEvents = pgTable(
  "ask_events",
  {
    id: uuid("id").notNull().$defaultFn(newId),
    clientId: clientId(),
    at: instant("at").notNull(),
    kind: text("kind").$type<AskEventKind>().notNull(),
    source: text("source").$type<AskEventSource>().notNull(),
    /** Null for what belongs to a standing link, a website or an unknown number. */
    askId: uuid("ask_id"),
    messageId: uuid("message_id"),
    step: smallint("step"),
    /** The key of the wording on trial with which the message left. */
    wording: text("wording"),
    /** The variant of its words: "es", "en@<service>". */
    variant: text("variant"),
    channel: text("channel").$type<Channel>(),
    listingId: uuid("listing_id"),
    /** A rating from 1 to 5. */
    rating: smallint("rating"),
    /** Why an ask was stopped or ended. */
    code: text("code"),
  },
  (t) => [
    primaryKey({ columns: [t.id, t.at] }),
    index("ask_events_time").on(t.clientId, t.at, t.kind),
    index("ask_events_ask").on(t.clientId, t.askId),
  ],
);

export const askEventsPersonal = notPersonal(askEvents);
