import { index, integer, jsonb, pgTable, text, uuid } from "drizzle-orm/pg-core";
import type { PlanRules } from "@/core/plans/planRules";
import { instant, key } from "@/platform/columns";
import { clients } from "../clients/tables";

export const plans = pgTable(
  "plans",
  {
    id: key(),
    clientId: uuid("client_id")
      .notNull()
      .references(() => clients.id, { onDelete: "cascade" }),
    name: text("name").notNull(),
    state: text("state").$type<"running" | "paused">().notNull(),
    rules: jsonb("rules").$type<PlanRules>().notNull(),
    /** Counts changes; a form that was opened on an older one is refused. */
    version: integer("version").notNull().default(1),
    runningSince: instant("running_since").notNull(),
    position: integer("position").notNull().default(0),
  },
  (t) => [index("plans_client").on(t.clientId, t.position)],
);
