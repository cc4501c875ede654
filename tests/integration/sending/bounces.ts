import { eq } from "drizzle-orm";
import fc from "fast-check";
import { PLAIN_RULES, type PlanRules } from "@/core/plans/planRules";
import { starterRules } from "@/core/plans/starters";
import { HOUR } from "@/core/time/zone";
import { withClient } from "@/platform/database";
import { asks } from "@/schema/asks";
import { people } from "@/schema/people";
import { plans } from "@/schema/plans";
import { type Harness, startHarness } from "../../support/harness";
import { sendHook } from "../../support/hooks";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/**
 * Messages that come back: once or more, early or late, in any order, before and after everything else that can
 * happen.
 */
describe("bounces", () => {
  let harness: Harness;
  let scene: Scene;
  let now = TUESDAY;

  beforeAll(async () => {
    harness = await startHarness("bounces");
  });
  afterAll(() => harness.stop());

  const [model] = starterRules().steps;
  const stepOf = (key: string, channel: "text" | "email" | "both", days: number) => ({
    ...model,
    key,
    channel,
    delay: { amount: days, unit: "days" as const },
  });

  async function freshScene(steps: PlanRules["steps"]): Promise<void> {
    scene = new Scene(harness, await harness.addClient({ gapMinutes: 0 }));
    now = TUESDAY;
    await scene.moveTo(now);
    const rules: PlanRules = {
      ...PLAIN_RULES,
      repeat: { kind: "every visit" },
      households: "each",
      freshDays: 30,
      steps,
    };
    await withClient(scene.scope, (tx) =>
      tx.update(plans).set({ rules }).where(eq(plans.clientId, scene.scope.clientId)),
    );
    await harness.owner.query("update plan_versions set rules = $1 where client_id = $2", [
      rules,
      scene.scope.clientId,
    ]);
  }

  async function later(hours: number): Promise<void> {
    now += hours * HOUR;
    await scene.advance(now);
  }

  async function bounce(messageId: string, channel: "text" | "email"): Promise<number> {
    const type = channel === "email" ? "mail.bounced" : "text.undelivered";
    return (
      await sendHook(harness, channel === "email" ? "mail" : "texts", {
        type,
        data: { reference: messageId, reason: "no such mailbox" },
      })
    ).status;
  }

  const sentOf = async (personId: string) =>
    (await scene.messagesOf(personId)).filter(({ direction, sentAt }) => direction === "out" && sentAt !== null);

  test("a bounce that is told twice takes one step back, and the other channel goes once", async () => {
    await freshScene([stepOf("a", "email", 0), stepOf("b", "text", 3)]);
    const { person } = await scene.finishVisit();
    await later(1);
    const [first] = await sentOf(person.id);
    for (let times = 0; times < 3; times++) expect(await bounce(first.id, "email")).toBe(200);
    await later(1);
    for (let times = 0; times < 2; times++) expect(await bounce(first.id, "email")).toBe(200);
    await later(9 * 24);
    const sent = await sentOf(person.id);
    expect(sent.map(({ step, channel, state }) => [step, channel, state])).toEqual([
      [0, "email", "bounced"],
      [0, "text", "delivered"],
      [1, "text", "delivered"],
    ]);
    expect((await scene.askOf(person.id)).ended).toBe("all sent");
  });

  test("a bounce that comes after the follow-up has left keeps the follow-up, asks nothing twice, and the ask ends", async () => {
    await freshScene([stepOf("a", "email", 0), stepOf("b", "text", 1), stepOf("c", "text", 1)]);
    const { person } = await scene.finishVisit();
    await later(1);
    const [first] = await sentOf(person.id);
    await later(25);
    expect(await bounce(first.id, "email")).toBe(200);
    await later(9 * 24);
    expect((await sentOf(person.id)).map(({ step, channel }) => [step, channel])).toEqual([
      [0, "email"],
      [1, "text"],
      [2, "text"],
    ]);
    expect((await scene.askOf(person.id)).ended).toBe("all sent");
  });

  test("a bounce that comes when the ask has ended and another is open leaves both as they are", async () => {
    await freshScene([stepOf("a", "email", 0)]);
    const { person } = await scene.finishVisit();
    await later(1);
    const [first] = await sentOf(person.id);
    expect((await scene.askOf(person.id)).ended).toBe("all sent");
    await withClient(scene.scope, (tx) =>
      tx.update(people).set({ email: "other@post.example" }).where(eq(people.id, person.id)),
    );
    await later(24);
    await scene.visit(person.id, { endsAt: now }, now);
    await later(1);
    const [, second] = await withClient(scene.scope, (tx) =>
      tx.select().from(asks).where(eq(asks.personId, person.id)).orderBy(asks.createdAt),
    );
    await withClient(scene.scope, (tx) =>
      tx.update(asks).set({ ended: null, endedAt: null }).where(eq(asks.id, second.id)),
    );
    expect(await bounce(first.id, "email")).toBe(200);
    const [again] = await withClient(scene.scope, (tx) =>
      tx.select().from(asks).where(eq(asks.personId, person.id)).orderBy(asks.createdAt),
    );
    expect(again.ended).toBe("all sent");
  });

  test("a late bounce of an address that was put right since says nothing of the new one", async () => {
    await freshScene([stepOf("a", "email", 0)]);
    const { person } = await scene.finishVisit();
    await later(1);
    const [first] = await sentOf(person.id);
    await withClient(scene.scope, (tx) =>
      tx.update(people).set({ email: "right@post.example" }).where(eq(people.id, person.id)),
    );
    expect(await bounce(first.id, "email")).toBe(200);
    const [after] = await withClient(scene.scope, (tx) => tx.select().from(people).where(eq(people.id, person.id)));
    expect(after.emailBouncedAt).toBeNull();
  });

  test("a bounce of a message that never left is told of nothing", async () => {
    await freshScene([stepOf("a", "email", 3)]);
    const { person } = await scene.finishVisit();
    const [planned] = await scene.messagesOf(person.id);
    expect(await bounce(planned.id, "email")).toBe(200);
    expect((await scene.messagesOf(person.id))[0].state).toBe("planned");
  });

  const event = fc.oneof(
    { weight: 5, arbitrary: fc.record({ kind: fc.constant("bounce" as const), which: fc.nat(9) }) },
    { weight: 4, arbitrary: fc.record({ kind: fc.constant("wait" as const), hours: fc.constantFrom(1, 5, 26, 80) }) },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant("visit" as const) }) },
    { weight: 1, arbitrary: fc.record({ kind: fc.constant("right address" as const) }) },
  );
  const plan = fc.array(
    fc.tuple(fc.constantFrom("text" as const, "email" as const, "both" as const), fc.integer({ min: 0, max: 3 })),
    { minLength: 1, maxLength: 4 },
  );

  test("in any order: nobody gets a step twice, every ask ends, and the hook never fails", async () => {
    let bounced = 0;
    await fc.assert(
      fc.asyncProperty(plan, fc.array(event, { minLength: 4, maxLength: 10 }), async (steps, events) => {
        await freshScene(steps.map(([channel, days], n) => stepOf(`k${n}`, channel, days)));
        const { person } = await scene.finishVisit();
        let right = 0;
        await later(1);
        for (const it of events) {
          if (it.kind === "wait") await later(it.hours);
          else if (it.kind === "visit") await scene.visit(person.id, { endsAt: now }, now);
          else if (it.kind === "right address")
            await withClient(scene.scope, (tx) =>
              tx
                .update(people)
                .set({ email: `right${right++}@post.example`, emailBouncedAt: null })
                .where(eq(people.id, person.id)),
            );
          else {
            const sent = await sentOf(person.id);
            const message = sent[it.which % Math.max(1, sent.length)];
            if (!message) continue;
            bounced += 1;
            expect(await bounce(message.id, message.channel)).toBe(200);
          }
        }
        for (let turn = 0; turn < 8; turn++) await later(4 * 24);
        const all = await withClient(scene.scope, (tx) => tx.select().from(asks).where(eq(asks.personId, person.id)));
        expect(all.filter(({ stop, ended }) => stop === null && ended === null)).toEqual([]);
        const reached = (await sentOf(person.id)).filter(({ state }) => state !== "bounced");
        const keys = reached.map(({ askId, step }) => `${askId} ${step}`);
        expect(new Set(keys).size).toBe(keys.length);
      }),
      { numRuns: size(12, 600), seed: 20261126 },
    );
    expect(bounced).toBeGreaterThan(size(6, 300));
  });
});
