import { and, eq, inArray } from "drizzle-orm";
import { THREE } from "@/core/answers/recommendation";
import type { Scope, Tx } from "@/platform/database";
import { answerPhotos } from "@/schema/answerPhotos";
import { answers } from "@/schema/answers";

/** What customers say beside rating and words: sides of the visit, a recommendation, open questions, a photo. */
export type SaidBeside = {
  /** By the side's name, 1 to 5; null for "does not apply". */
  aspects: Record<string, number | null>;
  /** 0 to 10. */
  recommend: number | null;
  /** What they wrote, by question. */
  more: Record<string, string>;
  photo: string | null;
};

/** What was said beside the words of these answers, by answer; those that say nothing more are left out. */
export async function saidBeside(tx: Tx, scope: Scope, answerIds: readonly string[]): Promise<Map<string, SaidBeside>> {
  if (answerIds.length === 0) return new Map();
  const rows = await tx
    .select({
      id: answers.id,
      aspects: answers.aspects,
      recommend: answers.recommend,
      more: answers.more,
      photo: answerPhotos.id,
    })
    .from(answers)
    .leftJoin(answerPhotos, eq(answerPhotos.answerId, answers.id))
    .where(and(eq(answers.clientId, scope.clientId), inArray(answers.id, [...answerIds])));
  return new Map(
    rows
      .filter(({ aspects, recommend, more, photo }) =>
        Boolean(recommend !== null || photo || Object.keys(aspects).length + Object.keys(more).length > 0),
      )
      .map(({ id, ...said }) => [id, said]),
  );
}

/** "Would recommend you: 9 of 10." A yes, perhaps or no says itself, as it was asked. */
export function sayRecommend(recommend: number): string {
  if (recommend === THREE.no) return "Wouldn’t recommend you (0 out of 10)";
  return `Would recommend you: ${recommend} out of 10`;
}
