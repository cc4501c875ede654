import { and, eq, isNull } from "drizzle-orm";
import { may } from "@/core/access/permissions";
import { type Absence, type ConcernOwner, concernOwner, type OwnerRule } from "@/core/concerns/owner";
import { recordAudit } from "@/features/audit";
import { loadSetting, todayOf } from "@/features/clients";
import { rightsAt, type Staff, staffOf } from "@/features/notices";
import type { Scope, Tx } from "@/platform/database";
import { absences, concernOwners } from "@/schema/concerns";
import { visits } from "@/schema/visits";

/** Whose concerns are: rules by branch and by team member, and who stands in for whom until when. */

export type KeptOwnerRule = OwnerRule & { id: string };

export function listOwnerRules(tx: Tx, scope: Scope): Promise<KeptOwnerRule[]> {
  return tx.select().from(concernOwners).where(eq(concernOwners.clientId, scope.clientId)).orderBy(concernOwners.id);
}

export function listAbsences(tx: Tx, scope: Scope): Promise<Absence[]> {
  return tx.select().from(absences).where(eq(absences.clientId, scope.clientId)).orderBy(absences.until);
}

/** To whom a new concern is given, with their name; null where no rule says so, or nobody of them may answer it. */
export async function ownerFor(
  tx: Tx,
  scope: Scope,
  concern: { branchId: string; visitId: string | null },
  now: number,
): Promise<(ConcernOwner & { name: string }) | null> {
  const rules = await listOwnerRules(tx, scope);
  if (rules.length === 0) return null;
  const [visit] = concern.visitId
    ? await tx.select({ teamMemberId: visits.teamMemberId }).from(visits).where(eq(visits.id, concern.visitId))
    : [];
  const staff = await staffOf(tx);
  const owner = concernOwner(
    { branchId: concern.branchId, teamMemberId: visit?.teamMemberId ?? null },
    rules,
    await listAbsences(tx, scope),
    todayOf(await loadSetting(tx), now),
    (userId) => mayAnswer(staff, userId, concern.branchId),
  );
  const name = staff.find(({ id }) => id === owner?.userId)?.name;
  return owner && name ? { ...owner, name } : null;
}

/** Whether somebody of the staff may answer concerns of a branch. */
export const mayAnswer = (staff: readonly Staff[], userId: string, branchId: string): boolean =>
  staff.some((one) => one.id === userId && may(rightsAt(one, branchId), "answer concerns"));

const recordChange = (tx: Tx, scope: Scope, who: string, details: Record<string, unknown>, now: number) =>
  recordAudit(tx, { clientId: scope.clientId, at: now, who, action: "changed", subject: "client", details });

/** Sets whose the concerns of a branch, of a team member, or all others are; of nobody takes the rule away. */
export async function setOwner(
  tx: Tx,
  scope: Scope,
  who: string,
  it: Omit<OwnerRule, "userId"> & { userId: string | null },
  now: number,
): Promise<void> {
  const { branchId, teamMemberId, userId } = it;
  await tx
    .delete(concernOwners)
    .where(
      and(
        eq(concernOwners.clientId, scope.clientId),
        branchId ? eq(concernOwners.branchId, branchId) : isNull(concernOwners.branchId),
        teamMemberId ? eq(concernOwners.teamMemberId, teamMemberId) : isNull(concernOwners.teamMemberId),
      ),
    );
  if (userId) await tx.insert(concernOwners).values({ clientId: scope.clientId, branchId, teamMemberId, userId });
  await recordChange(tx, scope, who, { concernOwner: it }, now);
}

/** Notes until when somebody is away, with that day (ISO), and who stands in; until null they are back. */
export async function setAbsence(
  tx: Tx,
  scope: Scope,
  who: string,
  it: { userId: string; until: string | null; standInId: string | null },
  now: number,
): Promise<void> {
  const { userId, until, standInId } = it;
  if (until === null)
    await tx.delete(absences).where(and(eq(absences.clientId, scope.clientId), eq(absences.userId, userId)));
  else
    await tx
      .insert(absences)
      .values({ clientId: scope.clientId, userId, until, standInId })
      .onConflictDoUpdate({ target: [absences.clientId, absences.userId], set: { until, standInId } });
  await recordChange(tx, scope, who, { absence: it }, now);
}
