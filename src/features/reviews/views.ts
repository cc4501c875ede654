import { and, asc, eq } from "drizzle-orm";
import type { Scope, Tx } from "@/platform/database";
import { reviewViews } from "@/schema/reviews";

/** Named views of all reviews: everybody's at the client. */

export type ReviewView = typeof reviewViews.$inferSelect;

/** What the address of all reviews may say; anything else is no part of a view. */
export const NARROWINGS = [
  "site",
  "branch",
  "member",
  "rating",
  "words",
  "answered",
  "language",
  "since",
  "from",
  "to",
  "theme",
  "q",
] as const;

/** A view as it is kept: what is narrowed down, always in the same order. */
export function viewQuery(values: Partial<Record<(typeof NARROWINGS)[number], string | null | undefined>>): string {
  const query = new URLSearchParams();
  for (const name of NARROWINGS) if (values[name]) query.set(name, String(values[name]).slice(0, 200));
  return query.toString();
}

export const MOST_VIEWS = 20;

export async function listReviewViews(tx: Tx, scope: Scope): Promise<ReviewView[]> {
  return tx.select().from(reviewViews).where(eq(reviewViews.clientId, scope.clientId)).orderBy(asc(reviewViews.name));
}

/** Keeps a view; one of this name says what it narrows down to from now on. False where there are too many. */
export async function saveReviewView(tx: Tx, scope: Scope, who: string, name: string, query: string): Promise<boolean> {
  const known = await listReviewViews(tx, scope);
  if (known.length >= MOST_VIEWS && !known.some((view) => view.name === name)) return false;
  await tx
    .insert(reviewViews)
    .values({ clientId: scope.clientId, name, query, madeBy: who })
    .onConflictDoUpdate({ target: [reviewViews.clientId, reviewViews.name], set: { query, madeBy: who } });
  return true;
}

export async function deleteReviewView(tx: Tx, scope: Scope, id: string): Promise<boolean> {
  const gone = await tx
    .delete(reviewViews)
    .where(and(eq(reviewViews.clientId, scope.clientId), eq(reviewViews.id, id)));
  return Boolean(gone.rowCount);
}
