import { and, count, desc, eq, gte } from "drizzle-orm";
import type { AskEnd, Stop } from "@/core/asks/nextStep";
import { ASK_STAGES, type AskStage } from "@/core/asks/stages";
import type { Scope, Tx } from "@/platform/database";
import { earlierThan } from "@/platform/pageKey";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";
import { plans } from "@/schema/plans";

export type StageFilter = { since: number; planId: string | null; branchId: string | null };

function begun(scope: Scope, { since, planId, branchId }: StageFilter) {
  return and(
    eq(asks.clientId, scope.clientId),
    gte(asks.createdAt, since),
    planId ? eq(asks.planId, planId) : undefined,
    branchId ? eq(asks.branchId, branchId) : undefined,
  );
}

/** How many asks came how far. Each stage counts everybody who came as far or further. */
export async function countStages(tx: Tx, scope: Scope, filter: StageFilter): Promise<Record<AskStage, number>> {
  const rows = await tx
    .select({ furthest: asks.furthest, count: count() })
    .from(asks)
    .where(begun(scope, filter))
    .groupBy(asks.furthest);
  const asFarAs = (place: number) => rows.reduce((sum, row) => sum + (row.furthest >= place ? row.count : 0), 0);
  return Object.fromEntries(ASK_STAGES.map((stage, place) => [stage, asFarAs(place)])) as Record<AskStage, number>;
}

export type StagePerson = {
  askId: string;
  visitId: string;
  personId: string;
  given: string;
  family: string;
  at: number;
  plan: string;
  stop: Stop | null;
  ended: AskEnd | null;
};

export const STAGE_PAGE = 50;

/** Who stands at a stage and came no further, newest first; or everybody who came as far. */
export async function peopleAt(
  tx: Tx,
  scope: Scope,
  filter: StageFilter,
  stage: AskStage,
  only: boolean,
  before: { at: number; id: string } | null,
): Promise<StagePerson[]> {
  const here = ASK_STAGES.indexOf(stage);
  return tx
    .select({
      askId: asks.id,
      visitId: asks.visitId,
      personId: asks.personId,
      given: people.given,
      family: people.family,
      at: asks.createdAt,
      plan: plans.name,
      stop: asks.stop,
      ended: asks.ended,
    })
    .from(asks)
    .innerJoin(people, eq(people.id, asks.personId))
    .innerJoin(plans, eq(plans.id, asks.planId))
    .where(
      and(
        begun(scope, filter),
        only ? eq(asks.furthest, here) : gte(asks.furthest, here),
        before ? earlierThan(asks.createdAt, asks.id, before) : undefined,
      ),
    )
    .orderBy(desc(asks.createdAt), desc(asks.id))
    .limit(STAGE_PAGE + 1);
}
