import { index, jsonb, pgTable, primaryKey, text, uuid } from "drizzle-orm/pg-core";
import type { WalkChoice } from "@/core/words/walk";
import { agencyId } from "./accounts";
import { clientId } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";
import { plans } from "./plans";

/** Pieces that an agency says otherwise than the starter words: what its clients' plans follow. */
export const agencyWords = pgTable(
  "agency_words",
  {
    agencyId: agencyId(),
    /** "es:first.job/text". */
    piece: text("piece").notNull(),
    words: text("words").notNull(),
    by: text("by").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.agencyId, t.piece] })],
);

/** A link by which somebody outside looks at a customer's way, or opens the page of a sample, without changing it. */
export const previewLinks = pgTable(
  "preview_links",
  {
    id: key(),
    clientId: clientId(),
    planId: uuid("plan_id")
      .notNull()
      .references(() => plans.id, { onDelete: "cascade" }),
    /** What a sample shows, as its link's page needs it; null for the whole way. */
    sample: jsonb("sample").$type<WalkChoice>(),
    /** SHA-256 of the token, in hexadecimal: the link itself is shown once. */
    tokenHash: text("token_hash").notNull().unique(),
    by: text("by").notNull(),
    createdAt: instant("created_at").notNull(),
    expiresAt: instant("expires_at").notNull(),
  },
  (t) => [index("preview_links_plan").on(t.clientId, t.planId)],
);

export const agencyWordsPersonal = notPersonal(agencyWords);
export const previewLinksPersonal = notPersonal(previewLinks);
