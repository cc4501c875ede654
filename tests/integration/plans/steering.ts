import { eq } from "drizzle-orm";
import type { PlanRules } from "@/core/plans/planRules";
import { STARTERS, starterRules } from "@/core/plans/starters";
import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { decideVisits, enforce, outsideHours, replanAll, steer, stoppedPlans } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { claimDue, deliver } from "@/features/messaging";
import { changeRules, findPlan, installPlan, setPlanState } from "@/features/plans";
import { withClient } from "@/platform/database";
import { asks } from "@/schema/asks";
import { clients, listings } from "@/schema/clients";
import { messages } from "@/schema/messages";
import { people } from "@/schema/people";
import { plans } from "@/schema/plans";
import { visits } from "@/schema/visits";
import { doAllDue } from "@/worker/due";
import { skipAhead } from "@/worker/skip";
import { type Harness, startHarness } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";

/** Asks that are steered while they run: by their plan's versions, by limits, by people, and by what comes back. */
describe("steering", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("steering");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: Parameters<typeof withClient<T>>[1]) => withClient(scene.scope, work);
  const starter = (key: string) => STARTERS.find((one) => one.key === key)?.rules([]) as PlanRules;
  const setRules = (rules: PlanRules) =>
    inside(async (tx) => {
      const plan = await findPlan(tx, scene.scope, scene.client.planId);
      await enforce(tx, scene.scope, "Maud", {
        planId: scene.client.planId,
        revision: plan?.revision ?? 0,
        rules,
        for: "new asks",
        now: TUESDAY,
      });
    });
  const setClient = (change: Partial<typeof clients.$inferInsert>) =>
    inside((tx) => tx.update(clients).set(change).where(eq(clients.id, scene.client.id)));
  const states = async (personId: string) => (await scene.messagesOf(personId)).map(({ state }) => state);
  const skipTo = (from: number, to: number) =>
    skipAhead({ advance: async (now, stands) => harness.town.advance(now, stands) }, from, to, 60 * DAY);
  const visitOf = async (id: string) => (await inside((tx) => tx.select().from(visits).where(eq(visits.id, id))))[0];

  describe("versions", () => {
    test("asks under way go on by the version they began with, until somebody moves them", async () => {
      const old = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      const later: PlanRules = {
        ...starterRules(),
        steps: [starterRules().steps[0], { ...starterRules().steps[1], delay: { amount: 5, unit: "days", at: 600 } }],
      };
      await inside(async (tx) => {
        await changeRules(tx, scene.scope, "Maud", scene.client.planId, 1, later, TUESDAY);
        // A draft changes nothing, not even when everything is planned anew.
        await replanAll(tx, scene.scope, await loadSetting(tx), TUESDAY + 2 * HOUR);
      });
      const due = async (personId: string) =>
        new Date((await scene.messagesOf(personId)).at(-1)?.dueAt ?? 0).toISOString();
      expect(await due(old.person.id)).toBe("2026-11-26T10:00:00.000Z");
      await inside((tx) =>
        enforce(tx, scene.scope, "Maud", {
          planId: scene.client.planId,
          revision: 2,
          rules: later,
          for: "new asks",
          now: TUESDAY + 2 * HOUR,
        }),
      );
      const fresh = await scene.finishVisit({}, TUESDAY + 2 * HOUR);
      expect(await due(old.person.id)).toBe("2026-11-26T10:00:00.000Z");
      expect([
        (await scene.askOf(old.person.id)).planVersion,
        (await scene.askOf(fresh.person.id)).planVersion,
      ]).toEqual([1, 2]);
      const moved = await inside((tx) =>
        enforce(tx, scene.scope, "Maud", {
          planId: scene.client.planId,
          revision: 3,
          rules: later,
          for: "asks under way too",
          now: TUESDAY + 2 * HOUR,
        }),
      );
      expect(moved).toEqual({ moved: 2 });
      expect(await due(old.person.id)).toBe("2026-11-30T09:00:00.000Z");
      expect(await states(old.person.id)).toEqual(["delivered", "planned"]);
      // Somebody who changed an older revision is told, and nothing is overwritten.
      expect(
        await inside((tx) =>
          enforce(tx, scene.scope, "Jonah", {
            planId: scene.client.planId,
            revision: 2,
            rules: later,
            for: "new asks",
            now: TUESDAY,
          }),
        ),
      ).toBeNull();
    });

    test("a message taken out is not sent, one added is, and none twice", async () => {
      const { person } = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      const [first, second] = starterRules().steps;
      const rules: PlanRules = {
        ...starterRules(),
        steps: [
          { ...second, key: "before", delay: { amount: 1, unit: "hours" } },
          first,
          { ...second, key: "new", name: "New", delay: { amount: 1, unit: "days" } },
        ],
      };
      await inside((tx) =>
        enforce(tx, scene.scope, "Maud", {
          planId: scene.client.planId,
          revision: 1,
          rules,
          for: "asks under way too",
          now: TUESDAY + 2 * HOUR,
        }),
      );
      await skipTo(TUESDAY + 2 * HOUR, TUESDAY + 6 * DAY);
      expect(
        (await scene.messagesOf(person.id)).filter(({ sentAt }) => sentAt).map(({ stepName }) => stepName),
      ).toEqual(["First ask", "New"]);
    });
  });

  describe("by hand", () => {
    test("held, released, sent before its time, cancelled; each is noted, and what cannot be is told", async () => {
      const [a, b] = [await scene.finishVisit(), await scene.finishVisit()];
      const [askA, askB] = [await scene.askOf(a.person.id), await scene.askOf(b.person.id)];
      const run = (action: Parameters<typeof steer>[3], ids: string[], now = TUESDAY) =>
        inside((tx) => steer(tx, scene.scope, "Maud", action, ids, now));
      expect(await run("hold", [askA.id])).toEqual({ done: 1, passed: [] });
      expect(await run("hold", [askA.id])).toEqual({ done: 0, passed: [{ why: "was already on hold", count: 1 }] });
      expect((await scene.messagesOf(a.person.id))[0]).toMatchObject({
        state: "held",
        hold: "by hand",
        reason: { code: "held by hand", by: "Maud" },
      });
      await scene.advance(TUESDAY + 3 * HOUR);
      expect(await states(a.person.id)).toEqual(["held"]);
      expect(await states(b.person.id)).toEqual(["delivered", "planned"]);
      expect(await run("release", [askA.id], TUESDAY + 3 * HOUR)).toEqual({ done: 1, passed: [] });
      await scene.advance(TUESDAY + 3 * HOUR);
      expect(await states(a.person.id)).toEqual(["delivered", "planned"]);

      // The second message, two days early, in the evening: only at the hour when somebody insists.
      const evening = Date.UTC(2026, 10, 24, 20);
      await scene.moveTo(evening);
      expect(await inside((tx) => outsideHours(tx, scene.scope, [askA.id, askB.id], evening))).toEqual({
        asks: 2,
        outside: 2,
      });
      await run("send now", [askA.id], evening);
      await run("send now at any hour", [askB.id], evening);
      await scene.advance(evening);
      expect([await states(a.person.id), await states(b.person.id)]).toEqual([
        ["delivered", "planned"],
        ["delivered", "delivered"],
      ]);
      expect((await scene.messagesOf(a.person.id))[1].dueAt).toBe(Date.UTC(2026, 10, 25, 9));
      expect(await run("cancel", [askA.id, askB.id], evening)).toMatchObject({
        done: 1,
        passed: [{ why: "had already ended", count: 1 }],
      });
      await skipTo(evening, evening + 3 * DAY);
      expect(await states(a.person.id)).toEqual(["delivered", "stopped"]);
      const { rows } = await harness.owner.query(
        "select action, who from audit_entries where client_id = $1 and subject = 'ask' order by at, id",
        [scene.client.id],
      );
      expect(rows.map(({ action }) => action)).toEqual([
        "hold",
        "release",
        "send now",
        "send now at any hour",
        "cancel",
      ]);
    });

    test("what came back is sent again once the address is put right", async () => {
      harness.town.texts.faults.add({ kind: "bounce", match: "+447700900" });
      const { person } = await scene.finishVisit({ email: null });
      await scene.advance(TUESDAY + 2 * HOUR);
      harness.town.texts.faults.clear();
      const ask = await scene.askOf(person.id);
      expect(ask.ended).toBe("unreachable");
      const again = () => inside((tx) => steer(tx, scene.scope, "Maud", "send again", [ask.id], TUESDAY + 2 * HOUR));
      expect(await again()).toEqual({ done: 0, passed: [{ why: "still has no working address", count: 1 }] });
      await inside((tx) =>
        tx.update(people).set({ textBouncedAt: null, phone: "+447700900998" }).where(eq(people.id, person.id)),
      );
      expect(await again()).toEqual({ done: 1, passed: [] });
      await scene.advance(TUESDAY + 2 * HOUR);
      expect(await states(person.id)).toEqual(["bounced", "delivered", "planned"]);
    });
  });

  describe("limits", () => {
    test("at the allowance messages are held and not lost; raised, they leave; in the new month the rest does", async () => {
      await setClient({ textsAMonth: 2, emailsAMonth: 0 + 1 });
      const all = [
        await scene.finishVisit(),
        await scene.finishVisit(),
        await scene.finishVisit({ phone: null }),
        await scene.finishVisit(),
      ];
      await scene.advance(TUESDAY + 2 * HOUR);
      const last = (await Promise.all(all.map(({ person }) => scene.messagesOf(person.id)))).flat();
      expect(last.filter(({ sentAt }) => sentAt)).toHaveLength(3);
      const held = last.filter(({ hold }) => hold === "allowance");
      expect(held).toHaveLength(1);
      expect(held[0]).toMatchObject({
        state: "planned",
        dueAt: Date.UTC(2026, 11, 1, 9),
        reason: { code: "scheduled", moves: expect.arrayContaining(["allowance"]) },
      });
      await skipTo(TUESDAY + 2 * HOUR, Date.UTC(2026, 11, 1, 9));
      const december = (await Promise.all(all.map(({ person }) => scene.messagesOf(person.id))))
        .flat()
        .filter(({ sentAt }) => (sentAt ?? 0) >= Date.UTC(2026, 11, 1));
      expect(december.length).toBeGreaterThan(0);
      expect(december.length).toBeLessThanOrEqual(3);
    });

    test("a plan of portions stops by itself when too much comes back, says so, and holds the rest", async () => {
      await setRules({
        ...starter("reawaken"),
        begins: { kind: "list", services: [], branches: [] },
        portions: { perDay: 25, mostBounced: 10, mostOptedOut: 10 },
      });
      harness.town.mail.faults.add({ kind: "bounce", match: "gone" });
      await inside(async (tx) => {
        for (let n = 0; n < 60; n++) {
          const id = crypto.randomUUID();
          await tx.insert(people).values({
            id,
            clientId: scene.client.id,
            given: `Old${n}`,
            email: `${n % 4 ? "here" : "gone"}${n}@post.example`,
            createdAt: TUESDAY,
          });
          await tx.insert(visits).values({
            id: crypto.randomUUID(),
            clientId: scene.client.id,
            personId: id,
            branchId: scene.client.branchId,
            serviceId: scene.client.serviceId,
            endsAt: TUESDAY - (100 + n) * DAY,
            outcome: "finished",
            source: "file",
            intakeId: crypto.randomUUID(),
            examineAt: TUESDAY,
            createdAt: TUESDAY,
          });
        }
      });
      await skipTo(TUESDAY, TUESDAY + 4 * DAY);
      harness.town.mail.faults.clear();
      const plan = await inside((tx) => findPlan(tx, scene.scope, scene.client.planId));
      expect(plan).toMatchObject({
        state: "paused",
        pausedWhy: {
          code: "came back",
          share: expect.any(Number),
          count: expect.any(Number),
          of: expect.any(Number),
          most: 10,
        },
      });
      expect(await inside((tx) => stoppedPlans(tx, scene.scope))).toEqual([
        {
          id: scene.client.planId,
          name: plan?.name,
          pausedWhy: plan?.pausedWhy,
          notice: expect.objectContaining({
            content: expect.objectContaining({ code: "plan paused", why: plan?.pausedWhy }),
          }),
        },
      ]);
      const { rows } = await harness.owner.query(
        "select count(*) filter (where sent_at is not null or state = 'bounced')::int as sent, count(*) filter (where state = 'held')::int as held from messages where client_id = $1",
        [scene.client.id],
      );
      expect(rows[0].sent).toBeGreaterThanOrEqual(20);
      expect(rows[0].sent).toBeLessThanOrEqual(26);
      const { rows: waiting } = await harness.owner.query(
        "select count(*)::int as n from visits where waits_for = $1",
        [scene.client.planId],
      );
      expect(waiting[0].n).toBe(35);
    });

    test("a pause, a STOP and an edit in the middle of a batch: nothing doubled, nothing lost, nothing after the stop", async () => {
      const all = await Promise.all(Array.from({ length: 30 }, () => scene.finishVisit()));
      await scene.moveTo(TUESDAY + 2 * HOUR);
      // Two workers hold half a batch each while the plan is paused and somebody writes STOP.
      const [claim] = await claimDue(TUESDAY + 2 * HOUR, 15);
      const [other] = await claimDue(TUESDAY + 2 * HOUR, 15);
      const stopped = all[0].person;
      await Promise.all([
        deliver(claim),
        inside(async (tx) => {
          await setPlanState(tx, scene.scope, "Maud", scene.client.planId, "paused", TUESDAY + 2 * HOUR);
          await replanAll(tx, scene.scope, await loadSetting(tx), TUESDAY + 2 * HOUR);
        }),
        harness.town.texts.write(
          stopped.phone ?? "",
          harness.town ? (await inside((tx) => loadSetting(tx))).client.textNumber : "",
          "STOP",
        ),
        deliver(other),
      ]);
      await harness.town.settled(true);
      const sentBefore = (
        await inside((tx) => tx.select().from(messages).where(eq(messages.clientId, scene.client.id)))
      ).filter(({ askId, sentAt }) => askId && sentAt).length;
      await doAllDue();
      const paused = await inside((tx) => tx.select().from(messages).where(eq(messages.clientId, scene.client.id)));
      // What confirms a STOP belongs to no ask, and leaves all the same.
      expect(paused.filter(({ askId, sentAt }) => askId && sentAt)).toHaveLength(sentBefore);
      const edited: PlanRules = {
        ...starterRules(),
        steps: [{ ...starterRules().steps[0], text: "Edited {link} STOP" }, starterRules().steps[1]],
      };
      await inside(async (tx) => {
        const plan = await findPlan(tx, scene.scope, scene.client.planId);
        await enforce(tx, scene.scope, "Maud", {
          planId: scene.client.planId,
          revision: plan?.revision ?? 0,
          rules: edited,
          for: "asks under way too",
          now: TUESDAY + 2 * HOUR,
        });
        await setPlanState(tx, scene.scope, "Maud", scene.client.planId, "running", TUESDAY + 2 * HOUR);
        await replanAll(tx, scene.scope, await loadSetting(tx), TUESDAY + 2 * HOUR);
      });
      await Promise.all([doAllDue(), doAllDue()]);
      await harness.town.settled(true);
      const firsts = (
        await inside((tx) => tx.select().from(messages).where(eq(messages.clientId, scene.client.id)))
      ).filter(({ step, sentAt }) => step === 0 && sentAt);
      const perPerson = new Map<string, number>();
      for (const { personId } of firsts) perPerson.set(personId ?? "", (perPerson.get(personId ?? "") ?? 0) + 1);
      expect([...perPerson.values()].every((count) => count === 1)).toBe(true);
      expect(perPerson.size).toBeGreaterThanOrEqual(29);
      expect(harness.town.texts.repeats).toBe(0);
      await skipTo(TUESDAY + 2 * HOUR, TUESDAY + 4 * DAY);
      const toStopped = (await scene.messagesOf(stopped.id)).filter(
        ({ direction, askId, sentAt }) => direction === "out" && askId && sentAt,
      );
      expect(toStopped.length).toBeLessThanOrEqual(1);
      expect((await scene.askOf(stopped.id)).stop).toBe("opted out");
    });
  });

  describe("how it went first", () => {
    beforeEach(() => setRules({ ...starter("feeling"), question: "five" }));
    const answer = async (personId: string, rating: number) => {
      const { token } = await scene.askOf(personId);
      return post(`${harness.env.APP_URL}/a/${token}/rate`, { rating: String(rating) });
    };

    test("the happy are thanked, and asked for a review after the days the plan says; what follows stops when they go to a site", async () => {
      const { person } = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      expect((await answer(person.id, 5)).status).toBe(303);
      const { token } = await scene.askOf(person.id);
      expect(await (await fetch(`${harness.env.APP_URL}/a/${token}`)).text()).toContain(
        "Thank you, that’s good to hear.",
      );
      await skipTo(TUESDAY + 2 * HOUR, TUESDAY + 2 * DAY);
      const told = await scene.messagesOf(person.id);
      expect(
        told
          .filter(({ sentAt }) => sentAt)
          .map(({ stepName, sentAt }) => [stepName, new Date(sentAt ?? 0).toISOString()]),
      ).toEqual([
        ["How did it go?", "2026-11-24T16:05:00.000Z"],
        ["Review ask", "2026-11-26T10:00:00.000Z"],
      ]);
      const [{ id }] = await inside((tx) => tx.select().from(listings).where(eq(listings.clientId, scene.client.id)));
      await post(`${harness.env.APP_URL}/a/${token}/site/${id}`, {});
      expect(await scene.askOf(person.id)).toMatchObject({ stop: "followed a site" });
      await skipTo(TUESDAY + 2 * DAY, TUESDAY + 9 * DAY);
      expect((await scene.messagesOf(person.id)).filter(({ sentAt }) => sentAt)).toHaveLength(2);
    });

    test("the unhappy are handed over at once, before they say a word, and asked for nothing more", async () => {
      const { person } = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      await answer(person.id, 2);
      const { rows } = await harness.owner.query("select rating, words from concerns where person_id = $1", [
        person.id,
      ]);
      expect(rows).toEqual([{ rating: 2, words: "" }]);
      await skipTo(TUESDAY + 2 * HOUR, TUESDAY + 9 * DAY);
      expect((await scene.messagesOf(person.id)).filter(({ sentAt }) => sentAt)).toHaveLength(1);
    });

    test("an answer that comes when the questions are used up still leads on", async () => {
      const { person } = await scene.finishVisit();
      await skipTo(TUESDAY, TUESDAY + 3 * DAY);
      expect(await scene.askOf(person.id)).toMatchObject({ ended: "all sent", sentCount: 2 });
      await answer(person.id, 4);
      expect(await scene.askOf(person.id)).toMatchObject({ ended: null, stop: null });
      await skipTo(TUESDAY + 3 * DAY, TUESDAY + 7 * DAY);
      expect(
        (await scene.messagesOf(person.id)).filter(({ sentAt }) => sentAt).map(({ stepName }) => stepName),
      ).toContain("Review ask");
    });

    test("of two buttons only two answers are taken", async () => {
      await setRules({ ...starter("feeling"), question: "two" });
      const { person } = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      expect((await answer(person.id, 3)).status).toBe(422);
      expect((await answer(person.id, 1)).status).toBe(303);
    });
  });

  describe("other beginnings", () => {
    test("a tag begins a plan once, about the last visit; whoever has none yet is left out and told why", async () => {
      const plan = await inside((tx) =>
        installPlan(tx, scene.scope, {
          name: "Breeders",
          rules: { ...starterRules(), begins: { kind: "tag", tag: "breeder" } },
          runningSince: 0,
          position: 5,
        }),
      );
      const person = await scene.addPerson();
      await scene.visit(person.id, { endsAt: TUESDAY - 20 * DAY, outcome: "finished" });
      const stranger = await scene.addPerson();
      for (const tags of [["breeder"], [], ["breeder"]])
        for (const id of [person.id, stranger.id])
          await inside((tx) => tx.update(people).set({ tags }).where(eq(people.id, id)));
      await scene.advance(TUESDAY);
      expect(await inside((tx) => tx.select().from(asks).where(eq(asks.planId, plan.id)))).toMatchObject([
        { personId: person.id, anchorAt: TUESDAY },
      ]);
      const { rows } = await harness.owner.query(
        "select person_id, decision, reason from triggers where plan_id = $1 order by decision",
        [plan.id],
      );
      expect(rows).toEqual([
        { person_id: person.id, decision: "asked", reason: null },
        { person_id: stranger.id, decision: "left out", reason: "not finished" },
      ]);
    });

    test("so many days after the first visit, on the day itself, and nobody who passed it before the plan ran", async () => {
      const plan = await inside((tx) =>
        installPlan(tx, scene.scope, {
          name: "A month",
          rules: { ...starterRules(), begins: { kind: "customer", days: 30 } },
          runningSince: 0,
          position: 5,
          state: "paused",
        }),
      );
      const [old, soon] = [await scene.addPerson(), await scene.addPerson()];
      for (const [id, days] of [
        [old.id, 31],
        [soon.id, 28],
        [soon.id, 10],
      ] as const)
        await scene.visit(id, { endsAt: TUESDAY - days * DAY, outcome: "finished" });
      await inside((tx) => setPlanState(tx, scene.scope, "Maud", plan.id, "running", TUESDAY));
      await skipTo(TUESDAY, TUESDAY + 5 * DAY);
      expect(await inside((tx) => tx.select().from(asks).where(eq(asks.planId, plan.id)))).toMatchObject([
        { personId: soon.id, anchorAt: TUESDAY + 2 * DAY },
      ]);
    });

    test("where two plans would take a visit, the order decides and the trace says so", async () => {
      await inside((tx) =>
        installPlan(tx, scene.scope, {
          name: "Fenwick first",
          rules: {
            ...starterRules(),
            begins: { kind: "visit", services: [], branches: [scene.client.branchId], kinds: [] },
          },
          runningSince: 0,
          position: -1,
        }),
      );
      const { visit } = await scene.finishVisit();
      expect((await visitOf(visit.id)).trace).toContainEqual({
        rule: "no plan",
        objects: false,
        finding: { code: "plan takes it", plan: "Fenwick first", before: ["After a visit"] },
      });
    });
  });

  describe("who else", () => {
    test("a review by the only person of its name ends what was to come, rests them, and the site is not offered again", async () => {
      const { person } = await scene.finishVisit({ given: "Ottoline", family: "Quartermain" });
      await scene.advance(TUESDAY + 2 * HOUR);
      await fetch(`${harness.waypostUrl}/places/${scene.client.place}`, {
        method: "POST",
        body: new URLSearchParams({ author: "Ottoline Q.", stars: "5", words: "Kind" }),
        redirect: "manual",
      });
      await harness.owner.query("update listings set collect_at = to_timestamp(0) where client_id = $1", [
        scene.client.id,
      ]);
      await scene.advance(TUESDAY + 3 * HOUR);
      expect(await scene.askOf(person.id)).toMatchObject({ stop: "reviewed", reviewedAt: expect.any(Number) });
      const later = TUESDAY + 3 * DAY;
      await scene.moveTo(later);
      const second = await scene.visit(person.id, { endsAt: later }, later);
      expect(await visitOf(second.id)).toMatchObject({ reason: "resting" });
      expect((await visitOf(second.id)).trace?.at(-1)?.finding).toMatchObject({ code: "rest", since: "reviewed" });
      const { token } = await scene.askOf(person.id);
      await post(`${harness.env.APP_URL}/a/${token}/rate`, { rating: "5" });
      expect(await (await fetch(`${harness.env.APP_URL}/a/${token}`)).text()).not.toContain("Write on Waypost");
    });

    test("the first site goes by the mailbox, also where another house hosts it; shares converge over asks", async () => {
      await inside(async (tx) => {
        await tx
          .update(listings)
          .set({ accountDomains: ["waypost-mail.example"] })
          .where(eq(listings.clientId, scene.client.id));
        await tx.insert(listings).values({
          clientId: scene.client.id,
          branchId: scene.client.branchId,
          site: "Commons",
          url: `${harness.env.TOWN_URL}/guides/commons/${scene.client.place}`,
          position: -1,
          accountDomains: ["commons.example"],
        });
      });
      await setRules({
        ...starterRules(),
        sites: { order: ["Commons", "Waypost"], most: 3, mix: "mailbox", shares: {} },
      });
      const first = async (email: string) => {
        const person = await scene.addPerson({ email, phone: null });
        const visit = await scene.visit(person.id, { endsAt: TUESDAY + MINUTE, outcome: "booked" });
        await scene.moveTo(TUESDAY + MINUTE);
        await doAllDue();
        await scene.moveTo(TUESDAY);
        return (await visitOf(visit.id)).askId ? (await scene.askOf(person.id)).firstSite : null;
      };
      expect([
        await first("jun@larkmail.example"),
        await first("jun@commons.example"),
        await first("jun@nowhere.example"),
      ]).toEqual(["Waypost", "Commons", "Commons"]);

      await setRules({
        ...starterRules(),
        repeat: { kind: "every visit" },
        sites: { order: ["Commons", "Waypost"], most: 3, mix: "shares", shares: { Commons: 1, Waypost: 3 } },
      });
      const persons = await Promise.all(Array.from({ length: 40 }, () => scene.addPerson()));
      const ids: string[] = [];
      for (const person of persons)
        ids.push((await scene.visit(person.id, { endsAt: TUESDAY + 2 * MINUTE, outcome: "booked" })).id);
      await scene.moveTo(TUESDAY + 2 * MINUTE);
      // However many workers, the turns are taken one after the other.
      await Promise.all(
        [0, 1, 2, 3].map((part) =>
          inside((tx) => decideVisits(tx, scene.scope, ids.slice(part * 10, part * 10 + 10), TUESDAY + 2 * MINUTE)),
        ),
      );
      const { rows } = await harness.owner.query(
        "select first_site as site, count(*)::int as n from asks a join plans p on p.id = a.plan_id where a.client_id = $1 and a.plan_version = p.version group by 1 order by 1",
        [scene.client.id],
      );
      expect(rows).toEqual([
        { site: "Commons", n: 10 },
        { site: "Waypost", n: 30 },
      ]);
    });

    test("consent, where the client needs it, and the rest of the client, across plans", async () => {
      await setClient({ needsConsent: true, restDays: 60 });
      const unknown = await scene.finishVisit();
      expect(await visitOf(unknown.visit.id)).toMatchObject({ reason: "consent missing" });
      const agreed = await scene.addPerson({ consent: true } as never);
      await scene.visit(agreed.id);
      await scene.advance(TUESDAY + 2 * HOUR);
      await inside((tx) =>
        tx
          .update(plans)
          .set({ rules: { ...starterRules(), repeat: { kind: "every visit" } } })
          .where(eq(plans.id, scene.client.planId)),
      );
      await skipTo(TUESDAY + 2 * HOUR, TUESDAY + 10 * DAY);
      const again = await scene.visit(agreed.id, { endsAt: TUESDAY + 10 * DAY }, TUESDAY + 10 * DAY);
      expect(await visitOf(again.id)).toMatchObject({ reason: "resting" });
      expect((await visitOf(again.id)).trace?.at(-1)?.finding).toMatchObject({
        code: "rest",
        rest: 60,
        everywhere: true,
      });
    });
  });
});
