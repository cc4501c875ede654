import { may } from "@/core/access/permissions";
import { loadSetting } from "@/features/clients";
import { listPlans } from "@/features/plans";
import type { Access } from "@/platform/access";
import { withClient } from "@/platform/database";
import { rowsOfIntake } from "./listImport";
import { findIntake } from "./listState";

/** How many rows with something to say are shown at once. */
export const ROWS_PER_PAGE = 30;

/** Plans that a list can be rehearsed with are offered up to this many. */
const MOST_PLANS = 5;

export type ListView = NonNullable<Awaited<ReturnType<typeof loadListView>>>;

/**
 * A list as its page shows it, with its refused rows after the row number `after`, or null where the client has none
 * of this id.
 */
export async function loadListView(access: Access, id: string, after: number, now: number) {
  const { slug, zone } = access.seat;
  return withClient(access, async (tx) => {
    const intake = await findIntake(tx, access, id);
    if (!intake) return null;
    return {
      intake,
      slug,
      zone,
      now,
      mayAsk: may(access.seat, "ask many"),
      setting: await loadSetting(tx),
      plans: (await listPlans(tx, access))
        .filter(({ state, rules }) => state !== "archived" && ["visit", "list", "invoice"].includes(rules.begins.kind))
        .slice(0, MOST_PLANS),
      refused: await rowsOfIntake(tx, access, id, "refused", after, ROWS_PER_PAGE + 1),
      doubtful: await rowsOfIntake(tx, access, id, "doubtful", 0, ROWS_PER_PAGE),
    };
  });
}
