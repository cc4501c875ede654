import { sql } from "drizzle-orm";
import { type FirstStep, firstSteps } from "@/core/activity/firstSteps";
import type { Setting } from "@/features/clients";
import { staffOf } from "@/features/notices";
import { listPlans } from "@/features/plans";
import { rowsIn, type Scope, type Tx } from "@/platform/database";

export type FirstSteps = {
  steps: { step: FirstStep; isDone: boolean }[];
  /** The plan that is to start first; null where there is none. */
  planId: string | null;
};

/** What is left before a client's first ask; null once one has gone out. */
export async function loadFirstSteps(tx: Tx, scope: Scope, setting: Setting): Promise<FirstSteps | null> {
  const own = scope.clientId;
  const [{ asked }] = await rowsIn<{ asked: boolean }>(
    tx,
    sql`select exists (select 1 from asks where client_id = ${own} and last_sent_at is not null) as asked`,
  );
  if (asked) return null;
  const [found] = await rowsIn<{ sample: boolean; sources: number; invited: number }>(
    tx,
    sql`select exists (select 1 from preview_links where client_id = ${own} and sample is not null) as sample, estima_invited() as invited,
               (select count(*) from feeds where client_id = ${own} and state = 'on' and kind <> 'drop-off')::int
               + exists (select 1 from visits where client_id = ${own})::int
               + exists (select 1 from intakes where client_id = ${own} and state = 'imported')::int as sources`,
  );
  const plans = (await listPlans(tx, scope)).filter(({ state }) => state !== "archived");
  const running = plans.filter(({ state }) => state === "running");
  return {
    steps: firstSteps({
      pages: setting.listings.map(({ problem, lookedAt }) => (problem ? false : lookedAt === null ? null : true)),
      hasSample: found.sample,
      sources: found.sources,
      running: running.length,
      hasRun: plans.some(({ state, version }) => state !== "draft" && version > 0),
      team: (await staffOf(tx)).length + found.invited,
    }),
    planId: (running[0] ?? plans[0])?.id ?? null,
  };
}
