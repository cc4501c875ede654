import { and, desc, eq, inArray } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { branches, services } from "@/schema/clients";
import { visits } from "@/schema/visits";
import { serviceWords } from "./upsert";

/** The latest visits of a person that took place or are booked, the latest first. `endsAt` in milliseconds, UTC. */
export function lastVisitsOf(tx: Tx, scope: Scope, personId: string, most: number) {
  return tx
    .select({
      id: visits.id,
      service: serviceWords,
      branch: branches.name,
      about: visits.about,
      endsAt: visits.endsAt,
    })
    .from(visits)
    .leftJoin(services, eq(services.id, visits.serviceId))
    .innerJoin(branches, eq(branches.id, visits.branchId))
    .where(
      and(
        eq(visits.clientId, scope.clientId),
        eq(visits.personId, personId),
        inArray(visits.outcome, ["finished", "booked"]),
      ),
    )
    .orderBy(desc(visits.endsAt))
    .limit(most);
}
