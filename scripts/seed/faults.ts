import { eq } from "drizzle-orm";
import { changeClient, loadSetting, monthOf, pauseClient, usageOf } from "@/features/clients";
import { addFeed, receiveList } from "@/features/intake";
import { listPlans, setPlanState } from "@/features/plans";
import { type Scope, type Tx, withClient, workFor } from "@/platform/database";
import { listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { visits } from "@/schema/visits";
import { DEMO_NOW } from "./scenario";

/** What is wrong at some of the agency's clients when the demo begins, so that its page has somebody to send there. */

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

type Plant = (tx: Tx, scope: Scope) => Promise<unknown>;

const FAULTS: Record<string, Plant> = {
  // Its book was cut off four days ago, and nobody has noticed.
  "ironquay-locksmiths": async (tx, scope) => {
    const feed = await addFeed(
      tx,
      scope,
      "Iris Vane",
      { kind: "webhook", name: "The job book", url: "", branchId: null, serviceId: null },
      DEMO_NOW - 59 * DAY,
    );
    await tx.update(visits).set({ feedId: feed.id }).where(eq(visits.clientId, scope.clientId));
  },
  // Its page on the review site has moved.
  "webbing-and-tack": (tx, scope) =>
    tx
      .update(listings)
      .set({ collectError: { code: "not there" }, collectedAt: DEMO_NOW - 3 * DAY, collectAt: null })
      .where(eq(listings.clientId, scope.clientId)),
  "quaver-street-music": async (tx, scope) => {
    const plan = (await listPlans(tx, scope)).find(({ state }) => state === "running");
    if (plan)
      await setPlanState(tx, scope, "Estima", plan.id, "paused", DEMO_NOW - 20 * HOUR, {
        code: "came back",
        share: 8.3,
        count: 3,
        of: 36,
        most: 5,
      });
  },
  "ropewalk-bicycles": async (tx, scope) => {
    const setting = await loadSetting(tx);
    const { email } = await usageOf(tx, scope, monthOf(setting, DEMO_NOW));
    await changeClient(tx, scope, { emailsAMonth: email.used + 3 });
  },
  "crown-and-limb": (tx, scope) =>
    pauseClient(
      tx,
      scope,
      "Ash Warrender",
      { until: DEMO_NOW + 6 * DAY, why: "A storm has brought trees down all over the bay; nobody wants a survey now." },
      DEMO_NOW - 26 * HOUR,
    ),
};

/** Plants them. Clients that are not there (a smaller town) are passed over. */
export async function plantFaults(ids: Record<string, string>): Promise<void> {
  for (const [slug, plant] of Object.entries(FAULTS)) {
    if (!ids[slug]) continue;
    const scope = workFor(ids[slug]);
    await withClient(scope, (tx) => plant(tx, scope));
  }
  // A list that nobody can read.
  if (ids["saltpan-boat-yard"])
    await receiveList(workFor(ids["saltpan-boat-yard"]), {
      source: "file",
      name: "Winter berths.xlsx",
      bytes: new TextEncoder().encode("PK\u0003\u0004 this was cut off on its way"),
      who: "Gill Tern",
      requestKey: newId(),
    }).catch(() => null);
}
