import { and, desc, eq, isNull, type SQL, sql } from "drizzle-orm";
import type { z } from "zod";
import { MOST_COUNTED } from "@/core/time/say";
import { recordAudit } from "@/features/audit";
import { type concernAnswerInput, concernOf, type Refusal } from "@/features/concerns";
import { writeToPerson } from "@/features/conversations";
import { tell } from "@/features/notices";
import type { Scope, Tx } from "@/platform/database";
import { earlierThan, type PageKey } from "@/platform/pageKey";
import { answers } from "@/schema/answers";
import { branches } from "@/schema/clients";
import { people } from "@/schema/people";
import { type Answer, hasWritten } from "./view";

/**
 * Private notes that are nobody's concern: what happy customers wrote to the business alone. Someone reads them, and
 * may thank the writer. What is on the business's own page is read and answered there.
 */

/** How many one page shows. */
export const NOTES_PAGE = 30;

/** The condition of the index `answers_written`. */
const isPrivate = sql`${answers.wordsAt} is not null and not ${answers.isDoubtful}
  and (${answers.mayShowAt} is null or ${answers.words} is null or ${answers.rating} is null)`;

const noConcern = sql`not exists (select 1 from concerns c where c.client_id = ${answers.clientId} and c.answer_id = ${answers.id})`;

const hasWords = sql`(coalesce(${answers.words}, '') <> '' or ${answers.more} <> '{}'::jsonb)`;

const ofNotes = (scope: Scope, ...more: (SQL | undefined)[]) =>
  and(eq(answers.clientId, scope.clientId), isPrivate, hasWords, noConcern, ...more);

export type NoteFilter = { unread: boolean; branchId: string | null; before: PageKey | null };

/** The latest of them, from the one before `before` on; one more than a page where there are more. */
export function listNotes(tx: Tx, scope: Scope, it: NoteFilter, most = NOTES_PAGE + 1) {
  return tx
    .select({ answer: answers, person: people, branch: branches.name })
    .from(answers)
    .innerJoin(branches, eq(branches.id, answers.branchId))
    .leftJoin(people, eq(people.id, answers.personId))
    .where(
      ofNotes(
        scope,
        it.unread ? isNull(answers.readAt) : undefined,
        it.branchId ? eq(answers.branchId, it.branchId) : undefined,
        it.before ? earlierThan(answers.wordsAt, answers.id, it.before) : undefined,
      ),
    )
    .orderBy(desc(answers.wordsAt), desc(answers.id))
    .limit(most);
}

export type ListedNote = Awaited<ReturnType<typeof listNotes>>[number];

/** How many nobody has read, counted no further than `MOST_COUNTED`. */
export function unreadNotesCount(scope: Scope, branchId: string | null = null): SQL<{ count: number }> {
  const own = ofNotes(scope, isNull(answers.readAt), branchId ? eq(answers.branchId, branchId) : undefined);
  return sql`select count(*)::int as count from (select 1 from ${answers} where ${own} limit ${MOST_COUNTED + 1}) t`;
}

/** Tells whoever chose it of a note that has just been written, or written anew. */
export async function tellOfNote(tx: Tx, scope: Scope, answer: Answer, isConcern: boolean, now: number): Promise<void> {
  const isShown = answer.mayShowAt !== null && answer.words && answer.rating !== null;
  if (isConcern || isShown || answer.isDoubtful || answer.wordsAt !== now || !hasWritten(answer)) return;
  const { id: answerId, branchId } = answer;
  await tell(
    tx,
    scope,
    [{ about: `note ${answerId}`, matter: { kind: "note", branchId }, told: { code: "note", answerId } }],
    now,
  );
}

const GONE: Refusal = { refused: "This note no longer exists. Reload the page." };

async function lockNote(tx: Tx, scope: Scope, id: string): Promise<Answer | null> {
  const [answer] = await tx
    .select()
    .from(answers)
    .where(and(eq(answers.clientId, scope.clientId), eq(answers.id, id)))
    .for("update");
  return answer ?? null;
}

/** Marks a note as read; read twice is read once, by the first. */
export async function markNoteRead(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  now: number,
): Promise<Refusal | null> {
  const answer = await lockNote(tx, scope, id);
  if (!answer) return GONE;
  if (answer.readAt !== null) return null;
  await tx.update(answers).set({ readAt: now, readBy: who }).where(eq(answers.id, id));
  return null;
}

/** Marks all notes of a client, or of a branch, as read. Gives how many were unread. */
export async function markAllRead(
  tx: Tx,
  scope: Scope,
  who: string,
  branchId: string | null,
  now: number,
): Promise<number> {
  const rows = await tx
    .update(answers)
    .set({ readAt: now, readBy: who })
    .where(ofNotes(scope, isNull(answers.readAt), branchId ? eq(answers.branchId, branchId) : undefined))
    .returning({ id: answers.id });
  return rows.length;
}

/** Thanks the writer of a note by text or email; with that it is read. */
export async function thankForNote(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string,
  it: z.output<typeof concernAnswerInput>,
  now: number,
): Promise<Refusal | null> {
  const answer = await lockNote(tx, scope, id);
  if (!answer) return GONE;
  const concern = await concernOf(tx, scope, id);
  if (concern) return { refused: "This note has become a concern in the meantime. Open it under Concerns." };
  const { personId, branchId, replyTo } = answer;
  if (personId === null) return { refused: "They left no name and no address, so nobody can write to them." };
  const done = await writeToPerson(tx, scope, personId, { ...it, who, branchId, replyTo }, now);
  if ("refused" in done) return done;
  if (!done.isNew) return null;
  if (answer.readAt === null) await tx.update(answers).set({ readAt: now, readBy: who }).where(eq(answers.id, id));
  await recordAudit(tx, { clientId: scope.clientId, at: now, who, action: "answered", subject: "note", subjectId: id });
  return null;
}
