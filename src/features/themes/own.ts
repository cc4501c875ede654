import { and, asc, eq, sql } from "drizzle-orm";
import { THEMES } from "@/core/themes/themes";
import { recordAudit } from "@/features/audit";
import type { Scope, Tx } from "@/platform/database";
import { addJob } from "@/platform/jobs";
import { ownThemes } from "@/schema/themes";

/** Themes that a client has added by example words. A change has everything read again. */

export type OwnTheme = typeof ownThemes.$inferSelect;
export const MOST_OWN = 20;

export async function listOwnThemes(tx: Tx, scope: Scope): Promise<OwnTheme[]> {
  return tx.select().from(ownThemes).where(eq(ownThemes.clientId, scope.clientId)).orderBy(asc(ownThemes.name));
}

/** Keeps a theme: a new one without `id`. Says when its name is taken, or there are too many. */
export async function keepOwnTheme(
  tx: Tx,
  scope: Scope,
  who: string,
  id: string | null,
  it: { name: string; words: string[] },
  now: number,
): Promise<"kept" | "taken" | "missing" | "too many"> {
  const known = await listOwnThemes(tx, scope);
  const isOurs = (THEMES as readonly string[]).includes(it.name.toLowerCase());
  if (isOurs || known.some((each) => each.id !== id && each.name.toLowerCase() === it.name.toLowerCase()))
    return "taken";
  const values = { ...it, changedBy: who, changedAt: now };
  if (id) {
    const changed = await tx
      .update(ownThemes)
      .set(values)
      .where(and(eq(ownThemes.clientId, scope.clientId), eq(ownThemes.id, id)));
    if (!changed.rowCount) return "missing";
  } else {
    if (known.length >= MOST_OWN) return "too many";
    await tx.insert(ownThemes).values({ ...values, clientId: scope.clientId });
  }
  await noteAndReadAnew(tx, scope, who, id ? "changed" : "added", it.name, now);
  return "kept";
}

export async function dropOwnTheme(tx: Tx, scope: Scope, who: string, id: string, now: number): Promise<boolean> {
  const [gone] = await tx
    .delete(ownThemes)
    .where(and(eq(ownThemes.clientId, scope.clientId), eq(ownThemes.id, id)))
    .returning({ name: ownThemes.name });
  if (!gone) return false;
  await noteAndReadAnew(tx, scope, who, "removed", gone.name, now);
  return true;
}

async function noteAndReadAnew(
  tx: Tx,
  scope: Scope,
  who: string,
  action: "added" | "changed" | "removed",
  name: string,
  now: number,
): Promise<void> {
  // What a client's customers have said may be a lot: the worker marks and reads it.
  await addJob("anew", { clientId: scope.clientId }, `anew ${scope.clientId}`, tx);
  await recordAudit(tx, { clientId: scope.clientId, at: now, who, action, subject: "theme", details: { name } });
}

/** How far a reading of everything has come; null while nothing is unread. */
export async function readingProgress(tx: Tx, scope: Scope): Promise<{ unread: number; of: number } | null> {
  const { rows } = await tx.execute<{ unread: string; of: string }>(
    sql`select (select count(*) from reviews where client_id = ${scope.clientId} and is_unread and words <> '')
        + (select count(*) from answers where client_id = ${scope.clientId} and is_unread and words <> '' and not is_doubtful) as unread,
      (select count(*) from reviews where client_id = ${scope.clientId} and words <> '')
        + (select count(*) from answers where client_id = ${scope.clientId} and words <> '') as of`,
  );
  const unread = Number(rows[0].unread);
  return unread === 0 ? null : { unread, of: Number(rows[0].of) };
}
