import type { Setting } from "@/features/clients";
import type { Person } from "@/features/people";
import { type Visit, waitsForWords } from "@/features/visits";
import type { Scope, Tx } from "@/platform/database";
import { CHUNK } from "./forecast";
import { ingest } from "./ingest";
import { dryRunOptions } from "./listOptions";
import { readRows } from "./listReading";
import { findIntake, loadList } from "./listState";
import { loadNames } from "./names";

/** What a list would bring, without keeping any of it; null where it is not readable (any more). */
export async function dryRunOfList(
  tx: Tx,
  scope: Scope,
  setting: Setting,
  id: string,
  now: number,
): Promise<{ visit: Visit; person: Person }[] | null> {
  const intake = await findIntake(tx, scope, id);
  if (!intake?.choice || !["ready", "imported", "importing"].includes(intake.state)) return null;
  const list = await loadList(tx, scope, id).catch(() => null);
  if (!list) return null;
  const { choice } = intake;
  const options = dryRunOptions(intake, choice, await loadNames(tx, scope, setting), now);
  const found: { visit: Visit; person: Person }[] = [];
  const rows = [...readRows(list, choice, setting, now)].flatMap((row) =>
    "person" in row.read ? [{ arrival: row.read, row: row.row }] : [],
  );
  for (let from = 0; from < rows.length; from += CHUNK)
    for (const { visit, person } of await ingest(tx, scope, setting, rows.slice(from, from + CHUNK), options))
      if (visit && person && !waitsForWords(visit.words)) found.push({ visit, person });
  return found;
}
