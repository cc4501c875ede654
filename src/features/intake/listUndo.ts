import { and, desc, eq, inArray, sql } from "drizzle-orm";
import { recordAudit } from "@/features/audit";
import { deletePeopleOfList, type Person, refreshLastVisits, untouchedSince, updatePeople } from "@/features/people";
import { deleteVisitsOfList } from "@/features/visits";
import { now as clockNow } from "@/platform/clock";
import type { Scope, Tx } from "@/platform/database";
import { intakeRows, intakes } from "@/schema/intake";
import { people } from "@/schema/people";
import type { NotedRow } from "./listImport";
import { withoutContent } from "./listState";

export type Undone =
  | { undone: true; people: number; visits: number }
  | { undone: false; sent: { name: string; at: number }[] };

/**
 * Takes a whole list back, as long as nothing that came of it was sent: its visits and their asks go, its new people
 * go unless something else happened with them since, and those it changed are as they were. Else tells what was sent.
 */
export async function undoImport(tx: Tx, scope: Scope, id: string, who: string): Promise<Undone | null> {
  const [intake] = await tx
    .select(withoutContent)
    .from(intakes)
    .where(and(eq(intakes.clientId, scope.clientId), eq(intakes.id, id), eq(intakes.state, "imported")))
    .for("update");
  if (!intake) return null;
  const now = await clockNow();
  // The asks are locked first, as sending does: a message that is being handed over is either seen here or waits.
  await tx.execute(
    sql`select a.id from asks a join visits v on v.id = a.visit_id where v.client_id = ${scope.clientId} and v.intake_id = ${id} order by a.id for update of a`,
  );
  const { rows: sent } = await tx.execute(sql`
    select p.given, p.family, m.sent_at from messages m join asks a on a.id = m.ask_id join visits v on v.id = a.visit_id join people p on p.id = m.person_id
    where v.client_id = ${scope.clientId} and v.intake_id = ${id} and m.direction = 'out' and (m.sent_at is not null or m.state = 'sending') order by m.sent_at limit 50`);
  if (sent.length > 0)
    return {
      undone: false,
      sent: sent.map((row) => ({
        name: `${row.given} ${row.family}`.trim(),
        at: new Date(row.sent_at as string).getTime(),
      })),
    };
  const gone = await deleteVisitsOfList(tx, scope, id);
  const deleted = await deletePeopleOfList(tx, scope, id);
  const changed = await tx
    .select()
    .from(intakeRows)
    .where(
      and(
        eq(intakeRows.clientId, scope.clientId),
        eq(intakeRows.intakeId, id),
        inArray(intakeRows.state, ["changed", "fixed"]),
      ),
    )
    .orderBy(desc(intakeRows.row));
  await restoreChanged(tx, scope, changed);
  // Whoever was here before was last here when they were.
  await refreshLastVisits(tx, scope, [...new Set(gone)]);
  await tx.update(intakes).set({ state: "undone", undoneAt: now, content: null }).where(eq(intakes.id, id));
  await recordAudit(tx, {
    clientId: scope.clientId,
    at: now,
    who,
    action: "undid import",
    subject: "list",
    subjectId: id,
    details: { name: intake.name },
  });
  return { undone: true, people: deleted, visits: gone.length };
}

/** Sets back what rows changed, latest first, so that the oldest value wins; what somebody has changed since stays. */
async function restoreChanged(tx: Tx, scope: Scope, changed: NotedRow[]): Promise<void> {
  // What the list left behind last, and what was there before it touched anything.
  const before = new Map<string, Partial<Person>>();
  const after = new Map<string, Partial<Person>>();
  for (const row of changed) {
    if (!row.personId || !row.before) continue;
    before.set(row.personId, { ...before.get(row.personId), ...(row.before as Partial<Person>) });
    after.set(row.personId, { ...(row.after as Partial<Person> | null), ...after.get(row.personId) });
  }
  const ids = [...before.keys()].sort();
  for (let at = 0; at < ids.length; at += 500) {
    const some = await tx
      .select()
      .from(people)
      .where(and(eq(people.clientId, scope.clientId), inArray(people.id, ids.slice(at, at + 500))))
      .orderBy(people.id)
      .for("no key update");
    await updatePeople(
      tx,
      scope,
      some.map((person) => ({
        id: person.id,
        change: untouchedSince(before.get(person.id) ?? {}, after.get(person.id) ?? {}, person),
      })),
    );
  }
}
