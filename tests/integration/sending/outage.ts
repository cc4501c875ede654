import { eq, sql } from "drizzle-orm";
import { HOUR, MINUTE, timeOfDay, toLocal } from "@/core/time/zone";
import { decideVisits } from "@/features/asks";
import { savePerson } from "@/features/people";
import { recordVisit } from "@/features/visits";
import { setDemoClock } from "@/platform/clock";
import { withClient, workFor } from "@/platform/database";
import { newId } from "@/schema/columns";
import { messages } from "@/schema/messages";
import { doAllDue } from "@/worker/due";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { size } from "../../support/size";

/** The mail server is down for fourteen hours: nothing is lost, nothing leaves at night, nobody gets it twice. */
describe("outage", () => {
  const NOON = Date.UTC(2026, 10, 24, 12);
  let harness: Harness;
  let client: TestClient;

  beforeAll(async () => {
    harness = await startHarness("outage");
    client = await harness.addClient();
  });
  afterAll(() => harness.stop());

  test("fourteen hours without mail", async () => {
    const scope = workFor(client.id);
    const people = size(25, 200);
    await setDemoClock(NOON, NOON);
    await withClient(scope, async (tx) => {
      for (let n = 0; n < people; n++) {
        const { person } = await savePerson(
          tx,
          scope,
          {
            given: "Jun",
            family: `Albrecht${n}`,
            email: `jun${n}@post.example`,
            phone: null,
            note: "",
            doNotAsk: null,
          },
          NOON,
        );
        const visit = await recordVisit(
          tx,
          scope,
          "Maud",
          {
            personId: person.id,
            serviceId: client.serviceId,
            branchId: client.branchId,
            about: "",
            endsAt: NOON + n * MINUTE * 5 - 5 * HOUR,
            outcome: "finished",
            requestKey: newId(),
          },
          NOON,
        );
        await decideVisits(tx, scope, [visit.id], NOON);
      }
    });
    harness.town.mail.faults.add({ kind: "down" });
    const up = NOON + 14 * HOUR;
    for (let at = NOON; at <= NOON + 24 * HOUR; at += size(60, 10) * MINUTE) {
      if (at === up) harness.town.mail.faults.clear();
      harness.town.clock.set(at, true);
      await setDemoClock(at, at);
      await doAllDue();
    }
    await harness.town.settled(true);
    expect(harness.town.mail.mails.size).toBe(people);
    expect(harness.town.mail.repeats).toBe(0);
    for (const { at } of harness.town.mail.mails.values()) {
      expect(at).toBeGreaterThanOrEqual(up);
      const time = timeOfDay(toLocal("Europe/London", at));
      expect(time >= 9 * HOUR && time < 19 * HOUR).toBe(true);
    }
    const states = await withClient(scope, (tx) =>
      tx
        .select({ state: messages.state, n: sql<number>`count(*)`.mapWith(Number) })
        .from(messages)
        .where(eq(messages.step, 0))
        .groupBy(messages.state),
    );
    expect(states).toEqual([{ state: "delivered", n: people }]);
  });
});
