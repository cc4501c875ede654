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
  },
  (t) => [index("client_drafts_agency").on(t.agencyId, t.updatedAt)],
);

export const clientDraftsPersonal = notPersonal(clientDrafts);
