/** Who sees to a concern: whoever a rule names, or who stands in for them while they are away. */

/** Concerns of a branch, or of the visits with one of the team, are somebody's; of both null: all others. */
export type OwnerRule = { branchId: string | null; teamMemberId: string | null; userId: string };

/** Somebody is away up to and with an ISO day, and who stands in for them. */
export type Absence = { userId: string; until: string; standInId: string | null };

export type ConcernOwner = { userId: string; how: "rule" | "stand-in" };

/**
 * Who a new concern is given to: the rule of the team member comes before that of the branch, and that before the one
 * for all others. Whoever is away is stood in for, and that person again; where that leads in a circle, or to somebody
 * who may not answer at this branch, it is nobody's. `today` is an ISO day.
 */
export function concernOwner(
  concern: { branchId: string; teamMemberId: string | null },
  rules: readonly OwnerRule[],
  absences: readonly Absence[],
  today: string,
  mayAnswer: (userId: string) => boolean,
): ConcernOwner | null {
  const fitting =
    (concern.teamMemberId !== null && rules.find(({ teamMemberId }) => teamMemberId === concern.teamMemberId)) ||
    rules.find(({ teamMemberId, branchId }) => teamMemberId === null && branchId === concern.branchId) ||
    rules.find(({ teamMemberId, branchId }) => teamMemberId === null && branchId === null);
  if (!fitting) return null;
  let userId: string | null = fitting.userId;
  const seen = new Set<string>();
  while (userId !== null && !seen.has(userId)) {
    const current: string = userId;
    seen.add(current);
    const away = absences.find((one) => one.userId === current && one.until >= today);
    if (!away) return mayAnswer(current) ? { userId: current, how: seen.size === 1 ? "rule" : "stand-in" } : null;
    userId = away.standInId;
  }
  return null;
}
