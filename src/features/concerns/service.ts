import { and, asc, desc, eq, inArray, ne, sql } from "drizzle-orm";
import { z } from "zod";
import { CONCERN_OUTCOMES, type ConcernOutcome } from "@/core/concerns/outcomes";
import { reminderStage } from "@/core/notices/choices";
import { gravityOf } from "@/core/replies/gravity";
import { afterOfficeTime } from "@/core/time/officeHours";
import { isInRange } from "@/core/time/range";
import { HOUR, MINUTE } from "@/core/time/zone";
import { addPutRight, stopPutRight } from "@/features/asks";
import { recordAudit } from "@/features/audit";
import { loadSetting, officeCalendarOf } from "@/features/clients";
import { writeToPerson } from "@/features/conversations";
import { staffOf, tell } from "@/features/notices";
import { now as clockNow } from "@/platform/clock";
import { actingUser, rowsOf, type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { answers } from "@/schema/answers";
import { concernNotes, concerns } from "@/schema/concerns";

import { mayAnswer, ownerFor } from "./owners";

export type Concern = typeof concerns.$inferSelect;

/** What a concern is about: the answer as it is now. */
export type ConcernAnswer = Pick<Concern, "answerId" | "personId" | "visitId" | "branchId" | "rating" | "words"> & {
  /** All that they wrote, to whichever question; the words where that is left out. */
  written?: string;
  /** They have just written something new; where that is left out, whenever the words are others. */
  isNewInWriting?: boolean;
};

/**
 * Opens the concern of an unhappy answer, and gives whether there is one. Where there is one already, it follows the answer, whether or not that is
 * unhappy any more (`isWanted`): a customer who changes the rating still waits for what they asked for.
 */
export async function openConcern(
  tx: Tx,
  scope: Scope,
  answer: ConcernAnswer,
  now: number,
  isWanted = true,
): Promise<boolean> {
  const { written = answer.words, isNewInWriting, ...it } = answer;
  const [before] = await tx
    .select()
    .from(concerns)
    .where(and(eq(concerns.clientId, scope.clientId), eq(concerns.answerId, it.answerId)))
    .for("update");
  if (!before && !isWanted) return false;
  const setting = await loadSetting(tx);
  const { answerWithinHours, urgentWithinHours } = setting.client;
  const isUrgent = it.rating === 1 && urgentWithinHours !== null;
  const within = (isUrgent ? Math.min(urgentWithinHours, answerWithinHours) : answerWithinHours) * HOUR;
  const calendar = officeCalendarOf(setting, it.branchId, now);
  const owner = await ownerFor(tx, scope, it, now);
  const times = {
    answerBy: afterOfficeTime(now, within, calendar),
    remindAt: afterOfficeTime(now, within / 2, calendar),
  };
  const [kept] = await tx
    .insert(concerns)
    .values({
      ...it,
      ...times,
      clientId: scope.clientId,
      state: "new",
      openedAt: now,
      ...(owner ? { takenBy: owner.name, takenById: owner.userId, takenHow: owner.how } : {}),
    })
    .onConflictDoUpdate({
      target: concerns.answerId,
      set: {
        words: it.words,
        rating: it.rating,
        // One that becomes urgent is to be answered sooner.
        ...(before && isUrgent && before.rating !== 1 && times.answerBy < before.answerBy ? times : {}),
      },
    })
    .returning();
  // What people write after they were answered, or after it was closed, is read like the first words.
  const settledAt =
    before && (isNewInWriting ?? before.words !== it.words) ? (before.closedAt ?? before.answeredAt) : null;
  if (before && settledAt !== null) await waitAgain(tx, scope, before, times, now);
  const isGrave = gravityOf(written, true) === "allegation";
  await tell(
    tx,
    scope,
    [
      {
        // One that becomes urgent by its words, or waits again, is told once more.
        about: `${isGrave ? "urgent " : ""}concern ${kept.id}${settledAt === null ? "" : ` again ${settledAt}`}`,
        matter: { kind: "concern", branchId: it.branchId, isUrgent: isGrave },
        told: { code: "concern", concernId: kept.id },
        ownerId: owner?.userId ?? null,
      },
    ],
    now,
  );
  return true;
}

/** The concern that came of an answer, or null. */
export async function concernOf(tx: Tx, scope: Scope, answerId: string): Promise<Concern | null> {
  const [concern] = await tx
    .select()
    .from(concerns)
    .where(and(eq(concerns.clientId, scope.clientId), eq(concerns.answerId, answerId)));
  return concern ?? null;
}

/** Opens a concern that was answered or closed once more, since its customer has written again. */
async function waitAgain(
  tx: Tx,
  scope: Scope,
  before: Concern,
  times: Pick<Concern, "answerBy" | "remindAt">,
  now: number,
): Promise<void> {
  await tx
    .update(concerns)
    .set({
      ...times,
      state: before.state === "closed" ? (before.takenAt === null ? "new" : "taken") : before.state,
      answeredAt: null,
      outcome: null,
      outcomeNote: null,
      closedAt: null,
      closedBy: null,
      closedById: null,
    })
    .where(eq(concerns.id, before.id));
  if (before.state === "closed") await stopPutRight(tx, scope, before.id, now);
}

/** Claims the concerns of which somebody is to be reminded at `at`. */
export async function claimReminders(at: number): Promise<{ clientId: string; concernId: string }[]> {
  const rows = await rowsOf<{ client_id: string; concern_id: string }>(
    sql`select * from estima_claim_reminders(${new Date(at).toISOString()}, ${new Date(at + 5 * MINUTE).toISOString()}, 200)`,
  );
  return rows.map((row) => ({ clientId: row.client_id, concernId: row.concern_id }));
}

/** Reminds of a concern that nobody has answered, and sets when next. */
export async function remindOf({ clientId, concernId }: { clientId: string; concernId: string }): Promise<void> {
  const scope = workFor(clientId);
  const now = await clockNow();
  await withClient(scope, async (tx) => {
    const concern = await lockConcern(tx, scope, concernId);
    if (!concern) return;
    const stage = reminderStage(concern.answerBy, now);
    const isOpen = concern.state !== "closed" && concern.answeredAt === null;
    const nextAt =
      !isOpen || stage === "late" ? null : stage === "due" ? concern.answerBy + 24 * HOUR : concern.answerBy;
    await tx.update(concerns).set({ remindAt: nextAt }).where(eq(concerns.id, concernId));
    if (!isOpen) return;
    await tell(
      tx,
      scope,
      [
        {
          about: `reminder ${concernId} ${stage}`,
          matter: { kind: "reminder", branchId: concern.branchId, stage },
          told: { code: "reminder", concernId, stage },
          ownerId: concern.takenById,
        },
      ],
      now,
    );
  });
}

/** The oldest concern of these people that is not closed. */
export async function openConcernOf(tx: Tx, scope: Scope, personIds: string[]): Promise<Concern | null> {
  const [concern] = await tx
    .select()
    .from(concerns)
    .where(
      and(eq(concerns.clientId, scope.clientId), inArray(concerns.personId, personIds), ne(concerns.state, "closed")),
    )
    .orderBy(asc(concerns.openedAt))
    .limit(1);
  return concern ?? null;
}

async function lockConcern(tx: Tx, scope: Scope, id: string): Promise<Concern | null> {
  const [concern] = await tx
    .select()
    .from(concerns)
    .where(and(eq(concerns.clientId, scope.clientId), eq(concerns.id, id)))
    .for("update");
  return concern ?? null;
}

/** Why a action on a concern was not done, in words for the person who tried. */
export type Refusal = { refused: string };

/** Somebody takes a concern upon themselves. Two at once: the first has it, the second is told. */
export async function takeConcern(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<Refusal | null> {
  const concern = await lockConcern(tx, scope, id);
  if (!concern) return { refused: "This concern has been removed." };
  if (concern.state === "closed") return { refused: `${concern.closedBy} has closed this concern in the meantime.` };
  // Two of one name are two people.
  const isOwn =
    concern.takenById === null || !scope.user ? concern.takenBy === who : concern.takenById === scope.user.id;
  // What a rule gave somebody who has not begun may be taken by whoever is there.
  const isBegun = concern.state === "taken";
  if (concern.takenBy && !isOwn && isBegun) return { refused: `${concern.takenBy} is already handling this concern.` };
  if (concern.takenBy && isBegun) return null;
  await tx
    .update(concerns)
    .set({ state: "taken", takenBy: who, takenById: actingUser, takenAt: now, takenHow: "self" })
    .where(eq(concerns.id, id));
  await recordAudit(tx, { clientId: scope.clientId, at: now, who, action: "took", subject: "concern", subjectId: id });
  return null;
}

/** Hands a concern over to somebody else of the staff who may answer it. */
export async function handOverConcern(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  userId: string,
  now: number,
): Promise<Refusal | null> {
  const concern = await lockConcern(tx, scope, id);
  if (!concern) return { refused: "This concern has been removed." };
  if (concern.state === "closed") return { refused: `${concern.closedBy} has closed this concern in the meantime.` };
  const staff = await staffOf(tx);
  const to = staff.find((one) => one.id === userId);
  if (!to || !mayAnswer(staff, userId, concern.branchId))
    return { refused: "This person isn’t allowed to answer concerns at this branch." };
  await tx
    .update(concerns)
    .set({ takenBy: to.name, takenById: to.id, takenAt: now, takenHow: "handed over", state: "taken" })
    .where(eq(concerns.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "changed",
    subject: "concern",
    subjectId: id,
    details: { handedTo: to.name },
  });
  if (to.id !== scope.user?.id)
    await tell(
      tx,
      scope,
      [
        {
          about: `concern ${id} handed to ${to.id} at ${now}`,
          matter: { kind: "reminder", branchId: concern.branchId, stage: "handed over" },
          told: { code: "reminder", concernId: id, stage: "handed over" },
          ownerId: to.id,
        },
      ],
      now,
    );
  return null;
}

export const concernAnswerInput = z.object({
  channel: z.enum(["text", "email"]),
  words: z.string().trim().min(1, "Write a message first.").max(4000, "Keep it under 4,000 characters."),
  requestKey: z.uuid(),
  /** When the page was last read, in milliseconds; left out by those who have no page. */
  seenAt: z.coerce.number().int().nonnegative().refine(isInRange).optional(),
});

/**
 * Writes to the customer about their concern. It leaves at once, whatever the send hours: a person answers a person.
 */
export async function answerConcern(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  it: z.output<typeof concernAnswerInput>,
  now: number,
): Promise<Refusal | null> {
  const concern = await lockConcern(tx, scope, id);
  if (!concern) return { refused: "This concern has been removed." };
  if (concern.personId === null) return { refused: "We don’t know who this was, so you can’t reply." };
  if (it.seenAt && concern.closedAt !== null && concern.closedAt > it.seenAt)
    return { refused: `${concern.closedBy ?? "Someone"} closed this concern while you were writing.` };
  const [{ replyTo }] = await tx
    .select({ replyTo: answers.replyTo })
    .from(answers)
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.id, concern.answerId)));
  const letter = { ...it, who, branchId: concern.branchId, replyTo, concernId: id };
  const done = await writeToPerson(tx, scope, concern.personId, letter, now);
  if ("refused" in done) return done;
  if (!done.isNew) return null;
  await tx
    .update(concerns)
    .set({
      answeredAt: concern.answeredAt ?? now,
      state: "taken" as const,
      ...(concern.takenBy ? {} : { takenBy: who, takenById: actingUser, takenAt: now, takenHow: "self" as const }),
    })
    .where(eq(concerns.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "answered",
    subject: "concern",
    subjectId: id,
  });
  return null;
}

export const concernCloseInput = z.object({
  outcome: z.enum(CONCERN_OUTCOMES, "Choose an outcome."),
  note: z.string().trim().max(1000, "Keep the note under 1,000 characters.").default(""),
});

/** Closes a concern with what came of it. */
export async function closeConcern(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  it: { outcome: ConcernOutcome; note: string },
  now: number,
): Promise<Refusal | null> {
  const concern = await lockConcern(tx, scope, id);
  if (!concern) return { refused: "This concern has been removed." };
  if (concern.state === "closed") return { refused: `${concern.closedBy} has closed this concern in the meantime.` };
  await tx
    .update(concerns)
    .set({
      state: "closed",
      outcome: it.outcome,
      outcomeNote: it.note || null,
      closedAt: now,
      closedBy: who,
      closedById: actingUser,
      ...(concern.takenBy ? {} : { takenBy: who, takenById: actingUser }),
    })
    .where(eq(concerns.id, id));
  if (it.outcome === "put right" && concern.personId)
    await addPutRight(tx, scope, { personId: concern.personId, concernId: id }, now);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "closed",
    subject: "concern",
    subjectId: id,
    details: it,
  });
  return null;
}

/** Opens a closed concern again, for whoever had it before. */
export async function reopenConcern(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  now: number,
): Promise<Refusal | null> {
  const concern = await lockConcern(tx, scope, id);
  if (!concern) return { refused: "This concern has been removed." };
  if (concern.state !== "closed") return null;
  await tx
    .update(concerns)
    .set({
      state: "taken",
      outcome: null,
      outcomeNote: null,
      closedAt: null,
      closedBy: null,
      closedById: null,
      // It stays with whoever had it.
      ...(concern.takenBy === null ? { takenBy: who, takenById: actingUser, takenAt: now } : {}),
    })
    .where(eq(concerns.id, id));
  await stopPutRight(tx, scope, id, now);
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "reopened",
    subject: "concern",
    subjectId: id,
  });
  return null;
}

/** Says who wrote what became a concern, once they have said so. */
export async function setConcernPerson(tx: Tx, scope: Scope, answerId: string, personId: string): Promise<void> {
  await tx
    .update(concerns)
    .set({ personId })
    .where(and(eq(concerns.clientId, scope.clientId), eq(concerns.answerId, answerId)));
}

export const teamNoteInput = z.object({
  words: z.string().trim().min(1, "Write a note first.").max(4000, "Keep it under 4,000 characters."),
});

/** Keeps what somebody writes to their team about a concern; its customer never sees it. */
export async function addTeamNote(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  words: string,
  now: number,
): Promise<Refusal | null> {
  const concern = await lockConcern(tx, scope, id);
  if (!concern) return { refused: "This concern has been removed." };
  // Twice the same within a moment is a double click.
  const [last] = await tx
    .select()
    .from(concernNotes)
    .where(eq(concernNotes.concernId, id))
    .orderBy(desc(concernNotes.writtenAt))
    .limit(1);
  if (last?.words === words && last.writtenBy === who && now - last.writtenAt < MINUTE) return null;
  await tx
    .insert(concernNotes)
    .values({ clientId: scope.clientId, concernId: id, words, writtenBy: who, writtenAt: now });
  return null;
}

/** The team's notes on a concern, the oldest first. */
export async function teamNotes(tx: Tx, scope: Scope, id: string): Promise<(typeof concernNotes.$inferSelect)[]> {
  return tx
    .select()
    .from(concernNotes)
    .where(and(eq(concernNotes.clientId, scope.clientId), eq(concernNotes.concernId, id)))
    .orderBy(asc(concernNotes.writtenAt));
}
