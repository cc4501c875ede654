import { sql } from "drizzle-orm";
import { loadSetting } from "@/features/clients";
import { listPlans } from "@/features/plans";
import { withClient } from "@/platform/database";
import { type Harness, startHarness } from "../../support/harness";
import { Scene } from "../../support/scene";
import { statementsOf } from "../../support/statements";

/** Settings and plans are read once in a transaction, and anew once it has changed them. */
describe("remembered", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("remembered");
    scene = new Scene(harness, await harness.addClient());
    await withClient(scene.scope, (tx) =>
      tx.execute(
        sql`insert into team_members (id, client_id, name) values (gen_random_uuid(), ${scene.client.id}, 'Sol')`,
      ),
    );
    await withClient(scene.scope, (tx) =>
      tx.execute(
        sql`insert into tags (id, client_id, name, effect) values (gen_random_uuid(), ${scene.client.id}, 'regular', 'none')`,
      ),
    );
  });
  afterAll(() => harness.stop());

  const whole = (tx: Parameters<Parameters<typeof withClient>[1]>[0]) =>
    Promise.all([loadSetting(tx), listPlans(tx, scene.scope)]).then((all) => JSON.stringify(all));

  test.each([
    "update clients set name = name || '!'",
    "update branches set name = name || '!'",
    "update services set name = name || '!'",
    "update team_members set name = name || '!'",
    "update listings set position = position + 1",
    "update tags set name = name || '!'",
    "update plans set name = name || '!'",
  ])("%s is seen at once, and by the next", async (statement) => {
    const inside = await withClient(scene.scope, async (tx) => {
      const before = await whole(tx);
      await tx.execute(sql.raw(statement));
      const after = await whole(tx);
      expect(after).not.toBe(before);
      return after;
    });
    expect(await withClient(scene.scope, whole)).toBe(inside);
  });

  test("however often they are asked for, they are read once", async () => {
    const seen = await statementsOf(() =>
      withClient(scene.scope, async (tx) => {
        for (let n = 0; n < 5; n++) await whole(tx);
      }),
    );
    expect(seen).toHaveLength(2);
  });
});
