import { and, desc, eq, isNull, ne } from "drizzle-orm";
import { type Tally, tallyThemes } from "@/core/themes/tally";
import type { Language } from "@/core/words/languages";
import type { Scope, Tx } from "@/platform/database";
import { reviews } from "@/schema/reviews";
import { readingOf } from "./readings";

/** What is named in the last reviews with words. */

/** How many reviews "lately" is. */
export const LATELY = 50;

export type Lately = { read: number; tallies: Tally[] };

/** What the last reviews name, of a branch or of all; in languages that are read. */
export async function namedLately(tx: Tx, scope: Scope, branchId: string | null, own: Language): Promise<Lately> {
  const rows = await tx
    .select({ words: reviews.words, rating: reviews.rating })
    .from(reviews)
    .where(
      and(
        eq(reviews.clientId, scope.clientId),
        branchId ? eq(reviews.branchId, branchId) : undefined,
        isNull(reviews.deletedAt),
        ne(reviews.words, ""),
      ),
    )
    .orderBy(desc(reviews.writtenAt))
    .limit(LATELY);
  const texts = rows.flatMap(({ words, rating }) => {
    const { named } = readingOf(words.slice(0, 2000), own, rating);
    return named ? [named] : [];
  });
  return { read: texts.length, tallies: tallyThemes(texts) };
}
