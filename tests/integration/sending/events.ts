import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { prepareEvents } from "@/features/asks";
import { setDemoClock } from "@/platform/clock";
import { BROWSER } from "../../support/browser";
import { type Harness, startHarness } from "../../support/harness";
import { Scene } from "../../support/scene";

/** The log of what happened to asks, over the end of a month. */
describe("events", () => {
  const LAST_OF_MONTH = Date.UTC(2026, 10, 30, 14, 5);
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("events");
    scene = new Scene(harness, await harness.addClient());
  });
  afterAll(() => harness.stop());

  const events = async () =>
    (
      await harness.owner.query<{ kind: string; source: string; at: Date; part: string; rating: number | null }>(
        "select kind, source, at, tableoid::regclass::text as part, rating from ask_events where client_id = $1 order by at, kind",
        [scene.client.id],
      )
    ).rows;

  test("an ask that lives over the end of a month is logged in both, and nothing is lost where a month has no room yet", async () => {
    await scene.moveTo(LAST_OF_MONTH);
    // No room has been made: what happens waits in the partition for everything else.
    const { person } = await scene.finishVisit({}, LAST_OF_MONTH - HOUR);
    expect(new Set((await events()).map(({ part }) => part))).toEqual(new Set(["ask_events_other"]));
    await prepareEvents(LAST_OF_MONTH);
    expect(new Set((await events()).map(({ part }) => part))).toEqual(new Set(["ask_events_2026_11"]));
    // Made again, by two at once, nothing happens.
    await Promise.all([prepareEvents(LAST_OF_MONTH), prepareEvents(LAST_OF_MONTH + 2 * DAY)]);

    await scene.advance(LAST_OF_MONTH + 2 * DAY);
    await setDemoClock(LAST_OF_MONTH + 2 * DAY);
    const { rows } = await harness.owner.query("select id, token from asks where person_id = $1", [person.id]);
    const ask = rows[0].id;
    const post = (path: string, body: string) =>
      fetch(`${harness.env.APP_URL}/a/${rows[0].token}/${path}`, { method: "POST", body, redirect: "manual" });
    // A scanner of mail is there first, and is told apart; a person comes back once.
    const look = (headers: Record<string, string>) => fetch(`${harness.env.APP_URL}/a/${rows[0].token}.0`, { headers });
    await look({ "user-agent": "curl/8.5.0" });
    expect((await harness.owner.query("select opened_at, followed_at from asks where id = $1", [ask])).rows).toEqual([
      { opened_at: null, followed_at: null },
    ]);
    await look({ "user-agent": "curl/8.5.0" });
    // Whatever looks like a browser within three seconds of the sending is no person either.
    await look(BROWSER);
    await setDemoClock(LAST_OF_MONTH + 2 * DAY + MINUTE);
    await look(BROWSER);
    await look(BROWSER);
    await post("rate", "rating=5");
    await post("rate", "rating=5");
    await post("rate", "rating=4");
    const logged = await events();
    expect(logged.map(({ kind, source, rating }) => [kind, source, ...(rating ? [rating] : [])])).toEqual(
      expect.arrayContaining([
        ["planned", "plan"],
        ["sent", "gateway"],
        ["delivered", "gateway"],
        ["followed", "machine"],
        ["followed", "person"],
        ["answered", "person", 5],
        ["answered", "person", 4],
        ["stopped", "person"],
      ]),
    );
    const count = (kind: string) => logged.filter((event) => event.kind === kind).length;
    expect([count("planned"), count("followed"), count("answered"), count("stopped")]).toEqual([1, 2, 2, 1]);
    for (const { at, part } of logged) expect(part).toBe(`ask_events_2026_${at.getUTCMonth() + 1}`);
    expect(new Set(logged.map(({ part }) => part))).toEqual(new Set(["ask_events_2026_11", "ask_events_2026_12"]));
  });

  test("the worker's role may make room for events, and change no event of another client", async () => {
    const { rows } = await harness.owner.query(
      "select has_table_privilege('estima_app', 'ask_events_2026_12', 'select') as direct, (select relrowsecurity from pg_class where relname = 'ask_events_2026_12') as guarded",
    );
    // Partitions made meanwhile are reached through their table alone.
    expect(rows[0]).toEqual({ direct: false, guarded: true });
  });
});
