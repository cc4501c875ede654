import { and, desc, eq } from "drizzle-orm";
import { saidBeside } from "@/features/answers";
import { serviceWords } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { answers, sitesFollowed } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { branches, listings, services, teamMembers } from "@/schema/clients";
import { concerns } from "@/schema/concerns";
import { messages } from "@/schema/messages";
import { visits } from "@/schema/visits";

/** Everything that happened with one person, newest first within each kind. At most the last 200 of each. */
export async function timelineOf(tx: Tx, scope: Scope, personId: string) {
  const most = 200;
  const given = await tx
    .select({ answer: answers, visitId: asks.visitId })
    .from(answers)
    .leftJoin(asks, eq(asks.id, answers.askId))
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.personId, personId)))
    .limit(most);
  return {
    visits: await tx
      .select({ visit: visits, service: serviceWords, branch: branches.name, member: teamMembers.name })
      .from(visits)
      .leftJoin(services, eq(services.id, visits.serviceId))
      .innerJoin(branches, eq(branches.id, visits.branchId))
      .leftJoin(teamMembers, eq(teamMembers.id, visits.teamMemberId))
      .where(and(eq(visits.clientId, scope.clientId), eq(visits.personId, personId)))
      .orderBy(desc(visits.endsAt))
      .limit(most),
    asks: await tx
      .select()
      .from(asks)
      .where(and(eq(asks.clientId, scope.clientId), eq(asks.personId, personId)))
      .orderBy(desc(asks.createdAt))
      .limit(most),
    messages: await tx
      .select()
      .from(messages)
      .where(and(eq(messages.clientId, scope.clientId), eq(messages.personId, personId)))
      .orderBy(desc(messages.createdAt))
      .limit(most),
    answers: given,
    beside: await saidBeside(
      tx,
      scope,
      given.map(({ answer }) => answer.id),
    ),
    followed: await tx
      .select({ id: sitesFollowed.id, at: sitesFollowed.at, site: listings.site })
      .from(sitesFollowed)
      .innerJoin(asks, eq(asks.id, sitesFollowed.askId))
      .innerJoin(listings, eq(listings.id, sitesFollowed.listingId))
      .where(and(eq(sitesFollowed.clientId, scope.clientId), eq(asks.personId, personId)))
      .limit(most),
    concerns: await tx
      .select()
      .from(concerns)
      .where(and(eq(concerns.clientId, scope.clientId), eq(concerns.personId, personId)))
      .limit(most),
  };
}

export type Timeline = Awaited<ReturnType<typeof timelineOf>>;
