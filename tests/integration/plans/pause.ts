import { pauseClient, resumeClient } from "@/features/clients";
import { withClient } from "@/platform/database";
import { nextDue } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Everything of a client paused: nothing leaves, nothing is lost, and nothing stale leaves when it goes on. */
describe("pause", () => {
  const HOUR = 3_600_000;
  const DAY = 24 * HOUR;
  let harness: Harness;

  beforeAll(async () => {
    harness = await startHarness("pause");
  });
  afterAll(() => harness.stop());

  async function scene(): Promise<Scene> {
    const it = new Scene(harness, await harness.addClient());
    await it.moveTo(TUESDAY);
    return it;
  }

  const pause = (it: Scene, until: number | null, now = TUESDAY) =>
    withClient(it.scope, (tx) => pauseClient(tx, it.scope, "Maud", { until, why: "a burst pipe" }, now));
  const goOn = (it: Scene, now: number) => withClient(it.scope, (tx) => resumeClient(tx, it.scope, "Maud", now));

  const sent = async (it: Scene) =>
    (
      await harness.owner.query(
        "select count(*)::int as n from messages where client_id = $1 and sent_at is not null and direction = 'out'",
        [it.client.id],
      )
    ).rows[0].n as number;

  async function planned(it: Scene): Promise<void> {
    const person = await it.addPerson();
    await it.visit(person.id, { endsAt: TUESDAY - HOUR });
  }

  test("while it is paused nothing of it leaves, another client's does; let go on, what is fresh leaves at once", async () => {
    const [paused, other] = [await scene(), await scene()];
    await planned(paused);
    await planned(other);
    await pause(paused, null);
    await paused.advance(TUESDAY + 3 * HOUR);
    expect([await sent(paused), await sent(other)]).toEqual([0, 1]);
    // The demo clock does not stand still for what cannot leave.
    const { message } = await nextDue();
    expect(message === null || message > TUESDAY + 3 * HOUR).toBe(true);
    expect(await goOn(paused, TUESDAY + 3 * HOUR)).toBe(true);
    expect(await goOn(paused, TUESDAY + 3 * HOUR)).toBe(false);
    await paused.advance(TUESDAY + 3 * HOUR + 60_000);
    expect(await sent(paused)).toBe(1);
    const { rows } = await harness.owner.query(
      "select action, details from audit_entries where client_id = $1 and subject = 'client' order by at, id",
      [paused.client.id],
    );
    expect(rows).toEqual([
      { action: "paused everything", details: { until: null, why: "a burst pipe" } },
      { action: "went on", details: null },
    ]);
  });

  test("until a day it goes on by itself; what has gone stale by then is not sent", async () => {
    const [short, long] = [await scene(), await scene()];
    await planned(short);
    await planned(long);
    await pause(short, TUESDAY + DAY);
    await pause(long, TUESDAY + 20 * DAY);
    await short.advance(TUESDAY + DAY - 60_000);
    expect(await sent(short)).toBe(0);
    await short.advance(TUESDAY + DAY + 60_000);
    expect(await sent(short)).toBe(1);
    await long.advance(TUESDAY + 20 * DAY + 60_000);
    expect(await sent(long)).toBe(0);
    const { rows } = await harness.owner.query("select ended from asks where client_id = $1", [long.client.id]);
    expect(rows).toEqual([{ ended: "too late" }]);
  });
});
