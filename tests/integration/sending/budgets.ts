import { DAY, HOUR } from "@/core/time/zone";
import { keepAnswer } from "@/features/answers/service";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { statementsOf } from "../../support/statements";

/** How many statements it takes; what is done for many at once takes as many as for one. */
describe("budgets", () => {
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("budgets");
  });
  afterAll(() => harness.stop());

  /** A client with so many people who have got their first message, and have one more to come. */
  async function underWay(count: number): Promise<Scene> {
    const scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
    for (let n = 0; n < count; n++) await scene.visit((await scene.addPerson()).id, { about: `Pet ${n}` });
    await scene.advance(TUESDAY + 3 * HOUR);
    return scene;
  }

  /** The statements but for those that read settings, and those by which the gateways' receipts come in meanwhile. */
  const counted = (seen: readonly string[]) =>
    seen.filter(
      (text) =>
        !/from "clients"|demo_clock|estima_claim|estima_due|estima_clients_to_read|"listings"|"site_readings"/.test(
          text,
        ),
    );

  test("last messages of many are sent, and their asks ended, in as many statements as that of one", async () => {
    const counts: number[] = [];
    for (const people of [1, 12]) {
      const scene = await underWay(people);
      const seen = counted(await statementsOf(() => scene.advance(TUESDAY + 3 * DAY)));
      const { rows } = await harness.owner.query(
        "select count(*)::int as n from asks where client_id = $1 and ended = 'all sent'",
        [scene.client.id],
      );
      expect(rows).toEqual([{ n: people }]);
      // Each receipt is a delivery of its own: whose it is, the ask, the message and the event.
      const receipts = seen.filter((text) => text.includes("estima_client_of_message")).length;
      expect(receipts).toBe(people);
      counts.push(seen.length - 4 * receipts);
    }
    expect(counts[1]).toBe(counts[0]);
    expect(counts[0]).toBeLessThanOrEqual(18);
  });

  test("a rating is kept, and its ask ended, in ten statements", async () => {
    const scene = await underWay(1);
    const { rows } = await harness.owner.query("select token from asks where client_id = $1", [scene.client.id]);
    const rate = async (rating: number) =>
      counted(await statementsOf(() => keepAnswer(rows[0].token, { rating }, "en"))).length;
    expect(await rate(2)).toBeLessThanOrEqual(10);
    expect(await rate(5)).toBeLessThanOrEqual(10);
  });
});
