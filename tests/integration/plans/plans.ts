import { eq } from "drizzle-orm";
import { starterRules } from "@/core/plans/starters";
import { weekOf } from "@/core/time/sendHours";
import { DAY, HOUR } from "@/core/time/zone";
import { enforce, replanAll } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { countLog, LOG_PAGE, LOG_STATES, readLog } from "@/features/messaging";
import { changeRules, findPlan } from "@/features/plans";
import * as today from "@/features/today";
import { recordVisit, setOutcome } from "@/features/visits";
import { beginSkip, demoClockState, setDemoClock } from "@/platform/clock";
import { rowIn, withClient } from "@/platform/database";
import { clients } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { visits } from "@/schema/visits";
import { examineDue, nextDue } from "@/worker/due";
import { skipAhead } from "@/worker/skip";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** Plans at work: changed while running, looking at visits when they end, moved through time by the demo clock. */
describe("plans", () => {
  let harness: Harness;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("plans");
  });
  beforeEach(async () => {
    scene = new Scene(harness, await harness.addClient());
    await scene.moveTo(TUESDAY);
  });
  afterAll(() => harness.stop());

  const planOf = () => withClient(scene.scope, (tx) => findPlan(tx, scene.scope, scene.client.planId));

  describe("a changed plan", () => {
    test("moves what has not left, keeps what has, and leaves a trail", async () => {
      const before = await scene.finishVisit();
      await scene.advance(TUESDAY + 2 * HOUR);
      const waiting = await scene.finishVisit({}, TUESDAY + 2 * HOUR);
      const rules = starterRules();
      rules.steps[0].delay = { amount: 1, unit: "days", at: 11 * 60 };
      rules.steps[1].delay = { amount: 5, unit: "days" };
      await withClient(scene.scope, async (tx) => {
        const draft = await changeRules(tx, scene.scope, "Maud", scene.client.planId, 1, rules, TUESDAY);
        expect(draft).toMatchObject({ version: 1, rules: starterRules() });
        await enforce(tx, scene.scope, "Maud", {
          planId: scene.client.planId,
          revision: 2,
          rules,
          for: "asks under way too",
          now: TUESDAY + 2 * HOUR,
        });
      });
      expect((await scene.messagesOf(waiting.person.id))[0]).toMatchObject({
        dueAt: Date.UTC(2026, 10, 25, 11),
        reason: { code: "scheduled", delay: { amount: 1, unit: "days", at: 660 }, moves: [] },
      });
      expect((await scene.messagesOf(before.person.id)).map(({ state }) => state)).toEqual(["delivered", "planned"]);
      // Five days after Tuesday is Sunday, when nothing leaves.
      expect((await scene.messagesOf(before.person.id))[1]).toMatchObject({
        dueAt: Date.UTC(2026, 10, 30, 9),
        reason: { code: "scheduled", moves: expect.arrayContaining(["hours"]), opens: 540 },
      });
      const { rows } = await harness.owner.query("select who, action from audit_entries where subject_id = $1", [
        scene.client.planId,
      ]);
      expect(rows).toEqual([
        { who: "Maud", action: "changed" },
        { who: "Maud", action: "put in force" },
      ]);
    });

    test("is refused when it was opened on an older version", async () => {
      await withClient(scene.scope, async (tx) => {
        await changeRules(
          tx,
          scene.scope,
          "Maud",
          scene.client.planId,
          1,
          { ...starterRules(), freshDays: 30 },
          TUESDAY,
        );
        expect(
          await changeRules(
            tx,
            scene.scope,
            "Jonah",
            scene.client.planId,
            1,
            { ...starterRules(), freshDays: 60 },
            TUESDAY,
          ),
        ).toBeNull();
      });
      expect((await planOf())?.draft?.freshDays).toBe(30);
    });

    test("with hours that never open ends its asks visibly instead of waiting for ever", async () => {
      const { person } = await scene.finishVisit();
      const never = weekOf([], 0, 0);
      await withClient(scene.scope, async (tx) => {
        await tx
          .update(clients)
          .set({ sendHours: { text: never, email: never } })
          .where(eq(clients.id, scene.client.id));
        await replanAll(tx, scene.scope, await loadSetting(tx), TUESDAY);
      });
      expect((await scene.askOf(person.id)).ended).toBe("never open");
      expect((await scene.messagesOf(person.id))[0]).toMatchObject({
        state: "stopped",
        reason: { code: "ask ended", ended: "never open" },
      });
    });
  });

  describe("visits", () => {
    test("booked ones are looked at when they end, and count as finished then", async () => {
      const person = await scene.addPerson();
      const visit = await scene.visit(person.id, { endsAt: TUESDAY + HOUR, outcome: "booked" });
      expect(await examineDue(TUESDAY + HOUR - 1)).toBe(0);
      await scene.advance(TUESDAY + HOUR);
      const [kept] = await withClient(scene.scope, (tx) => tx.select().from(visits).where(eq(visits.id, visit.id)));
      expect(kept).toMatchObject({ outcome: "finished", decision: "asked", examineAt: null });
      expect((await scene.messagesOf(person.id))[0].dueAt).toBe(TUESDAY + 3 * HOUR);
    });

    test("cancelled before they end, they are left out; the same form sent twice is one visit", async () => {
      const person = await scene.addPerson();
      const requestKey = newId();
      const one = await scene.visit(person.id, { endsAt: TUESDAY + HOUR, outcome: "booked", requestKey });
      const two = await scene.visit(person.id, { endsAt: TUESDAY + HOUR, outcome: "booked", requestKey });
      expect(two.id).toBe(one.id);
      await withClient(scene.scope, (tx) => setOutcome(tx, scene.scope, "Maud", one.id, "cancelled", TUESDAY));
      await scene.advance(TUESDAY + HOUR);
      const [kept] = await withClient(scene.scope, (tx) => tx.select().from(visits).where(eq(visits.id, one.id)));
      expect(kept).toMatchObject({ decision: "left out", reason: "cancelled" });
    });

    test("two of one person on one day ask once, about both; one that comes when it has left says why it is left out", async () => {
      const { person } = await scene.finishVisit();
      const look = async (id: string) =>
        (await withClient(scene.scope, (tx) => tx.select().from(visits).where(eq(visits.id, id))))[0];
      const ask = await scene.askOf(person.id);
      const second = await scene.visit(person.id, { endsAt: TUESDAY - HOUR, about: "Juno" });
      expect(await look(second.id)).toMatchObject({ decision: "asked", askId: ask.id });
      await scene.advance(TUESDAY + 2 * HOUR);
      const [first] = await scene.messagesOf(person.id);
      expect(first.body).toContain("Biscuit and Juno's check-up");
      const third = await scene.visit(person.id, { endsAt: TUESDAY + HOUR }, TUESDAY + 2 * HOUR);
      expect(await look(third.id)).toMatchObject({ decision: "left out", reason: "another ask open" });
    });

    test("two workers examining the same visits at once begin one ask each", async () => {
      const people = await Promise.all(Array.from({ length: 12 }, () => scene.addPerson()));
      await withClient(scene.scope, async (tx) => {
        for (const person of people)
          for (let n = 0; n < 2; n++)
            await recordVisit(
              tx,
              scene.scope,
              "Maud",
              {
                personId: person.id,
                serviceId: scene.client.serviceId,
                branchId: scene.client.branchId,
                about: "",
                endsAt: TUESDAY - n * HOUR,
                outcome: "finished",
                requestKey: newId(),
              },
              TUESDAY,
            );
      });
      await Promise.all([examineDue(TUESDAY), examineDue(TUESDAY), examineDue(TUESDAY)]);
      const { rows } = await harness.owner.query(
        "select count(*)::int as asks, count(distinct person_id)::int as people from asks where client_id = $1",
        [scene.client.id],
      );
      expect(rows).toEqual([{ asks: 12, people: 12 }]);
      const { rows: told } = await harness.owner.query(
        "select decision, count(*)::int as n, count(distinct ask_id)::int as asks, count(distinct person_id)::int as people from visits where client_id = $1 group by 1",
        [scene.client.id],
      );
      expect(told).toEqual([{ decision: "asked", n: 24, asks: 12, people: 12 }]);
    });
  });

  describe("the demo clock", () => {
    test("stops at every due instant, in order, and tells the town each time", async () => {
      const first = await scene.finishVisit();
      const later = await scene.addPerson();
      await scene.visit(later.id, { endsAt: TUESDAY + 30 * 60_000, outcome: "booked" });
      const told: number[] = [];
      const town = {
        advance: async (now: number) => {
          told.push(now);
          return { next: null, acted: 0 };
        },
      };
      await skipAhead(town, TUESDAY, TUESDAY + 4 * HOUR);
      expect([...told].sort((a, b) => a - b)).toEqual(told);
      for (const at of [TUESDAY + 30 * 60_000, TUESDAY + 2 * HOUR, TUESDAY + 2.5 * HOUR]) expect(told).toContain(at);
      expect((await scene.messagesOf(first.person.id))[0].sentAt).toBe(TUESDAY + 2 * HOUR);
      expect((await scene.messagesOf(later.id))[0].sentAt).toBe(TUESDAY + 2.5 * HOUR);
      const state = await demoClockState();
      expect(state.skippingTo).toBeNull();
      expect(state.now).toBeGreaterThanOrEqual(TUESDAY + 4 * HOUR);
    });

    test("two skips at once are one", async () => {
      await setDemoClock(TUESDAY);
      const begun = await Promise.all([beginSkip(TUESDAY + DAY), beginSkip(TUESDAY + DAY), beginSkip(TUESDAY + HOUR)]);
      expect(begun.filter(Boolean)).toHaveLength(1);
    });

    test("knows what is due next over all clients", async () => {
      await scene.finishVisit();
      const due = await nextDue();
      expect(due.message).toBeLessThanOrEqual(TUESDAY + 2 * HOUR);
    });
  });

  describe("the log and Today", () => {
    test("each chip counts exactly what it lists, and pages hold everything once", async () => {
      const good = await scene.finishVisit();
      const bad = await scene.finishVisit({ phone: null });
      harness.town.mail.faults.add({ kind: "bounce", match: bad.person.email ?? "" });
      await scene.finishVisit();
      for (let n = 0; n < LOG_PAGE; n++) await scene.finishVisit({}, TUESDAY + 3 * HOUR);
      await scene.advance(TUESDAY + 2 * HOUR);
      await harness.town.texts.write(
        good.person.phone ?? "",
        (await withClient(scene.scope, loadSetting)).client.textNumber,
        "thanks",
      );
      const counts = await withClient(scene.scope, (tx) => countLog(tx, scene.scope));
      for (const state of [...LOG_STATES, null]) {
        const ids: string[] = [];
        let after: { at: number; id: string } | null = null;
        for (let page = 0; page < 10; page++) {
          const rows = await withClient(scene.scope, (tx) => readLog(tx, scene.scope, { state, channel: null, after }));
          const shown = rows.slice(0, LOG_PAGE).map(({ message }) => message);
          ids.push(...shown.map(({ id }) => id));
          if (rows.length <= LOG_PAGE) break;
          const last = shown[shown.length - 1];
          after = { at: last.dueAt ?? 0, id: last.id };
        }
        expect(new Set(ids).size).toBe(ids.length);
        if (state) expect([state, ids.length]).toEqual([state, counts[state]]);
      }
      expect(counts).toMatchObject({ bounced: 1, received: 1, failed: 0, held: 0 });
      expect(counts.planned).toBeGreaterThan(LOG_PAGE);
    });

    test("a crowded day is counted by the quarter hour, and tells the same as its marks do", async () => {
      const { person } = await scene.finishVisit();
      const span = { from: TUESDAY - 12 * HOUR, to: TUESDAY + 12 * HOUR, branchId: null };
      const read = () => withClient(scene.scope, (tx) => today.marksOfDay(tx, scene.scope, span, TUESDAY));
      const few = await read();
      expect([few.crowd, few.visits.length, few.messages.length, few.planned]).toEqual([null, 1, 1, 1]);
      // Two hundred and fifty more visits, one each minute and a half.
      await harness.owner.query(
        `insert into visits (id, client_id, person_id, branch_id, source, outcome, ends_at, created_at) select gen_random_uuid(), client_id, person_id, branch_id, source, outcome, ends_at + n * interval '90 seconds', created_at from visits, generate_series(1, 250) n where person_id = $1`,
        [person.id],
      );
      const many = await read();
      const sum = (what: "visits" | "messages") => (many.crowd ?? []).reduce((all, quarter) => all + quarter[what], 0);
      expect([sum("visits"), sum("messages"), many.planned, many.visits, many.messages]).toEqual([251, 1, 1, [], []]);
      for (const { at, visits } of many.crowd ?? []) expect([at % (15 * 60_000), visits <= 10]).toEqual([0, true]);
    });

    test("Today tells what was seen: visits, messages, who was left out, who was asked", async () => {
      const { person } = await scene.finishVisit();
      const quiet = await scene.addPerson({ doNotAsk: "no" });
      await scene.visit(quiet.id);
      await scene.advance(TUESDAY + 2 * HOUR);
      const span = { from: TUESDAY - 12 * HOUR, to: TUESDAY + 12 * HOUR, branchId: null };
      const seen = await withClient(scene.scope, async (tx) => ({
        ...(await today.marksOfDay(tx, scene.scope, span, TUESDAY)),
        leftOut: (await rowIn(tx, today.leftOut(scene.scope, span))).rows,
        tally: await rowIn(tx, today.tally(scene.scope, span.from, span.to)),
        next: await today.goingOutNext(tx, scene.scope, null, 5),
        elsewhere: await today.marksOfDay(tx, scene.scope, { ...span, branchId: newId() }, TUESDAY),
      }));
      expect(seen.visits.map(({ personId }) => personId).sort()).toEqual([person.id, quiet.id].sort());
      expect(seen.messages).toMatchObject([{ personId: person.id, state: "delivered", at: TUESDAY + 2 * HOUR }]);
      expect(seen.leftOut).toEqual([{ reason: "do not ask", count: 1 }]);
      expect(seen.tally).toEqual({ asked: 1, answered: 0, followed: 0 });
      expect(seen.next).toMatchObject([{ personId: person.id, step: 1 }]);
      expect(seen.elsewhere).toEqual({ crowd: null, visits: [], messages: [], planned: 0, stuck: 0 });
    });
  });
});
