import { eq } from "drizzle-orm";
import type { ReplyRule } from "@/core/replies/rules";
import { HOUR, MINUTE } from "@/core/time/zone";
import { loadSetting } from "@/features/clients";
import { addRule, changeRule, collect, keepSaved, listSaved, postReply, rehearseRules } from "@/features/reviews";
import { draftForApproval, dropReply } from "@/features/reviews/replies";
import { keptRule, listRules, moveRule, removeRule } from "@/features/reviews/rules";
import { setAside } from "@/features/reviews/service";
import { withClient } from "@/platform/database";
import { reviews } from "@/schema/reviews";
import { replyDue } from "@/worker/due";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Rules for replying, from what comes in to what stands at the site; and drafts that somebody approves. */
describe("reply rules", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("reply_rules");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    harness.town.waypost.faults.clear();
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const collectNow = async () => {
    const { listings } = await withClient(scene.scope, loadSetting);
    return collect(scene.client.id, listings[0].id);
  };
  const all = () =>
    withClient(scene.scope, (tx) =>
      tx.select().from(reviews).where(eq(reviews.clientId, scene.client.id)).orderBy(reviews.writtenAt),
    );
  const write = (stars: number, words = "", at = harness.town.clock.now()) =>
    harness.town.waypost.write(scene.client.place, { author: "Jun A.", stars, words }, at);
  const standsAt = (id: string) => harness.town.waypost.reviews.get(id)?.reply?.words ?? null;
  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  async function rule(parts: Partial<ReplyRule>): Promise<string> {
    return inside(async (tx) => {
      const id = (await addRule(tx, scene.scope, "Maud", TUESDAY)) ?? "";
      await changeRule(tx, scene.scope, "Maud", id, parts, TUESDAY);
      return id;
    });
  }
  const later = async (at: number) => {
    await scene.moveTo(at);
    await replyDue(at);
  };

  test("a rule posts in its time, and says so; what came in long ago is left to people", async () => {
    await rule({ deed: "post", afterHours: 2 });
    const now = write(5, "Lovely staff.");
    const old = write(5, "Lovely staff.", TUESDAY - 30 * 24 * HOUR);
    const unhappy = write(2, "We waited an hour.");
    await collectNow();
    const kept = await all();
    const of = (id: string) => kept.find(({ externalId }) => externalId === id);
    expect(of(now.id)).toMatchObject({ replyState: "planned", replyDueAt: TUESDAY + 2 * HOUR, replyBy: null });
    expect(of(now.id)?.replyWhy?.rule).toMatch(/^When any site gets a rating of 4 or 5/);
    for (const left of [old, unhappy]) expect(of(left.id)).toMatchObject({ replyState: "none", replyRuleId: null });
    await later(TUESDAY + 119 * MINUTE);
    expect(standsAt(now.id)).toBeNull();
    await later(TUESDAY + 2 * HOUR);
    expect(standsAt(now.id)).toBe(of(now.id)?.reply);
    expect((await all()).find(({ externalId }) => externalId === now.id)).toMatchObject({
      replyState: "posted",
      replyRuleId: of(now.id)?.replyRuleId,
      repliedAt: TUESDAY + 2 * HOUR,
    });
    expect(standsAt(old.id)).toBeNull();
  });

  test("nothing is posted for a review that was deleted, answered, edited or set aside meanwhile", async () => {
    await rule({ deed: "post", afterHours: 1, hours: "any" });
    const [gone, answered, edited, aside, stopped] = Array.from({ length: 5 }, () => write(5, "Lovely staff."));
    await collectNow();
    const idOf = new Map((await all()).map(({ externalId, id }) => [externalId, id]));
    expect((await all()).map(({ replyState }) => replyState)).toEqual(Array(5).fill("planned"));
    const { waypost } = harness.town;
    await scene.moveTo(TUESDAY + 10 * MINUTE);
    waypost.put({ ...gone, deleted: true });
    waypost.put({ ...answered, reply: { words: "By hand, at the site.", at: TUESDAY } });
    waypost.put({ ...edited, words: "Not lovely after all.", stars: 1 });
    await inside((tx) => setAside(tx, scene.scope, "Maud", idOf.get(aside.id) ?? "", true, TUESDAY));
    expect(await inside((tx) => dropReply(tx, scene.scope, "Maud", idOf.get(stopped.id) ?? "", TUESDAY))).toBe(true);
    await collectNow();
    await later(TUESDAY + 3 * HOUR);
    for (const one of [gone, edited, aside, stopped]) expect(standsAt(one.id)).toBeNull();
    expect(standsAt(answered.id)).toBe("By hand, at the site.");
    const state = new Map((await all()).map((it) => [it.externalId, it.replyState]));
    expect([gone, answered, edited, aside, stopped].map(({ id }) => state.get(id))).toEqual([
      "none",
      "posted",
      "none",
      "set aside",
      "none",
    ]);
  });

  test("whoever replies first is not talked over", async () => {
    await rule({ deed: "post", afterHours: 1, hours: "any" });
    const one = write(5, "Lovely staff.");
    await collectNow();
    const [{ id }] = await all();
    expect(await postReply(scene.scope, "Jonah", id, "Thanks from Jonah.")).toEqual({ kind: "posted" });
    await later(TUESDAY + 2 * HOUR);
    expect(standsAt(one.id)).toBe("Thanks from Jonah.");
    expect((await all())[0]).toMatchObject({ replyBy: "Jonah", replyRuleId: null });
  });

  test("no more than so many a day, whoever reads at once", async () => {
    const id = await rule({ deed: "post", afterHours: 0, hours: "any", mostPerDay: 2 });
    for (let n = 0; n < 5; n++) write(5, `Lovely staff, ${n}.`);
    await Promise.all([collectNow(), collectNow()]);
    const days = (await all()).map(({ replyDueAt }) => new Date(replyDueAt ?? 0).toISOString().slice(0, 10)).sort();
    expect(days).toEqual(["2026-11-24", "2026-11-24", "2026-11-25", "2026-11-25", "2026-11-26"]);
    expect(new Set((await all()).map(({ replyRuleId }) => replyRuleId))).toEqual(new Set([id]));
    // Unlike each other, too.
    expect(new Set((await all()).map(({ reply }) => reply)).size).toBe(5);
  });

  test("the unhappy wait for approval, unless a named person has agreed", async () => {
    const id = await rule({ deed: "post", ratings: [1, 2, 3, 4, 5], afterHours: 1, hours: "any" });
    const one = write(2, "We waited an hour.");
    await collectNow();
    const [review] = await all();
    expect(review).toMatchObject({ replyState: "awaits approval", replyDueAt: null, replyWhy: { heldBack: true } });
    await later(TUESDAY + 5 * HOUR);
    expect(standsAt(one.id)).toBeNull();
    expect(await postReply(scene.scope, "Maud", review.id, review.reply ?? "", review.reply ?? "")).toEqual({
      kind: "posted",
    });
    expect(standsAt(one.id)).toBe(review.reply);
    expect((await all())[0]).toMatchObject({ replyBy: "Maud", replyRuleId: id });
    await inside((tx) => changeRule(tx, scene.scope, "Maud", id, { agreedBy: "Maud" }, TUESDAY));
    write(1, "Rude at the desk.", TUESDAY + 5 * HOUR);
    await collectNow();
    expect((await all())[1]).toMatchObject({ replyState: "planned" });
  });

  test("saved replies take turns; what the guards refuse is not said", async () => {
    await inside(async (tx) => {
      for (const words of [
        "Thank you, {first name|there}.",
        "So kind, {first name|there}, thanks.",
        "A voucher for you.",
      ])
        await keepSaved(
          tx,
          scene.scope,
          { name: "Maud", id: "maud" },
          { id: null, isOwn: false, purpose: "Thanks", language: "en", words },
          TUESDAY,
        );
      await keepSaved(
        tx,
        scene.scope,
        { name: "Maud", id: "maud" },
        { id: null, isOwn: true, purpose: "Mine", language: "en", words: "Mine." },
        TUESDAY,
      );
    });
    const saved = await inside((tx) => listSaved(tx, scene.scope, null));
    expect(saved).toHaveLength(3);
    await rule({ deed: "post", afterHours: 0, hours: "any", savedReplyIds: saved.map(({ id }) => id) });
    for (let n = 0; n < 2; n++) write(5, "", TUESDAY - (2 - n) * MINUTE);
    await collectNow();
    expect((await all()).map(({ reply }) => reply).sort()).toEqual(["So kind, Jun, thanks.", "Thank you, Jun."]);
    // Both stand there lately, and the voucher is refused: a draft takes their place.
    write(5, "");
    await collectNow();
    const [, , third] = await all();
    expect(third.replyState).toBe("planned");
    for (const { words } of saved) expect(third.reply).not.toContain(words.slice(0, 8));
    expect((await inside((tx) => listSaved(tx, scene.scope, null))).map(({ uses }) => uses).sort()).toEqual([0, 1, 1]);
    // Where nothing can be said at all the review waits, with what was refused.
    const rehearsed = await inside(async (tx) =>
      rehearseRules(tx, scene.scope, (await listRules(tx, scene.scope)).map(keptRule)),
    );
    expect(rehearsed.flatMap(({ written }) => written?.refused ?? []).map(({ guard }) => guard)).toContain("money");
  });

  test("the first that fits decides; order, change and removal decide anew, and a rehearsal keeps nothing", async () => {
    const first = await rule({ deed: "nothing" });
    const second = await rule({ deed: "post", hours: "any" });
    write(5, "Lovely staff.");
    await collectNow();
    const state = async () =>
      (await all()).map(
        ({ replyState, replyRuleId }) => `${replyState} ${replyRuleId === first ? 1 : replyRuleId === second ? 2 : 0}`,
      );
    expect(await state()).toEqual(["none 1"]);
    const rehearse = () =>
      inside(async (tx) => rehearseRules(tx, scene.scope, (await listRules(tx, scene.scope)).map(keptRule)));
    expect((await rehearse()).map(({ rule, written }) => [rule, written])).toEqual([[0, null]]);
    await inside((tx) => moveRule(tx, scene.scope, "Maud", second, -1, TUESDAY));
    expect(await state()).toEqual(["planned 2"]);
    const [seen] = await rehearse();
    expect([seen.rule, seen.written?.words]).toEqual([0, (await all())[0].reply]);
    await inside((tx) => changeRule(tx, scene.scope, "Maud", second, { isOn: false }, TUESDAY));
    expect(await state()).toEqual(["none 1"]);
    await inside((tx) => removeRule(tx, scene.scope, "Maud", first, TUESDAY));
    expect(await state()).toEqual(["none 0"]);
    expect(await inside((tx) => removeRule(tx, scene.scope, "Maud", first, TUESDAY))).toBe(false);
  });

  test("the desk drafts, a manager approves; of two drafts the second is told", async () => {
    const one = write(3, "Fine.");
    await collectNow();
    const [{ id }] = await all();
    const draft = (who: string, words: string, seen = "") =>
      inside((tx) => draftForApproval(tx, scene.scope, who, id, words, seen, TUESDAY));
    expect(await draft("Ada", "Thank you.")).toBeNull();
    expect(await draft("Ben", "Thanks.")).toEqual({ kind: "meanwhile", who: "Ada", words: "Thank you." });
    expect(await draft("Ben", "Thank you both.", "Thank you.")).toBeNull();
    expect(standsAt(one.id)).toBeNull();
    // The manager saw the first draft only: what stands in public is what the manager read.
    expect(await postReply(scene.scope, "Maud", id, "Thank you both, really.", "Thank you both.")).toEqual({
      kind: "posted",
    });
    expect((await all())[0]).toMatchObject({ replyState: "posted", replyBy: "Maud", replyDraftedBy: "Ben" });
    expect(standsAt(one.id)).toBe("Thank you both, really.");
    expect(await draft("Ada", "Again.")).toEqual({ kind: "meanwhile", who: "Maud", words: "Thank you both, really." });
  });
});
