import { and, eq, inArray, isNull, sql } from "drizzle-orm";
import { recordAudit } from "@/features/audit";
import { type Person, setHousehold } from "@/features/people";
import type { Scope, Tx } from "@/platform/database";
import { newId } from "@/schema/columns";
import { households, people } from "@/schema/people";

/** Makes people one household. Those who have one already bring the others into it. */
export async function makeHousehold(
  tx: Tx,
  scope: Scope,
  ids: string[],
  who: string,
  now: number,
): Promise<string | null> {
  const members = await tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        inArray(people.id, ids),
        isNull(people.mergedInto),
        isNull(people.erasedAt),
      ),
    )
    .orderBy(people.id)
    .for("update");
  if (members.length < 2) return null;
  const homes = [...new Set(members.flatMap(({ householdId }) => householdId ?? []))];
  const [home = newId(), ...others] = homes;
  if (homes.length === 0)
    await tx.insert(households).values({ id: home, clientId: scope.clientId, confirmedBy: who, createdAt: now });
  await setHousehold(
    tx,
    scope,
    members.map(({ id }) => id),
    home,
    others,
  );
  if (others.length > 0) await tx.delete(households).where(inArray(households.id, others));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "made household",
    subject: "person",
    subjectId: members[0].id,
    details: { members: members.map(({ id }) => id) },
  });
  return home;
}

/**
 * Takes one person out of their household; a household of one is none. False when there is nothing to take them out
 * of.
 */
export async function leaveHousehold(tx: Tx, scope: Scope, id: string, who: string, now: number): Promise<boolean> {
  const [person] = await tx
    .select()
    .from(people)
    .where(and(eq(people.clientId, scope.clientId), eq(people.id, id)))
    .for("update");
  if (!person?.householdId) return false;
  await setHousehold(tx, scope, [id], null);
  const left = await tx
    .select({ id: people.id })
    .from(people)
    .where(eq(people.householdId, person.householdId))
    .limit(2);
  if (left.length < 2) await tx.delete(households).where(eq(households.id, person.householdId));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "left household",
    subject: "person",
    subjectId: id,
  });
  return true;
}

/** The others of a person's household. */
export function housemates(tx: Tx, scope: Scope, person: Person): Promise<Person[]> {
  if (!person.householdId) return Promise.resolve([]);
  return tx
    .select()
    .from(people)
    .where(
      and(
        eq(people.clientId, scope.clientId),
        eq(people.householdId, person.householdId),
        sql`${people.id} <> ${person.id}`,
      ),
    )
    .limit(20);
}
