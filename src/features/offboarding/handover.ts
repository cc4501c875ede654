import { and, desc, eq, isNull, or, sql } from "drizzle-orm";
import { recordAccountEntry } from "@/features/accounts";
import { type AgencyScope, codeOf, rowsIn, rowsOf, type Tx, withAgency } from "@/platform/database";
import { handovers } from "@/schema/accounts";
import { newId } from "@/schema/columns";

/** A client that goes from one agency to another: one offers it, the other takes it. */

export type Handover = typeof handovers.$inferSelect;

/** What is offered to this agency, and what it has offered itself, and nobody has answered. */
export async function listHandovers(tx: Tx, scope: AgencyScope): Promise<Handover[]> {
  return tx
    .select()
    .from(handovers)
    .where(
      and(
        isNull(handovers.endedAt),
        or(eq(handovers.agencyId, scope.agencyId), eq(handovers.toAgencyId, scope.agencyId)),
      ),
    )
    .orderBy(desc(handovers.at), handovers.id);
}

type By = { id: string; name: string };

/**
 * Offers a client to the agency that goes by this name in addresses. Says nothing about whether there is one: an offer
 * to nobody is an offer that nobody takes. Of two offers of one client the first stands.
 */
export async function offerClient(
  scope: AgencyScope,
  by: By,
  agencyName: string,
  client: { id: string; name: string },
  toSlug: string,
  now: number,
): Promise<"offered" | "offered before" | "to itself"> {
  const [to] = await rowsOf<{ id: string }>(sql`select estima_agency_of_slug(${toSlug}) as id`);
  if (to?.id === scope.agencyId) return "to itself";
  try {
    await withAgency(scope, async (tx) => {
      if (to?.id)
        await tx.insert(handovers).values({
          id: newId(),
          agencyId: scope.agencyId,
          toAgencyId: to.id,
          aboutClient: client.id,
          fromName: agencyName,
          clientName: client.name,
          by: by.name,
          at: now,
        });
      await recordAccountEntry(tx, scope, {
        at: now,
        who: by.name,
        action: "offered",
        subject: "client",
        name: client.name,
        aboutClient: client.id,
      });
    });
    return "offered";
  } catch (error) {
    if (codeOf(error) === "23505") return "offered before";
    throw error;
  }
}

/** Takes an offer back, or says no to one. False where it is answered already. */
export async function endHandover(tx: Tx, scope: AgencyScope, by: By, id: string, now: number): Promise<boolean> {
  const [ended] = await rowsIn<{ about_client: string; name: string; is_own: boolean }>(
    tx,
    sql`update handovers set ended_at = ${new Date(now).toISOString()}::timestamptz,
        ended = case when agency_id = ${scope.agencyId}::uuid then 'withdrawn' else 'declined' end
      where id = ${id} and ended_at is null and ${scope.agencyId}::uuid in (agency_id, to_agency_id)
      returning about_client, client_name as name, agency_id = ${scope.agencyId}::uuid as is_own`,
  );
  if (!ended) return false;
  await recordAccountEntry(tx, scope, {
    at: now,
    who: by.name,
    action: ended.is_own ? "took the offer back of" : "declined",
    subject: "client",
    name: ended.name,
    aboutClient: ended.is_own ? ended.about_client : null,
  });
  return true;
}

/**
 * Takes a client that was offered. It is this agency's from that moment on: nobody of the other one enters it any more;
 * its own people keep what they may do. Gives its address, or null where the offer is gone.
 */
export async function acceptHandover(
  scope: AgencyScope,
  by: By,
  id: string,
  now: number,
): Promise<string | "shared number" | null> {
  try {
    const [taken] = await rowsOf<{ slug: string }>(
      sql`select * from estima_hand_over(${id}, ${scope.agencyId}, ${by.id}, ${by.name}, ${new Date(now).toISOString()})`,
    );
    return taken?.slug ?? null;
  } catch (error) {
    // Two agencies cannot have one number (PostgreSQL's unique and exclusion violations).
    if (["23505", "23P01"].includes(codeOf(error) ?? "")) return "shared number";
    throw error;
  }
}
