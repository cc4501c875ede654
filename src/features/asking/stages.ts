import { sql } from "drizzle-orm";
import { rowsIn, type Scope, type Tx } from "@/platform/database";

/** The way of an ask, from planned to reviewed. Each stage counts everybody who came as far or further along that line. */
export const STAGES = ["planned", "asked", "delivered", "opened", "followed the link", "answered", "went to a site", "reviewed"] as const;
export type Stage = (typeof STAGES)[number];

export type StageFilter = { since: number; planId: string | null; branchId: string | null };

const REACHED: Record<Stage, ReturnType<typeof sql>> = {
  planned: sql`true`,
  asked: sql`t.first_sent_at is not null`,
  delivered: sql`t.delivered`,
  opened: sql`(t.opened or t.followed or t.answered_at is not null)`,
  "followed the link": sql`(t.followed or t.answered_at is not null)`,
  answered: sql`t.answered_at is not null`,
  "went to a site": sql`t.site_followed_at is not null`,
  reviewed: sql`t.reviewed_at is not null`,
};

function asked(scope: Scope, { since, planId, branchId }: StageFilter) {
  return sql`(
    select a.id, a.person_id, a.first_sent_at, a.answered_at, a.site_followed_at, a.reviewed_at, a.created_at, a.stop, a.ended, a.plan_id, a.visit_id,
      coalesce(r.delivered, false) as delivered, coalesce(r.opened, false) as opened, coalesce(r.followed, false) as followed
    from asks a cross join lateral (
      select bool_or(m.delivered_at is not null) as delivered, bool_or(m.opened_at is not null) as opened, bool_or(m.followed_at is not null) as followed
      from messages m where m.client_id = a.client_id and m.ask_id = a.id and m.direction = 'out') r
    where a.client_id = ${scope.clientId} and a.created_at >= ${new Date(since).toISOString()}
      ${planId ? sql`and a.plan_id = ${planId}` : sql``} ${branchId ? sql`and a.branch_id = ${branchId}` : sql``}) t`;
}

/** How many asks came how far. */
export async function countStages(tx: Tx, scope: Scope, filter: StageFilter): Promise<Record<Stage, number>> {
  const each = STAGES.map((stage) => sql`(count(*) filter (where ${REACHED[stage]}))::int as ${sql.identifier(stage)}`);
  const [row] = await rowsIn<Record<Stage, number>>(tx, sql`select ${sql.join(each, sql`, `)} from ${asked(scope, filter)}`);
  return row;
}

export type StagePerson = { askId: string; visitId: string; personId: string; given: string; family: string; at: number; plan: string; stop: string | null; ended: string | null };

export const STAGE_PAGE = 50;

/** Who stands at a stage and came no further, newest first; or everybody who came as far. */
export async function peopleAt(tx: Tx, scope: Scope, filter: StageFilter, stage: Stage, only: boolean, before: { at: number; id: string } | null): Promise<StagePerson[]> {
  const next = STAGES[STAGES.indexOf(stage) + 1];
  const further = only && next ? sql`and not ${REACHED[next]}` : sql``;
  const beyond = before ? sql`and (t.created_at, t.id) < (${new Date(before.at).toISOString()}, ${before.id}::uuid)` : sql``;
  const rows = await rowsIn<Omit<StagePerson, "at"> & { at: string }>(
    tx,
    sql`select t.id as "askId", t.visit_id as "visitId", t.person_id as "personId", p.given, p.family, t.created_at as at, l.name as plan, t.stop, t.ended
        from ${asked(scope, filter)} join people p on p.id = t.person_id join plans l on l.id = t.plan_id
        where ${REACHED[stage]} ${further} ${beyond} order by t.created_at desc, t.id desc limit ${STAGE_PAGE + 1}`,
  );
  return rows.map((row) => ({ ...row, at: new Date(row.at).getTime() }));
}
