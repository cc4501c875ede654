import { eq } from "drizzle-orm";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { DAY, HOUR } from "@/core/time/zone";
import { changeClient, loadSetting, setAnswerTimes, setOfficeHours } from "@/features/clients";
import {
  closeConcern,
  handOverConcern,
  openConcern,
  openConcernOf,
  reopenConcern,
  setAbsence,
  setOwner,
  takeConcern,
} from "@/features/concerns";
import { installPlan } from "@/features/plans";
import { withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { type Harness, startHarness } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";

/** Whose concerns are, by when they are answered, and the one ask once they were put right. */
describe("concern owners", () => {
  let harness: Harness;
  let scene: Scene;
  let desk: string;
  let manager: string;

  beforeAll(async () => {
    harness = await startHarness("concernowners");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
    [desk, manager] = [await seat("desk"), await seat("manager")];
  });
  afterAll(() => harness.stop());

  async function seat(role: "manager" | "desk" | "reader"): Promise<string> {
    const id = newId();
    await harness.owner.query("insert into users (id, name, email) values ($1, $2, $3)", [
      id,
      role,
      `${id}@staff.example`,
    ]);
    await harness.owner.query(
      "insert into seats (id, user_id, agency_id, only_client, role) select $1, $2, agency_id, $3, $4 from clients where id = $3",
      [newId(), id, scene.client.id, role],
    );
    return id;
  }

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const now = () => harness.town.clock.now();
  const ofBranch = () => ({ branchId: scene.client.branchId, teamMemberId: null });

  async function concern(rating = 2, visited = TUESDAY) {
    const { person, visit } = await scene.finishVisit({}, visited);
    const ask = await scene.askOf(person.id);
    return inside(async (tx) => {
      const told = { personId: person.id, branchId: scene.client.branchId, rating, words: "Too long." };
      const [{ id: answerId }] = await tx
        .insert(answers)
        .values({ ...told, clientId: scene.client.id, askId: ask.id, givenAt: now() })
        .returning();
      await openConcern(tx, scene.scope, { ...told, answerId, visitId: visit.id }, now());
      const opened = await openConcernOf(tx, scene.scope, [person.id]);
      if (!opened) throw new Error("No concern.");
      return opened;
    });
  }
  const again = async (id: string) => (await inside((tx) => tx.select().from(concerns).where(eq(concerns.id, id))))[0];

  test("a rule gives it to somebody, who has not begun; whoever is there may take it, and hand it over", async () => {
    await inside((tx) => setOwner(tx, scene.scope, "Maud", { ...ofBranch(), userId: desk }, now()));
    const { id } = await concern();
    expect(await again(id)).toMatchObject({ takenById: desk, takenHow: "rule", state: "new" });
    const scope = { ...scene.scope, user: { id: manager } };
    expect(await withClient(scope, (tx) => takeConcern(tx, scope, "manager", id, now()))).toBeNull();
    expect(await again(id)).toMatchObject({ takenById: manager, takenHow: "self", state: "taken" });
    const other = { ...scene.scope, user: { id: desk } };
    expect(await withClient(other, (tx) => takeConcern(tx, other, "desk", id, now()))).toMatchObject({
      refused: "manager is already handling this concern.",
    });
    expect(await inside((tx) => handOverConcern(tx, scene.scope, "manager", id, desk, now()))).toBeNull();
    expect(await again(id)).toMatchObject({ takenById: desk, takenHow: "handed over" });
    const reader = await seat("reader");
    expect(await inside((tx) => handOverConcern(tx, scene.scope, "manager", id, reader, now()))).toMatchObject({
      refused: expect.stringContaining("isn’t allowed to answer"),
    });
  });

  test("who is away is stood in for; where nobody may answer it is nobody's", async () => {
    await inside(async (tx) => {
      await setOwner(tx, scene.scope, "Maud", { ...ofBranch(), userId: desk }, now());
      await setAbsence(tx, scene.scope, "Maud", { userId: desk, until: "2026-11-24", standInId: manager }, now());
    });
    expect(await concern()).toMatchObject({ takenById: manager, takenHow: "stand-in" });
    await inside((tx) => setAbsence(tx, scene.scope, "Maud", { userId: desk, until: null, standInId: null }, now()));
    expect(await concern()).toMatchObject({ takenById: desk, takenHow: "rule" });
    await harness.owner.query("delete from seats where user_id = $1", [desk]);
    expect((await concern()).takenById).toBeNull();
  });

  test("the time to answer counts while somebody is there, and less for the unhappiest", async () => {
    const week = Array.from({ length: 7 }, (_, day) => (day < 5 ? [{ open: 9 * 60, close: 17 * 60 }] : []));
    await inside(async (tx) => {
      await setOfficeHours(tx, scene.scope, "Maud", scene.client.branchId, week, now());
      await setAnswerTimes(tx, scene.scope, "Maud", { answerWithinHours: 4, urgentWithinHours: 1 }, now());
    });
    // Tuesday 14:05: two hours and 55 minutes are left of that day.
    const { answerBy, remindAt } = await concern();
    expect([answerBy, remindAt]).toEqual([TUESDAY + DAY - 4 * HOUR, TUESDAY + 2 * HOUR]);
    expect((await concern(1)).answerBy).toBe(TUESDAY + HOUR);
  });

  describe("once it was put right", () => {
    const starter = STARTERS.find(({ key }) => key === "put-right");
    const asksOf = (personId: string | null) =>
      inside((tx) =>
        tx
          .select()
          .from(asks)
          .where(eq(asks.personId, personId ?? "")),
      ).then((list) => list.filter(({ planId }) => planId !== scene.client.planId));
    const close = (id: string, outcome: "put right" | "apologised" = "put right") =>
      inside((tx) => closeConcern(tx, scene.scope, "Maud", id, { outcome, note: "" }, now()));

    beforeEach(async () => {
      await inside(async (tx) => {
        // Nobody is asked twice within half a year: this one ask is made all the same.
        await changeClient(tx, scene.scope, { restDays: 180 });
        await installPlan(tx, scene.scope, {
          name: "After it’s put right",
          rules: starter?.rules([]) ?? starterRules(),
          runningSince: 0,
          position: 5,
        });
      });
    });

    /** Somebody who was asked says on their page that it was not good. */
    async function unhappy() {
      const { person } = await scene.finishVisit({}, now());
      await scene.advance(now() + 2 * HOUR);
      const { token } = await scene.askOf(person.id);
      await post(`${harness.env.APP_URL}/a/${token}/rate`, { rating: "2" });
      await post(`${harness.env.APP_URL}/a/${token}/words`, { words: "Too long." });
      const opened = await inside((tx) => openConcernOf(tx, scene.scope, [person.id]));
      if (!opened) throw new Error("No concern.");
      return opened;
    }

    test("they are asked once, some days later, and never a second time about it", async () => {
      const { id, personId } = await unhappy();
      await scene.advance(now() + HOUR);
      await close(id);
      await scene.advance(now() + HOUR);
      const [ask, ...more] = await asksOf(personId);
      expect(more).toEqual([]);
      expect(ask).toMatchObject({ stop: null, sentCount: 0 });
      await scene.advance(now() + 2 * DAY);
      expect((await asksOf(personId))[0].sentCount).toBe(0);
      await scene.advance(now() + 2 * DAY);
      expect((await asksOf(personId))[0].sentCount).toBe(1);
      await inside((tx) => reopenConcern(tx, scene.scope, "Maud", id, now()));
      await close(id);
      await scene.advance(now() + 10 * DAY);
      expect((await asksOf(personId)).map(({ sentCount }) => sentCount)).toEqual([1]);
    });

    test("not where it ended otherwise, and not where it is opened again before", async () => {
      const other = await unhappy();
      await close(other.id, "apologised");
      const { id, personId } = await unhappy();
      await close(id);
      await scene.advance(now() + HOUR);
      await inside((tx) => reopenConcern(tx, scene.scope, "Maud", id, now()));
      await scene.advance(now() + 10 * DAY);
      expect(await asksOf(other.personId)).toEqual([]);
      expect((await asksOf(personId)).map(({ sentCount, stop }) => [sentCount, stop])).toEqual([
        [0, "cancelled by hand"],
      ]);
    });

    test("put right, reopened, put right again: they are asked once after all, and it stays with whoever had it", async () => {
      const { id, personId } = await unhappy();
      await inside((tx) => handOverConcern(tx, scene.scope, "manager", id, desk, now()));
      await close(id);
      await scene.advance(now() + HOUR);
      await inside((tx) => reopenConcern(tx, scene.scope, "Maud", id, now()));
      const reopened = await inside((tx) => openConcernOf(tx, scene.scope, [personId ?? ""]));
      expect(reopened).toMatchObject({ id, state: "taken", takenById: desk });
      await scene.advance(now() + HOUR);
      await close(id);
      await scene.advance(now() + 10 * DAY);
      const sent = (await asksOf(personId)).map(({ sentCount }) => sentCount);
      expect(sent.sort()).toEqual([0, 1]);
      // Whoever it was handed over to was told.
      const { rows } = await harness.owner.query("select user_id from tellings where told ->> 'stage' = 'handed over'");
      expect(rows.map(({ user_id }) => user_id)).toContain(desk);
    });

    test("closing it twice at once asks once", async () => {
      const { id, personId } = await unhappy();
      await Promise.all([close(id), close(id)]);
      await scene.advance(now() + 10 * DAY);
      expect(await asksOf(personId)).toHaveLength(1);
      expect((await inside(loadSetting)).client.restDays).toBe(180);
    });
  });
});
