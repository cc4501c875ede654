import { eq, sql } from "drizzle-orm";
import type { ArrivingPerson } from "@/core/intake/arrival";
import { changePerson, type Person, upsertPeople } from "@/features/people";
import { mergePeople, undoMerge } from "@/features/people-admin";
import { type Tx, withClient } from "@/platform/database";
import { people } from "@/schema/people";
import { derivedFaults } from "../../support/derived";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/**
 * Two things happen to one person at the same moment: neither undoes the other. On real PostgreSQL, with two
 * transactions open at once.
 */
describe("interleaving", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("interleaving");
    scene = new Scene(harness, await harness.addClient());
  });
  afterAll(async () => {
    // Whatever came in, was merged or erased: what repeats other rows still agrees with them.
    expect(await derivedFaults(harness.owner)).toEqual({});
    await harness.stop();
  });
  beforeEach(() => scene.moveTo(TUESDAY));

  const arriving = (person: Person, change: Partial<ArrivingPerson> = {}): ArrivingPerson => ({
    externalId: null,
    given: person.given,
    family: person.family,
    email: person.email,
    phone: null,
    language: null,
    birthDate: null,
    postalAddress: null,
    guardian: null,
    tags: [],
    note: "",
    consent: null,
    ...change,
  });

  const LIST = { source: "a list", sharedAddress: "same person" as const, replaces: false };

  /** Ways in which people are changed, each of one detail: what it does, and how one sees that it was done. */
  const WAYS: {
    name: string;
    change: (tx: Tx, person: Person) => Promise<unknown>;
    shows: (after: Person) => boolean;
  }[] = [
    {
      name: "an import that brings a postal address",
      change: (tx, person) =>
        upsertPeople(tx, scene.scope, [arriving(person, { postalAddress: "8 Lantern Hill" })], TUESDAY, LIST),
      shows: (after) => after.postalAddress === "8 Lantern Hill",
    },
    {
      name: "an import that brings a tag",
      change: (tx, person) => upsertPeople(tx, scene.scope, [arriving(person, { tags: ["gold"] })], TUESDAY, LIST),
      shows: (after) => after.tags.includes("gold"),
    },
    {
      name: "somebody who writes a note",
      change: (tx, person) => changePerson(tx, scene.scope, "Maud", person.id, { note: "likes tea" }, TUESDAY),
      shows: (after) => after.note.includes("likes tea"),
    },
    {
      name: "somebody who says never to ask",
      change: (tx, person) => changePerson(tx, scene.scope, "Maud", person.id, { doNotAsk: "told us" }, TUESDAY),
      shows: (after) => after.doNotAsk === "told us",
    },
    {
      name: "a bounce",
      change: (tx, person) =>
        tx
          .update(people)
          .set({ emailBouncedAt: TUESDAY, emailBouncedWhy: { code: "no such address" } })
          .where(eq(people.id, person.id)),
      shows: (after) => after.emailBouncedAt === TUESDAY,
    },
    {
      name: "an opt-out",
      change: (tx, person) => tx.update(people).set({ textOptedOutAt: TUESDAY }).where(eq(people.id, person.id)),
      shows: (after) => after.textOptedOutAt === TUESDAY,
    },
  ];

  const pairs = WAYS.flatMap((first) =>
    WAYS.filter((second) => second !== first).map((second) => [first.name, second.name, first, second] as const),
  );

  test.each(pairs)("%s, and in the middle of it %s: both are kept", async (_a, _b, first, second) => {
    const person = await scene.addPerson();
    let begun: () => void = () => {};
    const hasBegun = new Promise<void>((done) => {
      begun = done;
    });
    // The first is done but not committed when the second starts; the second reads before and writes after, or waits.
    const one = withClient(scene.scope, async (tx) => {
      await first.change(tx, person);
      begun();
      await waitUntilSomebodyWaits();
    });
    await hasBegun;
    const other = withClient(scene.scope, (tx) => second.change(tx, person));
    await Promise.all([one, other]);
    const [after] = await withClient(scene.scope, (tx) => tx.select().from(people).where(eq(people.id, person.id)));
    expect([first.shows(after), second.shows(after)]).toEqual([true, true]);
  });

  /** Until another transaction waits for a lock, or half a second when none has to. */
  async function waitUntilSomebodyWaits(): Promise<void> {
    for (let turn = 0; turn < 25; turn++) {
      const { rows } = await harness.owner.query(
        "select 1 from pg_stat_activity where datname = current_database() and wait_event_type = 'Lock'",
      );
      if (rows.length > 0) return;
      await new Promise((next) => setTimeout(next, 20));
    }
  }

  test("a merge is undone: what was said of the one since stays, what protects them holds for both", async () => {
    const kept = await scene.addPerson();
    const gone = await scene.addPerson({ note: "prefers mornings", externalId: "G-1" });
    const merge = await withClient(scene.scope, (tx) =>
      mergePeople(tx, scene.scope, kept.id, gone.id, "Maud", TUESDAY),
    );
    await withClient(scene.scope, async (tx) => {
      await changePerson(tx, scene.scope, "Maud", kept.id, { doNotAsk: "told us", family: "Marsh-Pike" }, TUESDAY);
      await tx.update(people).set({ emailBouncedAt: TUESDAY }).where(eq(people.id, kept.id));
    });
    await withClient(scene.scope, (tx) => undoMerge(tx, scene.scope, merge?.id ?? "", "Maud", TUESDAY));
    const [one, other] = await Promise.all(
      [kept.id, gone.id].map((id) =>
        withClient(scene.scope, (tx) =>
          tx
            .select()
            .from(people)
            .where(eq(people.id, id))
            .then(([row]) => row),
        ),
      ),
    );
    expect(one).toMatchObject({
      doNotAsk: "told us",
      family: "Marsh-Pike",
      emailBouncedAt: TUESDAY,
      externalId: null,
      note: "",
    });
    expect(other).toMatchObject({
      doNotAsk: "told us",
      family: gone.family,
      note: "prefers mornings",
      externalId: "G-1",
      mergedInto: null,
    });
  });

  test("of two transactions that wait for one another one runs again, and both are done", async () => {
    const [a, b] = [await scene.addPerson(), await scene.addPerson()];
    const touch = (tx: Tx, id: string, words: string) =>
      tx.execute(sql`update people set note = note || ${words} where id = ${id}`);
    let arrived = 0;
    const meet = async () => {
      arrived += 1;
      while (arrived < 2) await new Promise((next) => setTimeout(next, 5));
    };
    await Promise.all([
      withClient(scene.scope, async (tx) => {
        await touch(tx, a.id, "1");
        await meet();
        await touch(tx, b.id, "1");
      }),
      withClient(scene.scope, async (tx) => {
        await touch(tx, b.id, "2");
        await meet();
        await touch(tx, a.id, "2");
      }),
    ]);
    const notes = await withClient(scene.scope, (tx) =>
      tx.select({ note: people.note }).from(people).where(sql`id in (${a.id}, ${b.id})`),
    );
    expect(notes.map(({ note }) => [...note].sort().join(""))).toEqual(["12", "12"]);
  });
});
