import { desc, eq, getTableColumns, sql } from "drizzle-orm";
import type { AccountAction, AccountSubject } from "@/core/access/accountActions";
import type { AgencyScope, Tx } from "@/platform/database";
import { accountEntries, users } from "@/schema/accounts";

export type AccountEntry = typeof accountEntries.$inferSelect;

/** Notes what was done to an agency itself, inside the transaction that does it. */
export async function recordAccountEntry(
  tx: Tx,
  scope: AgencyScope,
  entry: {
    at: number;
    who: string;
    action: AccountAction;
    subject: AccountSubject;
    name: string;
    aboutClient?: string | null;
    details?: unknown;
  },
): Promise<void> {
  await tx.insert(accountEntries).values({ agencyId: scope.agencyId, ...entry });
}

/** What was done to an agency lately, newest first, with the names that people go by now. */
export function recentAccountEntries(tx: Tx, scope: AgencyScope, most = 30): Promise<AccountEntry[]> {
  return tx
    .select({
      ...getTableColumns(accountEntries),
      who: sql<string>`coalesce(${users.name}, ${accountEntries.who})`,
    })
    .from(accountEntries)
    .leftJoin(users, eq(users.id, accountEntries.whoId))
    .where(eq(accountEntries.agencyId, scope.agencyId))
    .orderBy(desc(accountEntries.at), desc(accountEntries.id))
    .limit(most);
}
