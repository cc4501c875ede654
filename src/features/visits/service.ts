import { and, desc, eq, inArray, lte, max } from "drizzle-orm";
import { z } from "zod";
import { OUTCOMES, type VisitOutcome } from "@/core/asks/findings";
import { isInRange } from "@/core/time/range";
import { recordAudit } from "@/features/audit";
import { noteVisits, refreshLastVisits } from "@/features/people";
import { anyOf, type Scope, type Tx } from "@/platform/database";
import { visits } from "@/schema/visits";

export type Visit = typeof visits.$inferSelect;

/** What a person types to record a visit. `endedAt` is an instant in milliseconds. */
export const visitInput = z.object({
  personId: z.uuid("Choose a person."),
  serviceId: z.uuid("Choose a service."),
  branchId: z.uuid("Choose a branch."),
  teamMemberId: z.union([z.literal("").transform(() => null), z.uuid()]).nullish(),
  about: z.string().trim().max(60, "Keep this under 60 characters.").default(""),
  endsAt: z.number().int().refine(isInRange),
  outcome: z.enum(OUTCOMES),
  requestKey: z.uuid(),
});
export type VisitValues = z.output<typeof visitInput>;

/** Records a visit; plans look at it at once when it is over, else when it ends. The same request key counts once. */
export async function recordVisit(
  tx: Tx,
  scope: Scope,
  who: string,
  values: VisitValues,
  now: number,
  source: Visit["source"] = "by hand",
): Promise<Visit> {
  const [known] = await tx
    .select()
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.requestKey, values.requestKey)));
  if (known) return known;
  const isByHandAsk = source === "asked by hand";
  const [visit] = await tx
    .insert(visits)
    .values({
      clientId: scope.clientId,
      personId: values.personId,
      serviceId: values.serviceId,
      branchId: values.branchId,
      teamMemberId: values.teamMemberId ?? null,
      about: values.about || null,
      endsAt: values.endsAt,
      outcome: values.outcome,
      source,
      examineAt: isByHandAsk ? null : Math.max(values.endsAt, now),
      createdAt: now,
      requestKey: values.requestKey,
    })
    .returning();
  if (values.outcome !== "cancelled") await noteVisits(tx, scope, [visit]);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "recorded",
    subject: "visit",
    subjectId: visit.id,
  });
  return visit;
}

/** Sets what became of a visit; a booked one that turns out finished is looked at by the plans. */
export async function setOutcome(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  outcome: VisitOutcome,
  now: number,
): Promise<Visit | null> {
  const [before] = await tx
    .select()
    .from(visits)
    .where(and(eq(visits.clientId, scope.clientId), eq(visits.id, id)))
    .for("update");
  if (!before) return null;
  const becomesFinished = outcome === "finished" && before.decision !== "asked";
  const [after] = await tx
    .update(visits)
    .set({ outcome, ...(becomesFinished ? { examineAt: Math.max(before.endsAt, now), claimedUntil: null } : {}) })
    .where(eq(visits.id, id))
    .returning();
  if ((outcome === "cancelled") !== (before.outcome === "cancelled"))
    await refreshLastVisits(tx, scope, [after.personId]);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "set outcome",
    subject: "visit",
    subjectId: id,
    details: { outcome },
  });
  return after;
}

/** When these people were last here before an instant: not for booked days to come, nor for what was cancelled. */
export async function lastVisitsUntil(
  tx: Tx,
  personIds: readonly string[],
  until: number,
): Promise<Map<string, number>> {
  if (personIds.length === 0) return new Map();
  const rows = await tx
    .select({ personId: visits.personId, at: max(visits.endsAt) })
    .from(visits)
    .where(
      and(
        anyOf(visits.personId, [...personIds]),
        lte(visits.endsAt, until),
        inArray(visits.outcome, ["finished", "booked"]),
      ),
    )
    .groupBy(visits.personId);
  return new Map(rows.flatMap(({ personId, at }) => (at === null ? [] : [[personId, at] as const])));
}

/** What one of the last visits was about (a pet, an instrument), for examples; null where visits name nothing. */
export async function lastAbout(tx: Tx, scope: Scope): Promise<string | null> {
  const last = await tx
    .select({ about: visits.about })
    .from(visits)
    .where(eq(visits.clientId, scope.clientId))
    .orderBy(desc(visits.endsAt))
    .limit(50);
  return last.find(({ about }) => about)?.about ?? null;
}
