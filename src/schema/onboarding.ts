import { index, jsonb, pgTable, text } from "drizzle-orm/pg-core";
import type { ClientDraft } from "@/core/onboarding/draft";
import { agencyId } from "./accounts";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** A client that somebody has begun to fill in: kept as one goes, taken up again, gone once it is a client. */
export const clientDrafts = pgTable(
  "client_drafts",
  {
    id: key(),
    agencyId: agencyId(),
    /** What was typed, unchecked, in the shape of a client file. */
    values: jsonb("values").$type<ClientDraft>().notNull(),
    by: text("by").notNull(),
    updatedAt: instant("updated_at").notNull(),
    /** A link by which the client fills it in: a hash of its token, and until when it is good. */
    linkHash: text("link_hash").unique(),
    linkExpiresAt: instant("link_expires_at"),
    /** What the client typed there: counts for nothing before somebody of the agency has taken it over. */
    proposed: jsonb("proposed").$type<ClientDraft>(),
    proposedAt: instant("proposed_at"),
    /** When the client said that this is all. */
    doneAt: instant("done_at"),
  },
  (t) => [index("client_drafts_agency").on(t.agencyId, t.updatedAt)],
);

export const clientDraftsPersonal = notPersonal(clientDrafts);
