import { and, eq, sql } from "drizzle-orm";
import type { AgencyScope, Tx } from "@/platform/database";
import { clientGroups } from "@/schema/accounts";
import { newId } from "@/schema/columns";
import { recordAccountEntry } from "./trail";

/** The group of this name, however it is capitalised; made where there is none. Gives its identifier. */
export async function groupNamed(tx: Tx, scope: AgencyScope, who: string, name: string, now: number): Promise<string> {
  const [known] = await tx
    .select({ id: clientGroups.id })
    .from(clientGroups)
    .where(and(eq(clientGroups.agencyId, scope.agencyId), sql`lower(${clientGroups.name}) = lower(${name})`));
  if (known) return known.id;
  const id = newId();
  await tx.insert(clientGroups).values({ id, agencyId: scope.agencyId, name });
  await recordAccountEntry(tx, scope, { at: now, who, action: "made", subject: "group", name });
  return id;
}
