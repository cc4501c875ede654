import { and, desc, eq, sql } from "drizzle-orm";
import { realTime } from "@/platform/clock";
import { rowsOf, type Scope, type Tx, withClient } from "@/platform/database";
import { intakes } from "@/schema/intake";
import { parseContent, type StoredList } from "./content";
import { Unreadable } from "./files";

/** The row of a list that came in: finding it, changing it, and saying that somebody works on it. */

export type Intake = Omit<typeof intakes.$inferSelect, "content" | "workedUntil">;

/** Everything of a list but its bytes. */
export const withoutContent = {
  id: intakes.id,
  clientId: intakes.clientId,
  source: intakes.source,
  feedId: intakes.feedId,
  name: intakes.name,
  broughtBy: intakes.broughtBy,
  at: intakes.at,
  state: intakes.state,
  found: intakes.found,
  shape: intakes.shape,
  choice: intakes.choice,
  forecast: intakes.forecast,
  asks: intakes.asks,
  done: intakes.done,
  total: intakes.total,
  counts: intakes.counts,
  error: intakes.error,
  importedAt: intakes.importedAt,
  undoneAt: intakes.undoneAt,
  requestKey: intakes.requestKey,
};

/** One list without its bytes, or null. */
export async function findIntake(tx: Tx, scope: Scope, id: string): Promise<Intake | null> {
  const [row] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id)));
  return row ?? null;
}

/** The lists brought lately, newest first. */
export function recentIntakes(tx: Tx, scope: Scope, most = 20): Promise<Intake[]> {
  return tx
    .select(withoutContent)
    .from(intakes)
    .where(eq(intakes.clientId, scope.clientId))
    .orderBy(desc(intakes.at), desc(intakes.id))
    .limit(most);
}

/** The table of a list that was read. Throws `Unreadable` when its contents were removed. */
export async function loadList(tx: Tx, scope: Scope, id: string): Promise<StoredList> {
  const [row] = await tx
    .select({ content: intakes.content })
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id)));
  if (!row?.content) throw new Unreadable({ code: "gone" });
  return parseContent(scope.clientId, row.content);
}

/** Somebody works on a list for so long at most (real time) before saying so again. */
const LEASE = 45_000;

export const leaseEnd = () => realTime() + LEASE;

/**
 * Does something long with a list, and says all the while that it is being done: once nobody says so, a worker takes
 * it up again.
 */
export async function working<T>(scope: Scope, id: string, work: () => Promise<T>): Promise<T> {
  const say = () => change(scope, id, {}).catch(() => {});
  const saying = setInterval(say, LEASE / 3);
  try {
    return await work();
  } finally {
    clearInterval(saying);
  }
}

/** Lists that wait to be worked on and on which nobody does: their worker was killed. Each is claimed for a while. */
export async function claimStalledLists(): Promise<
  { clientId: string; intakeId: string; action: "read" | "check" | "import" }[]
> {
  const rows = await rowsOf<{ client_id: string; intake_id: string; state: string }>(
    sql`select * from estima_claim_lists(20, ${LEASE / 1000})`,
  );
  return rows.map(({ client_id, intake_id, state }) => ({
    clientId: client_id,
    intakeId: intake_id,
    action: state === "reading" ? "read" : state === "checking" ? "check" : "import",
  }));
}

export async function change(scope: Scope, id: string, set: Partial<typeof intakes.$inferInsert>): Promise<void> {
  await withClient(scope, (tx) =>
    tx
      .update(intakes)
      .set({ ...set, workedUntil: leaseEnd() })
      .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id))),
  );
}
