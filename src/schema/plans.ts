import { sql } from "drizzle-orm";
import { index, integer, jsonb, pgTable, primaryKey, text, uniqueIndex, uuid } from "drizzle-orm/pg-core";
import type { Reason, TraceLine } from "@/core/asks/findings";
import type { PauseReason } from "@/core/plans/pauseReason";
import type { PlanRules } from "@/core/plans/planRules";
import { branches, clientId } from "./clients";
import { instant, key } from "./columns";
import { people } from "./people";
import { notPersonal, personal } from "./personal";

export const plans = pgTable(
  "plans",
  {
    id: key(),
    clientId: clientId(),
    name: text("name").notNull(),
    /** draft: has never run. archived: takes nothing, asks under way go on. */
    state: text("state").$type<"draft" | "running" | "paused" | "archived">().notNull(),
    /** Why it paused by itself; null when a person did it. */
    pausedWhy: jsonb("paused_why").$type<PauseReason>(),
    /** In force. */
    rules: jsonb("rules").$type<PlanRules>().notNull(),
    /** Counts what was put in force. */
    version: integer("version").notNull().default(1),
    /** Changes that are not in force yet; null when there are none. */
    draft: jsonb("draft").$type<PlanRules>(),
    draftBy: text("draft_by"),
    /** Counts every change; a form that was opened on an older one is refused. */
    revision: integer("revision").notNull().default(1),
    runningSince: instant("running_since").notNull(),
    position: integer("position").notNull().default(0),
    /** When the worker looks at it next: the next portion of a list, or who has been a customer long enough. */
    nextRunAt: instant("next_run_at"),
    /** Until when customers were looked at. */
    lookedUntil: instant("looked_until"),
  },
  (t) => [
    index("plans_client").on(t.clientId, t.position),
    index("plans_next_run").on(t.nextRunAt).where(sql`next_run_at is not null`),
  ],
);

/** Every version that was ever in force: asks under way may go on by an older one. */
export const planVersions = pgTable(
  "plan_versions",
  {
    planId: uuid("plan_id")
      .notNull()
      .references(() => plans.id, { onDelete: "cascade" }),
    version: integer("version").notNull(),
    clientId: clientId(),
    rules: jsonb("rules").$type<PlanRules>().notNull(),
    by: text("by").notNull(),
    at: instant("at").notNull(),
  },
  (t) => [primaryKey({ columns: [t.planId, t.version] })],
);

/**
 * A moment at which a plan looks at a person without a visit having ended: they got its tag, or have been a customer
 * for so long.
 */
export const triggers = pgTable(
  "triggers",
  {
    id: key(),
    clientId: clientId(),
    planId: uuid("plan_id")
      .notNull()
      .references(() => plans.id, { onDelete: "cascade" }),
    personId: uuid("person_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
    /** Once for each plan, person and key. */
    key: text("key").notNull(),
    /** When it happened; null until the worker has seen it. */
    at: instant("at"),
    examineAt: instant("examine_at"),
    claimedUntil: instant("claimed_until"),
    examinedAt: instant("examined_at"),
    decision: text("decision").$type<"asked" | "left out">(),
    reason: text("reason").$type<Reason>(),
    trace: jsonb("trace").$type<TraceLine[]>(),
    askId: uuid("ask_id"),
  },
  (t) => [
    uniqueIndex("triggers_once").on(t.planId, t.personId, t.key),
    index("triggers_due").on(t.examineAt).where(sql`examine_at is not null`),
    index("triggers_person").on(t.clientId, t.personId),
  ],
);

/** How often each site came first, for plans that share asks out. */
export const siteTurns = pgTable(
  "site_turns",
  {
    clientId: clientId(),
    planId: uuid("plan_id")
      .notNull()
      .references(() => plans.id, { onDelete: "cascade" }),
    branchId: uuid("branch_id")
      .notNull()
      .references(() => branches.id, { onDelete: "cascade" }),
    site: text("site").notNull(),
    turns: integer("turns").notNull().default(0),
  },
  (t) => [primaryKey({ columns: [t.planId, t.branchId, t.site] })],
);

export const plansPersonal = notPersonal(plans);
export const planVersionsPersonal = notPersonal(planVersions);

export const triggersPersonal = personal(triggers, {
  owners: [triggers.personId],
  merge: "follows",
  erase: { trace: null },
  keeps: ["key", "decision", "reason"],
});

export const siteTurnsPersonal = notPersonal(siteTurns);
