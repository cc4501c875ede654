import { z } from "zod";
import { loadSetting } from "@/features/clients";
import { directoryQuery, listIds } from "@/features/people";
import { listPlans, longestRest } from "@/features/plans";
import type { Access } from "@/platform/access";
import type { Tx } from "@/platform/database";

/** Which people a action is for: those ticked, or everybody whom the filters show. */
export const selection = z.union([
  z.object({ ids: z.array(z.uuid()).min(1).max(5000) }),
  z.object({ all: z.string().max(1000) }),
]);
export type Selection = z.input<typeof selection>;

/** The identifiers of those chosen who are the client's, at most `most`. */
export async function selectedIds(
  tx: Tx,
  access: Access,
  wanted: z.output<typeof selection>,
  now: number,
  most: number,
): Promise<string[]> {
  if ("ids" in wanted) return listIds(tx, { ids: wanted.ids }, { now, zone: access.seat.zone, restDays: 0 }, most);
  const query = directoryQuery.parse({ q: "", ...Object.fromEntries(new URLSearchParams(wanted.all)) });
  const restDays = longestRest(await listPlans(tx, access), (await loadSetting(tx)).client.restDays);
  return listIds(tx, query, { now, zone: access.seat.zone, restDays }, most);
}
