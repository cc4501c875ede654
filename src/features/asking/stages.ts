import { sql } from "drizzle-orm";
import { rowsIn, type Scope, type Tx } from "@/platform/database";

/** The way of an ask, from planned to reviewed. Each stage counts everybody who came as far or further along that line. */
export const STAGES = ["planned", "asked", "delivered", "opened", "followed the link", "answered", "went to a site", "reviewed"] as const;
export type Stage = (typeof STAGES)[number];

export type StageFilter = { since: number; planId: string | null; branchId: string | null };

/** What shows that an ask came to a stage. Whoever came further is taken to have passed what lies before. */
const SHOWN: Record<Exclude<Stage, "planned">, ReturnType<typeof sql>> = {
  asked: sql`a.first_sent_at is not null`,
  delivered: sql`r.delivered`,
  opened: sql`r.opened`,
  "followed the link": sql`r.followed`,
  answered: sql`a.answered_at is not null`,
  "went to a site": sql`a.site_followed_at is not null`,
  reviewed: sql`a.reviewed_at is not null`,
};

/** The furthest stage of an ask, as its place among STAGES. */
const FURTHEST = sql`case ${sql.join(
  STAGES.toReversed().map((stage) => (stage === "planned" ? sql`else 0` : sql`when ${SHOWN[stage]} then ${sql.raw(String(STAGES.indexOf(stage)))}`)),
  sql` `,
)} end`;

function asked(scope: Scope, { since, planId, branchId }: StageFilter) {
  return sql`(
    select a.id, a.person_id, a.created_at, a.stop, a.ended, a.plan_id, a.visit_id, ${FURTHEST} as furthest
    from asks a cross join lateral (
      select bool_or(m.delivered_at is not null) as delivered, bool_or(m.opened_at is not null) as opened, bool_or(m.followed_at is not null) as followed
      from messages m where m.client_id = a.client_id and m.ask_id = a.id and m.direction = 'out'
        -- Whoever came further is not asked about what lies before.
        and a.sent_count > 0 and a.answered_at is null and a.site_followed_at is null and a.reviewed_at is null) r
    where a.client_id = ${scope.clientId} and a.created_at >= ${new Date(since).toISOString()}
      ${planId ? sql`and a.plan_id = ${planId}` : sql``} ${branchId ? sql`and a.branch_id = ${branchId}` : sql``}) t`;
}

/** How many asks came how far. */
export async function countStages(tx: Tx, scope: Scope, filter: StageFilter): Promise<Record<Stage, number>> {
  const each = STAGES.map((stage) => sql`(count(*) filter (where t.furthest >= ${STAGES.indexOf(stage)}))::int as ${sql.identifier(stage)}`);
  const [row] = await rowsIn<Record<Stage, number>>(tx, sql`select ${sql.join(each, sql`, `)} from ${asked(scope, filter)}`);
  return row;
}

export type StagePerson = { askId: string; visitId: string; personId: string; given: string; family: string; at: number; plan: string; stop: string | null; ended: string | null };

export const STAGE_PAGE = 50;

/** Who stands at a stage and came no further, newest first; or everybody who came as far. */
export async function peopleAt(tx: Tx, scope: Scope, filter: StageFilter, stage: Stage, only: boolean, before: { at: number; id: string } | null): Promise<StagePerson[]> {
  const here = STAGES.indexOf(stage);
  const beyond = before ? sql`and (t.created_at, t.id) < (${new Date(before.at).toISOString()}, ${before.id}::uuid)` : sql``;
  const rows = await rowsIn<Omit<StagePerson, "at"> & { at: string }>(
    tx,
    sql`select t.id as "askId", t.visit_id as "visitId", t.person_id as "personId", p.given, p.family, t.created_at as at, l.name as plan, t.stop, t.ended
        from ${asked(scope, filter)} join people p on p.id = t.person_id join plans l on l.id = t.plan_id
        where ${only ? sql`t.furthest = ${here}` : sql`t.furthest >= ${here}`} ${beyond} order by t.created_at desc, t.id desc limit ${STAGE_PAGE + 1}`,
  );
  return rows.map((row) => ({ ...row, at: new Date(row.at).getTime() }));
}
