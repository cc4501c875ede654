import { and, asc, eq, gte, inArray, lt } from "drizzle-orm";
import type { Reason } from "@/core/asks/findings";
import type { Person } from "@/features/people";
import type { Scope, Tx } from "@/platform/database";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";

/** People whose visits of one day were left out for a reason. */
export async function leftOutPeople(tx: Tx, scope: Scope, reason: Reason, from: number, to: number): Promise<Person[]> {
  const ids = tx
    .select({ id: visits.personId })
    .from(visits)
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        gte(visits.endsAt, from),
        lt(visits.endsAt, to),
        eq(visits.decision, "left out"),
        eq(visits.reason, reason),
      ),
    );
  return tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), inArray(people.id, ids)))
    .orderBy(asc(people.family), asc(people.given))
    .limit(200);
}
