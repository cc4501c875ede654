import { index, integer, pgTable, text, uuid } from "drizzle-orm/pg-core";
import { branches, clientId, teamMembers } from "./clients";
import { instant, key } from "./columns";
import { notPersonal } from "./personal";

/** A link without a person: for a branch, a team member or a place; printed as a code, pasted into any chat. */
export const standingLinks = pgTable(
  "standing_links",
  {
    id: key(),
    clientId: clientId(),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id),
    /** Whose work it asks about; null for nobody's in particular. */
    teamMemberId: uuid("team_member_id").references(() => teamMembers.id),
    /** Where it hangs or who has it: "Counter", "Van 3". */
    name: text("name").notNull(),
    /** The unguessable part of its address. */
    token: text("token").notNull().unique(),
    /** How often its page was opened, an answer given there, and a review site opened from there. */
    opened: integer("opened").notNull().default(0),
    answered: integer("answered").notNull().default(0),
    wentToSites: integer("went_to_sites").notNull().default(0),
    by: text("by").notNull(),
    createdAt: instant("created_at").notNull(),
    endedAt: instant("ended_at"),
  },
  (t) => [index("standing_links_client").on(t.clientId, t.endedAt, t.createdAt)],
);

export const standingLinksPersonal = notPersonal(standingLinks);
