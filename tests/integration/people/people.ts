import fc from "fast-check";
import { DAY } from "@/core/time/zone";
import { changePerson, listPeople, PEOPLE_PAGE, personInput, savePerson, searchPeople } from "@/features/people";
import { timelineOf } from "@/features/timeline";
import { leftOutPeople } from "@/features/visits";
import { withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { derivedFaults } from "../../support/derived";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** People: one person is one row, found by any part of what is known of them, changed without losing anything. */
describe("people", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("people");
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(async () => {
    // Whatever came in, was merged or erased: what repeats other rows still agrees with them.
    expect(await derivedFaults(harness.owner)).toEqual({});
    await harness.stop();
  });

  const keep = (change: Parameters<Scene["person"]>[0] = {}) =>
    withClient(scene.scope, (tx) => savePerson(tx, scene.scope, scene.person(change), TUESDAY));

  describe("one person", () => {
    test("is found again by email or by phone, and what was missing is filled in", async () => {
      const first = await keep({ given: "Rosalind", family: "", email: "rosalind@post.example", phone: null });
      expect(first.isNew).toBe(true);
      const byEmail = await keep({ given: "Rosalind", family: "Pike", email: "rosalind@post.example" });
      expect(byEmail).toMatchObject({
        isNew: false,
        person: { id: first.person.id, family: "Pike", phoneTakesTexts: true },
      });
      const byPhone = await keep({
        given: "Rosalind",
        family: "Other",
        email: null,
        phone: { number: byEmail.person.phone ?? "", canText: true, country: "GB" },
      });
      expect(byPhone).toMatchObject({
        isNew: false,
        person: { id: first.person.id, family: "Pike", email: "rosalind@post.example" },
      });
    });

    test("added from ten places at once is added once", async () => {
      const values = scene.person();
      const results = await Promise.all(
        Array.from({ length: 10 }, () => withClient(scene.scope, (tx) => savePerson(tx, scene.scope, values, TUESDAY))),
      );
      expect(results.filter(({ isNew }) => isNew)).toHaveLength(1);
      expect(new Set(results.map(({ person }) => person.id)).size).toBe(1);
    });

    test("gets a new address that starts afresh; the old one's bounce is forgotten with it", async () => {
      const { person } = await keep();
      await harness.owner.query("update people set email_bounced_at = now(), text_opted_out_at = now() where id = $1", [
        person.id,
      ]);
      const after = await withClient(scene.scope, (tx) =>
        changePerson(
          tx,
          scene.scope,
          "Maud",
          person.id,
          scene.person({
            email: "new@post.example",
            phone: { number: person.phone ?? "", canText: true, country: "GB" },
          }),
          TUESDAY,
        ),
      );
      expect(after).toMatchObject({ email: "new@post.example", emailBouncedAt: null });
      // An opt-out is the person's own word: no change of ours takes it back.
      expect(after?.textOptedOutAt).toEqual(expect.any(Number));
      const { rows } = await harness.owner.query("select who, action from audit_entries where subject_id = $1", [
        person.id,
      ]);
      expect(rows).toEqual([{ who: "Maud", action: "changed" }]);
      expect(
        await withClient(scene.scope, (tx) => changePerson(tx, scene.scope, "Maud", newId(), scene.person(), TUESDAY)),
      ).toBeNull();
    });

    test.each([
      [{ name: "" }, "name"],
      [{ name: "Jun", phone: "12" }, "phone"],
      [{ name: "Jun", email: "jun@" }, "email"],
      [{ name: "Jun" }, "phone"],
      [{ name: "x".repeat(130), email: "jun@post.example" }, "name"],
      [{ name: "Jun", email: "jun@post.example", note: "x".repeat(2001) }, "note"],
    ])("typed wrong %#: the field is named", (typed, field) => {
      const result = personInput("GB").safeParse(typed);
      expect(result.success ? null : result.error.issues[0].path[0]).toBe(field);
    });

    test("typed in any way at all, is taken or refused, never a fault", () => {
      fc.assert(
        fc.property(
          fc.record({
            name: fc.string({ maxLength: 150 }),
            email: fc.string({ maxLength: 60 }),
            phone: fc.string({ maxLength: 45 }),
            note: fc.string(),
          }),
          (typed) => {
            const result = personInput("GB").safeParse(typed);
            if (result.success) expect(result.data.email ?? result.data.phone).toBeTruthy();
            else expect(result.error.issues[0].message.length).toBeGreaterThan(5);
          },
        ),
      );
    });
  });

  describe("the list", () => {
    test("pages by key through everybody, each once and in order", async () => {
      for (let n = 0; n < PEOPLE_PAGE * 2 + 7; n++) await keep({ given: `G${n % 9}`, family: `F${n % 5}` });
      const seen: string[] = [];
      const names: string[] = [];
      let after: [string, string, string] | null = null;
      for (let page = 0; page < 20; page++) {
        const rows = await withClient(scene.scope, (tx) =>
          listPeople(tx, {}, after, { now: TUESDAY, zone: "UTC", restDays: 0 }),
        );
        const shown = rows.slice(0, PEOPLE_PAGE);
        seen.push(...shown.map(({ id }) => id));
        names.push(...shown.map(({ family, given, id }) => `${family} ${given} ${id}`));
        if (rows.length <= PEOPLE_PAGE) break;
        const { family, given, id } = shown[shown.length - 1];
        after = [family, given, id];
      }
      const { rows } = await harness.owner.query("select count(*)::int as n from people where client_id = $1", [
        scene.client.id,
      ]);
      expect(seen).toHaveLength(rows[0].n);
      expect(new Set(seen).size).toBe(seen.length);
    });

    test.each([
      ["part of a name", "quixoti"],
      ["first and last name", "hedda quixotic"],
      ["the other way round", "quixotic hedda"],
      ["part of the email", "hedda.q@tide"],
      ["a phone as people dial it", "07700 900 977"],
      ["capitals", "QUIXOTIC"],
      ["a word of the note", "allergic"],
    ])("finds somebody by %s", async (_name, query) => {
      const { person } = await keep({
        given: "Hedda",
        family: "Quixotic",
        email: "hedda.q@tidewater.test",
        phone: { number: "+447700900977", canText: true, country: "GB" },
        note: "Allergic to latex",
      });
      const found = await withClient(scene.scope, (tx) => searchPeople(tx, query));
      expect(found.map(({ id }) => id)).toEqual([person.id]);
    });

    test("finds nobody where there is nobody", async () => {
      for (const query of ["zzzz", "hedda nobody", "  ", ""])
        expect(await withClient(scene.scope, (tx) => searchPeople(tx, query))).toEqual([]);
    });
  });

  test("whoever was left out is found by reason and day, with the trace in their story", async () => {
    const person = await scene.addPerson({ doNotAsk: "Asked us not to" });
    await scene.visit(person.id);
    const of = (from: number) =>
      withClient(scene.scope, (tx) => leftOutPeople(tx, scene.scope, "do not ask", from, from + DAY));
    expect((await of(TUESDAY - 3600_000)).map(({ id }) => id)).toEqual([person.id]);
    expect(await of(TUESDAY + DAY)).toEqual([]);
    const story = await withClient(scene.scope, (tx) => timelineOf(tx, scene.scope, person.id));
    expect(story.visits[0].visit).toMatchObject({ decision: "left out", reason: "do not ask" });
    expect(story.visits[0].visit.trace?.at(-1)).toEqual({
      rule: "do not ask",
      objects: true,
      finding: { code: "marked", whose: "own" },
    });
    expect(story.messages).toEqual([]);
  });
});
