import { eq } from "drizzle-orm";
import { starterRules } from "@/core/plans/starters";
import { keepListing, keepPostalAddress, loadSetting } from "@/features/clients";
import { findingsOf, lookAtLinks } from "@/features/plan-editor";
import { withClient } from "@/platform/database";
import { listings } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** What a plan leans on: the branches' review pages and the address under every email, kept and looked at. */
describe("setup", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("setup");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const page = (change: Partial<{ branchId: string; site: string; url: string }> = {}) => ({
    branchId: scene.client.branchId,
    site: "Pawprint Guide",
    url: `${harness.env.TOWN_URL}/guides/pawprint/place-0`,
    ...change,
  });
  const keep = (it: ReturnType<typeof page>, id: string | null = null) =>
    inside((tx) => keepListing(tx, scene.scope, "Maud", id, it, TUESDAY));
  const all = () => inside((tx) => tx.select().from(listings).orderBy(listings.site));
  const says = () =>
    inside(async (tx) => findingsOf(await loadSetting(tx), starterRules()).map((finding) => finding.says));

  test("a branch has one page on a site, however its name is written, and none of a stranger's branch", async () => {
    expect(await keep(page())).toBe("kept");
    expect(await keep(page({ site: "PAWPRINT guide" }))).toBe("taken");
    const other = await harness.addClient();
    expect(await keep(page({ branchId: other.branchId }))).toBe("missing");
    expect(await keep(page({ branchId: newId() }))).toBe("missing");
    expect((await all()).map(({ site }) => site)).toEqual(["Pawprint Guide", "Waypost"]);
    const { rows } = await harness.owner.query("select who, action, subject from audit_entries where client_id = $1", [
      scene.client.id,
    ]);
    expect(rows).toEqual([{ who: "Maud", action: "added", subject: "review page" }]);
  });

  test("links are followed: one that answers is well, one that leads nowhere stops the plan and says why, one that was changed is looked at anew", async () => {
    await keep(page());
    await keep(page({ site: "Lost", url: `${harness.env.TOWN_URL}/nowhere` }));
    await keep(page({ site: "Silent", url: "http://no-such-place.invalid/" }));
    await keep(page({ site: "Inside", url: "http://10.0.0.1/reviews" }));
    expect((await all()).every(({ lookedAt }) => lookedAt === null)).toBe(true);
    await lookAtLinks(scene.scope);
    const problem = Object.fromEntries((await all()).map((one) => [one.site, one.problem]));
    expect(problem).toEqual({
      "Pawprint Guide": null,
      Waypost: null,
      Lost: { code: "answered", status: 404 },
      Silent: { code: "not reached" },
      Inside: { code: "private network" },
    });
    expect(await says()).toEqual(
      expect.arrayContaining([
        "The link to Lost for Fenwick is broken: the site answered with error 404.",
        "The link to Inside for Fenwick is broken: the address is on a private network.",
      ]),
    );
    // Nobody follows them again on the same day, unless asked to.
    const [lost] = (await all()).filter(({ site }) => site === "Lost");
    await keep(page({ site: "Lost" }), lost.id);
    expect((await all()).find(({ site }) => site === "Lost")).toMatchObject({ problem: null, lookedAt: null });
    await lookAtLinks(scene.scope);
    expect((await all()).find(({ site }) => site === "Lost")).toMatchObject({ problem: null, lookedAt: TUESDAY });
    await scene.moveTo(TUESDAY + 3_600_000);
    await lookAtLinks(scene.scope);
    expect((await all()).every(({ lookedAt }) => lookedAt === TUESDAY)).toBe(true);
    await lookAtLinks(scene.scope, true);
    expect((await all()).every(({ lookedAt }) => lookedAt === TUESDAY + 3_600_000)).toBe(true);
  });

  test("without a postal address no plan with emails runs; with one, it stands under the next email", async () => {
    await inside((tx) => keepPostalAddress(tx, scene.scope, "Maud", "", TUESDAY));
    expect((await says()).filter((words) => words.includes("postal address")).length).toBeGreaterThan(0);
    await inside((tx) => keepPostalAddress(tx, scene.scope, "Maud", "4 Harbour Steps, Merrow Bay", TUESDAY));
    expect((await says()).filter((words) => words.includes("postal address"))).toEqual([]);
    const { person } = await scene.finishVisit({ phone: null });
    await scene.advance(TUESDAY + 2 * 3_600_000);
    const [mail] = harness.town.mail.mailbox(person.email ?? "");
    expect(mail.raw).toContain("4 Harbour Steps, Merrow Bay");
  });

  test("a client without review pages can run, and is told what is missing", async () => {
    await inside((tx) => tx.delete(listings).where(eq(listings.clientId, scene.client.id)));
    expect(await says()).toContain("Fenwick has no review page, so its customers can’t be sent to a review site.");
  });
});
