import { DAY, HOUR } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { erasePeople } from "@/features/people-admin";
import { collect } from "@/features/reviews";
import {
  clausesOf,
  clientsToRead,
  clientsToReadAnew,
  countTexts,
  countThemes,
  partsOf,
  readAllAnew,
  readingProgress,
  readThemesOf,
} from "@/features/themes";
import { dropOwnTheme, keepOwnTheme, listOwnThemes } from "@/features/themes/own";
import { withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** What people name, from their words to rows that pages count. */
describe("themes", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("themes");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const ALL = { branchId: null, memberId: null, serviceId: null, from: null };
  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const write = (words: string, stars = 3, at = TUESDAY) =>
    harness.town.waypost.write(scene.client.place, { author: "Jun A.", stars, words }, at);
  async function collectNow(): Promise<void> {
    const { listings } = await inside(loadSetting);
    await collect(scene.client.id, listings[0].id);
  }
  const read = () => readThemesOf(scene.client.id);
  const counted = async () =>
    Object.fromEntries(
      (await inside((tx) => countThemes(tx, scene.scope, ALL, TUESDAY))).map(({ theme, texts, unhappy }) => [
        theme,
        `${texts}, ${unhappy} unhappy`,
      ]),
    );

  /** A private answer of somebody who was asked about a visit. */
  async function answer(words: string): Promise<string> {
    const { person } = await scene.finishVisit();
    const ask = await scene.askOf(person.id);
    await inside((tx) =>
      tx.insert(answers).values({
        clientId: scene.client.id,
        askId: ask.id,
        personId: person.id,
        branchId: ask.branchId,
        rating: 2,
        words,
        givenAt: TUESDAY,
      }),
    );
    return person.id;
  }

  test("reviews and private answers are read once, and counted by what they name", async () => {
    write("Kind, but we waited an hour.");
    write("The staff were kind. We waited far too long.");
    write("");
    await collectNow();
    await answer("The bill was double the estimate.");
    expect(await clientsToRead(100)).toContain(scene.client.id);
    expect(await inside((tx) => readingProgress(tx, scene.scope))).toEqual({ unread: 3, of: 3 });
    expect(await read()).toBe(3);
    expect(await read()).toBe(0);
    expect(await clientsToRead(100)).not.toContain(scene.client.id);
    expect(await inside((tx) => readingProgress(tx, scene.scope))).toBeNull();
    expect(await counted()).toEqual({
      waiting: "2, 2 unhappy",
      kindness: "2, 0 unhappy",
      price: "1, 1 unhappy",
    });
    expect(await inside((tx) => countTexts(tx, scene.scope, ALL))).toBe(3);
    const parts = await inside((tx) => partsOf(tx, scene.scope, ALL, "price", "Europe/London"));
    expect(parts).toMatchObject({
      branches: [{ id: scene.client.branchId, texts: 1 }],
      services: [{ id: scene.client.serviceId, texts: 1, unhappy: 1 }],
      months: [{ month: "2026-11", texts: 1 }],
    });
    const clauses = await inside((tx) => clausesOf(tx, scene.scope, ALL, "waiting", null));
    expect(clauses.map(({ words, from, to }) => words.slice(from, to)).sort()).toEqual([
      "We waited far too long",
      "we waited an hour",
    ]);
    const narrowed = { ...ALL, from: TUESDAY + HOUR };
    expect(await inside((tx) => countThemes(tx, scene.scope, narrowed, TUESDAY))).toEqual([]);
  });

  test("what somebody says anew is read anew; two workers at once read it once", async () => {
    const review = write("We waited an hour.");
    await collectNow();
    await Promise.all([read(), read()]);
    expect(await counted()).toEqual({ waiting: "1, 1 unhappy" });
    await scene.moveTo(TUESDAY + HOUR);
    harness.town.waypost.put({ ...review, words: "Lovely staff." });
    await collectNow();
    await Promise.all([read(), read()]);
    expect(await counted()).toEqual({ kindness: "1, 0 unhappy" });
  });

  test("what an earlier reader read is read again, once", async () => {
    write("We waited an hour.");
    await collectNow();
    await read();
    await harness.owner.query("update named_themes set theme = 'price' where client_id = $1", [scene.client.id]);
    expect(await clientsToReadAnew()).not.toContain(scene.client.id);
    await harness.owner.query("update clients set themes_reader = 0 where id = $1", [scene.client.id]);
    expect(await clientsToReadAnew()).toContain(scene.client.id);
    await readAllAnew(scene.client.id);
    expect(await clientsToReadAnew()).not.toContain(scene.client.id);
    await read();
    expect(await counted()).toEqual({ waiting: "1, 1 unhappy" });
  });

  test("a theme of one's own has everything read again, and goes with all that was found for it", async () => {
    write("The coffee was awful.");
    write("We waited an hour.");
    await collectNow();
    await read();
    const keep = (id: string | null, name: string, words: string[]) =>
      inside((tx) => keepOwnTheme(tx, scene.scope, "Maud", id, { name, words }, TUESDAY));
    expect(await keep(null, "Coffee", ["coffee"])).toBe("kept");
    expect(await keep(null, "coffee", ["tea"])).toBe("taken");
    expect(await keep(null, "Waiting", ["queue"])).toBe("taken");
    await readAllAnew(scene.client.id);
    expect(await inside((tx) => readingProgress(tx, scene.scope))).toEqual({ unread: 2, of: 2 });
    expect(await read()).toBe(2);
    const [{ id }] = await inside((tx) => listOwnThemes(tx, scene.scope));
    expect(await counted()).toEqual({ waiting: "1, 1 unhappy", [id]: "1, 1 unhappy" });
    const other = new Scene(harness, await harness.addClient());
    expect(await withClient(other.scope, (tx) => dropOwnTheme(tx, other.scope, "Eve", id, TUESDAY))).toBe(false);
    expect(await inside((tx) => dropOwnTheme(tx, scene.scope, "Maud", id, TUESDAY))).toBe(true);
    await readAllAnew(scene.client.id);
    await read();
    expect(await counted()).toEqual({ waiting: "1, 1 unhappy" });
  });

  test("whoever is erased is counted no more", async () => {
    const personId = await answer("The bill was double the estimate.");
    await read();
    expect(await counted()).toEqual({ price: "1, 1 unhappy" });
    await inside((tx) => erasePeople(tx, scene.scope, [personId], "Maud", TUESDAY));
    expect(await counted()).toEqual({});
  });

  test("what rises is told", async () => {
    for (let n = 0; n < 60; n++) write("Lovely staff.", 5, TUESDAY - 40 * DAY);
    for (let n = 0; n < 25; n++) write(n < 8 ? "We waited an hour." : "Lovely staff.", 4, TUESDAY - 5 * DAY);
    await collectNow();
    await read();
    const trends = (await inside((tx) => countThemes(tx, scene.scope, ALL, TUESDAY))).map(({ theme, trend }) => [
      theme,
      trend,
    ]);
    expect(Object.fromEntries(trends)).toEqual({ kindness: "falling", waiting: "rising" });
  });
});
