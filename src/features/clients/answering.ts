import { and, eq } from "drizzle-orm";
import type { AwayWord } from "@/core/conversations/automatic";
import type { WeekHours } from "@/core/time/sendHours";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { branches } from "@/schema/clients";
import { changeClient } from "./state";

/** When and how fast people are answered: the hours of each branch, and what is said outside of them. */

async function changeAndRecord(
  tx: Tx,
  scope: Scope,
  who: string,
  change: Parameters<typeof changeClient>[2],
  now: number,
): Promise<void> {
  await changeClient(tx, scope, change);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "client",
    details: change,
  });
}

/** Keeps what people get who write while nobody is there. */
export async function setAwayWord(tx: Tx, scope: Scope, who: string, awayWord: AwayWord, now: number): Promise<void> {
  await changeAndRecord(tx, scope, who, { awayWord }, now);
}

/** Sets when somebody is there to answer at a branch. False where there is no such branch. */
export async function setOfficeHours(
  tx: Tx,
  scope: Scope,
  who: string,
  branchId: string,
  officeHours: WeekHours,
  now: number,
): Promise<boolean> {
  const [changed] = await tx
    .update(branches)
    .set({ officeHours })
    .where(and(eq(branches.clientId, scope.clientId), eq(branches.id, branchId)))
    .returning({ id: branches.id });
  if (!changed) return false;
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "branch",
    subjectId: branchId,
    details: { officeHours },
  });
  return true;
}

/** Within how many office hours concerns are answered, and those with the lowest rating where that is less. */
export async function setAnswerTimes(
  tx: Tx,
  scope: Scope,
  who: string,
  times: { answerWithinHours: number; urgentWithinHours: number | null },
  now: number,
): Promise<void> {
  await changeAndRecord(tx, scope, who, times, now);
}
