import { eq } from "drizzle-orm";
import { DAY, HOUR, MINUTE } from "@/core/time/zone";
import { askByHand, decideVisits, replanAll, stopAsks } from "@/features/asks";
import { loadSetting } from "@/features/clients";
import { answerConcern, closeConcern, takeConcern } from "@/features/concerns";
import { setPlanState } from "@/features/plans";
import { postReply } from "@/features/reviews";
import { recordVisit, setOutcome } from "@/features/visits";
import { withClient } from "@/platform/database";
import { answers } from "@/schema/answers";
import { asks } from "@/schema/asks";
import { newId } from "@/schema/columns";
import { concerns } from "@/schema/concerns";
import { people } from "@/schema/people";
import { reviews } from "@/schema/reviews";
import { visits } from "@/schema/visits";
import { doAllDue } from "@/worker/due";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { post, Scene, TUESDAY } from "../../support/scene";

/** One visit, from its record to what came of it, through real PostgreSQL, SMTP and HTTP. */
describe("journey", () => {
  let harness: Harness;
  let client: TestClient;
  let scene: Scene;

  beforeAll(async () => {
    harness = await startHarness("journey");
    client = await harness.addClient();
    scene = new Scene(harness, client);
  });
  afterAll(() => harness.stop());
  beforeEach(async () => {
    harness.town.mail.faults.clear();
    harness.town.texts.faults.clear();
    await scene.moveTo(TUESDAY);
  });

  const scope = () => scene.scope;
  const moveTo = (at: number) => scene.moveTo(at);
  const advance = (to: number) => scene.advance(to);
  const finishVisit = (change?: Parameters<Scene["finishVisit"]>[0], now?: number) => scene.finishVisit(change, now);
  const messagesOf = (personId: string) => scene.messagesOf(personId);
  const askOf = (personId: string) => scene.askOf(personId);
  const linkIn = (text: string) => /https?:\/\/\S+\/a\/[0-9A-Za-z]+\.\d/.exec(text)?.[0] ?? "";

  test("a happy customer: text after two hours, one tap, on to the site, a review, a reply in public; no follow-up", async () => {
    const { person } = await finishVisit();
    expect(await messagesOf(person.id)).toMatchObject([
      {
        state: "planned",
        dueAt: TUESDAY + 2 * HOUR,
        channel: "text",
        reason: { code: "scheduled", after: "visit", moves: [] },
      },
    ]);
    await advance(TUESDAY + 2 * HOUR - 1);
    expect(harness.town.texts.phone(person.phone ?? "")).toEqual([]);
    await advance(TUESDAY + 2 * HOUR);
    const [text] = harness.town.texts.phone(person.phone ?? "");
    expect(text.body).toMatch(/^Hi Odette, how was Biscuit's check-up at Test Vets 0 today\?/);
    expect((await messagesOf(person.id)).map(({ state, step }) => [state, step])).toEqual([
      ["delivered", 0],
      ["planned", 1],
    ]);

    const link = linkIn(text.body);
    const page = await (await fetch(link)).text();
    expect(page).toContain("How was Biscuit’s check-up?");
    expect(Buffer.byteLength(page)).toBeLessThan(20_000);
    expect((await askOf(person.id)).stop).toBeNull();

    const base = link.replace(/\.\d$/, "");
    expect((await post(`${base}/rate`, { rating: "5" })).status).toBe(303);
    const thanks = await (await fetch(base)).text();
    const site = /action="([^"]+\/site\/[^"]+)"/.exec(thanks)?.[1] ?? "";
    const away = await post(new URL(site, base).toString(), {});
    expect(away.headers.get("location")).toMatch(/\/places\/place-0$/);
    await post(away.headers.get("location") ?? "", {
      author: "Odette M.",
      stars: "5",
      words: "Biscuit came home wagging.",
    });
    expect(await (await fetch(base)).text()).toContain("Thank you, that really helps.");

    await advance(TUESDAY + 2 * HOUR + 2 * MINUTE);
    const [review] = await withClient(scope(), (tx) => tx.select().from(reviews));
    expect(review).toMatchObject({
      author: "Odette M.",
      rating: 5,
      words: "Biscuit came home wagging.",
      replyState: "none",
    });
    expect(await postReply(scope(), "Maud", review.id, "Thank you, Odette.")).toEqual({ kind: "posted" });
    const place = await (await fetch(away.headers.get("location") ?? "")).text();
    expect(place).toContain("Thank you, Odette.");

    await advance(TUESDAY + 4 * DAY);
    expect(harness.town.mail.mailbox(person.email ?? "")).toEqual([]);
    expect((await messagesOf(person.id)).map(({ state }) => state)).toEqual(["delivered", "stopped"]);
  });

  test("an unhappy customer: the form first with the sites below, a concern, a thread by text and mail, an outcome", async () => {
    const { person } = await finishVisit({ phone: null });
    await advance(TUESDAY + 2 * HOUR);
    const [mail] = harness.town.mail.mailbox(person.email ?? "");
    expect(mail.raw).toMatch(/^List-Unsubscribe-Post: List-Unsubscribe=One-Click/im);
    const { token } = await askOf(person.id);
    const base = `${harness.env.APP_URL}/a/${token}`;
    await post(`${base}/rate`, { rating: "2" });
    const page = await (await fetch(base)).text();
    expect(page.indexOf("What could we put right?")).toBeLessThan(page.indexOf("Or write a public review"));
    expect((await post(`${base}/words`, { words: "  " })).status).toBe(422);
    await post(`${base}/words`, { words: "We waited fifty minutes." });
    await post(`${base}/words`, { words: "We waited fifty minutes." });
    const [concern] = await withClient(scope(), (tx) =>
      tx.select().from(concerns).where(eq(concerns.personId, person.id)),
    );
    expect(concern).toMatchObject({
      state: "new",
      rating: 2,
      words: "We waited fifty minutes.",
      // Four hours in which somebody is there: until 19:00, and from 9:00 on.
      answerBy: TUESDAY + 20 * HOUR,
    });

    const key = newId();
    await withClient(scope(), async (tx) => {
      expect(await takeConcern(tx, scope(), "Maud", concern.id, TUESDAY + 3 * HOUR)).toBeNull();
      expect(await takeConcern(tx, scope(), "Jonah", concern.id, TUESDAY + 3 * HOUR)).toEqual({
        refused: "Maud is already handling this concern.",
      });
      // The same click twice is one letter.
      for (let click = 0; click < 2; click++)
        expect(
          await answerConcern(
            tx,
            scope(),
            "Maud",
            concern.id,
            { channel: "email", words: "I am sorry.", requestKey: key },
            TUESDAY + 3 * HOUR,
          ),
        ).toBeNull();
    });
    await advance(TUESDAY + 8 * HOUR);
    const letters = harness.town.mail.mailbox(person.email ?? "");
    expect(letters).toHaveLength(2);
    await harness.town.mail.reply(letters[1], "Thank you for asking.");
    await harness.town.settled(true);
    expect(
      (await messagesOf(person.id))
        .filter(({ concernId }) => concernId === concern.id)
        .map(({ direction, body }) => [direction, body]),
    ).toEqual([
      ["out", "I am sorry."],
      ["in", "Thank you for asking."],
    ]);
    await withClient(scope(), async (tx) => {
      expect(
        await closeConcern(tx, scope(), "Maud", concern.id, { outcome: "put right", note: "" }, TUESDAY + 9 * HOUR),
      ).toBeNull();
      expect(
        await closeConcern(tx, scope(), "Jonah", concern.id, { outcome: "explained", note: "" }, TUESDAY + 9 * HOUR),
      ).toEqual({
        refused: "Maud has closed this concern in the meantime.",
      });
    });
  });

  describe("the follow-up", () => {
    test("goes out on time when nobody reacts, and the ask ends", async () => {
      const { person } = await finishVisit();
      await advance(TUESDAY + 2 * HOUR);
      await advance(Date.UTC(2026, 10, 26, 9, 59));
      expect(harness.town.mail.mailbox(person.email ?? "")).toHaveLength(0);
      await advance(Date.UTC(2026, 10, 26, 10));
      expect(harness.town.mail.mailbox(person.email ?? "")).toHaveLength(1);
      expect((await askOf(person.id)).ended).toBe("all sent");
    });

    const stops: [string, (it: { personId: string; visitId: string; phone: string }) => Promise<unknown>, string][] = [
      ["STOP by text", ({ phone }) => harness.town.texts.write(phone, "+447700900990", "Stop."), "opted out"],
      [
        "a text of any other kind",
        ({ phone }) => harness.town.texts.write(phone, "+447700900990", "All well, thanks"),
        "wrote back",
      ],
      [
        "one-click unsubscribe",
        async ({ personId }) =>
          post(`${harness.env.APP_URL}/u/${(await askOf(personId)).token}`, { "List-Unsubscribe": "One-Click" }),
        "opted out",
      ],
      [
        "a rating",
        async ({ personId }) => post(`${harness.env.APP_URL}/a/${(await askOf(personId)).token}/rate`, { rating: "4" }),
        "answered",
      ],
      [
        "a cancelled visit",
        ({ personId, visitId }) =>
          withClient(scope(), async (tx) => {
            await setOutcome(tx, scope(), "Maud", visitId, "cancelled", TUESDAY);
            await stopAsks(tx, scope(), [(await askOf(personId)).id], "visit cancelled", TUESDAY);
          }),
        "visit cancelled",
      ],
    ];
    test.each(stops)("stops at once on %s", async (_name, stop, reason) => {
      const { person, visit } = await finishVisit();
      await advance(TUESDAY + 2 * HOUR);
      await stop({ personId: person.id, visitId: visit.id, phone: person.phone ?? "" });
      expect((await askOf(person.id)).stop).toBe(reason);
      await advance(TUESDAY + 5 * DAY);
      expect(harness.town.mail.mailbox(person.email ?? "")).toHaveLength(0);
      expect(
        (await messagesOf(person.id)).filter(
          ({ direction, askId, sentAt }) => direction === "out" && askId !== null && sentAt !== null,
        ),
      ).toHaveLength(1);
    });
  });

  test("whoever opted out is left out the next time, and asking by hand refuses", async () => {
    const { person } = await finishVisit();
    await advance(TUESDAY + 2 * HOUR);
    await harness.town.texts.write(person.phone ?? "", "+447700900990", "STOP");
    await withClient(scope(), async (tx) => {
      const visit = await recordVisit(
        tx,
        scope(),
        "Maud",
        {
          personId: person.id,
          serviceId: client.serviceId,
          branchId: client.branchId,
          about: "",
          endsAt: TUESDAY,
          outcome: "finished",
          requestKey: newId(),
        },
        TUESDAY,
      );
      expect(await decideVisits(tx, scope(), [visit.id], TUESDAY)).toEqual({ asked: 0, leftOut: 1 });
      const [kept] = await tx.select().from(visits).where(eq(visits.id, visit.id));
      expect(kept).toMatchObject({ decision: "left out", reason: "opted out" });
      expect(
        await askByHand(tx, scope(), { visit, channel: "email", who: "Maud", requestKey: newId(), now: TUESDAY }),
      ).toMatchObject({ refused: { reason: "opted out" } });
    });
  });

  test("double clicks and two tabs ask once", async () => {
    const { person, visit } = await finishVisit({}, TUESDAY - 10 * DAY);
    await moveTo(TUESDAY);
    await doAllDue();
    const fresh = await finishVisit({}, TUESDAY);
    const key = newId();
    const click = (requestKey: string) =>
      withClient(scope(), (tx) =>
        askByHand(tx, scope(), { visit: fresh.visit, channel: "text", who: "Maud", requestKey, now: TUESDAY }),
      );
    const results = await Promise.all([click(key), click(key), click(newId()), click(newId())]);
    expect(results.filter((result) => "askId" in result).length).toBeGreaterThan(0);
    await advance(TUESDAY);
    expect(harness.town.texts.phone(fresh.person.phone ?? "")).toHaveLength(1);
    expect(
      (await withClient(scope(), (tx) => tx.select().from(asks).where(eq(asks.personId, fresh.person.id)))).length,
    ).toBe(1);
    // The ten-day-old visit was too old to leave at all.
    expect((await askOf(person.id)).ended).toBe("too late");
    expect(visit.decision).toBeNull();
  });

  test("asking by hand brings a planned ask forward", async () => {
    const { person, visit } = await finishVisit();
    await withClient(scope(), (tx) =>
      askByHand(tx, scope(), { visit, channel: "text", who: "Jonah", requestKey: newId(), now: TUESDAY }),
    );
    await advance(TUESDAY);
    expect(harness.town.texts.phone(person.phone ?? "")).toHaveLength(1);
  });

  test("addresses that fail: a refused mail ends where nothing else reaches, a text that comes back goes as a mail, a deferral is tried again", async () => {
    const refused = await finishVisit();
    await withClient(scope(), (tx) =>
      tx.update(people).set({ phoneTakesTexts: false }).where(eq(people.id, refused.person.id)),
    );
    harness.town.mail.faults.add({ kind: "bounce", match: refused.person.email ?? "" });
    const late = await finishVisit();
    harness.town.texts.faults.add({ kind: "late bounce", match: late.person.phone ?? "" });
    const deferred = await finishVisit({ phone: null });
    harness.town.mail.faults.add({ kind: "defer", match: deferred.person.email ?? "", count: 2 });
    const slow = await finishVisit();
    harness.town.texts.faults.add({ kind: "too many", match: slow.person.phone ?? "", count: 1 });
    await advance(TUESDAY + 2 * HOUR);
    expect((await askOf(refused.person.id)).ended).toBe("unreachable");
    expect((await messagesOf(refused.person.id))[0]).toMatchObject({
      state: "bounced",
      reason: { code: "refused", reply: { code: "no such address", status: 550 } },
      gatewaySaid: expect.stringContaining("No such mailbox"),
    });
    expect(
      (await messagesOf(late.person.id)).map(({ state, channel, step }) => [state, channel, step]).slice(0, 2),
    ).toEqual([
      ["bounced", "text", 0],
      [expect.stringMatching(/planned|sent|delivered/), "email", 0],
    ]);
    expect((await messagesOf(deferred.person.id))[0]).toMatchObject({
      state: "planned",
      reason: { code: "tried again", reply: { code: "busy" } },
    });
    for (const minutes of [3, 8, 20]) await advance(TUESDAY + 2 * HOUR + minutes * MINUTE);
    expect(harness.town.mail.mailbox(late.person.email ?? "")).toHaveLength(1);
    expect((await messagesOf(deferred.person.id))[0].state).toBe("delivered");
    expect(harness.town.texts.phone(slow.person.phone ?? "")).toHaveLength(1);
  });

  test("a paused plan holds what was planned; resumed, what is still fresh leaves", async () => {
    const { person } = await finishVisit();
    const switchTo = (state: "paused" | "running", now: number) =>
      withClient(scope(), async (tx) => {
        await setPlanState(tx, scope(), "Maud", client.planId, state, now);
        await replanAll(tx, scope(), await loadSetting(tx), now);
      });
    await switchTo("paused", TUESDAY);
    await advance(TUESDAY + 3 * HOUR);
    expect((await messagesOf(person.id))[0]).toMatchObject({ state: "held", reason: { code: "plan paused" } });
    expect(harness.town.texts.phone(person.phone ?? "")).toEqual([]);
    await switchTo("running", TUESDAY + 4 * HOUR);
    await advance(TUESDAY + 4 * HOUR);
    expect(harness.town.texts.phone(person.phone ?? "")).toHaveLength(1);
  });

  test("a review that is edited or deleted on its site is noticed and kept", async () => {
    const at = (id: string) => `${harness.waypostUrl}/api/reviews/${id}`;
    await harness.owner.query("update listings set collect_at = to_timestamp(0)");
    await post(`${harness.waypostUrl}/places/place-0`, { author: "Jun A.", stars: "4", words: "Good." });
    await advance(TUESDAY + 5 * MINUTE);
    const mine = async () =>
      (await withClient(scope(), (tx) => tx.select().from(reviews).where(eq(reviews.author, "Jun A."))))[0];
    const { externalId } = await mine();
    await fetch(at(externalId), {
      method: "PATCH",
      body: JSON.stringify({ stars: 2, words: "On reflection, not so good." }),
    });
    await advance(TUESDAY + 7 * MINUTE);
    expect(await mine()).toMatchObject({
      rating: 2,
      words: "On reflection, not so good.",
      editedAt: expect.any(Number),
    });
    await fetch(at(externalId), { method: "DELETE" });
    await advance(TUESDAY + 9 * MINUTE);
    expect(await mine()).toMatchObject({ deletedAt: expect.any(Number), words: "On reflection, not so good." });
  });

  test("customers' addresses answer nonsense with a clear page, never with a fault", async () => {
    const { APP_URL } = harness.env;
    const { person } = await finishVisit();
    const { token } = await askOf(person.id);
    const answersBefore = await withClient(scope(), (tx) =>
      tx.select().from(answers).where(eq(answers.personId, person.id)),
    );
    const tries: [string, RequestInit, number][] = [
      [`/a/${token}x`, {}, 404],
      ["/a/%00", {}, 404],
      [`/a/${"z".repeat(500)}`, {}, 404],
      [`/a/${token}/rate`, { method: "POST", body: "rating=9" }, 422],
      [`/a/${token}/rate`, { method: "POST", body: "\u0000" }, 422],
      [`/a/${token}/words`, { method: "POST", body: "words=%00%00" }, 422],
      [`/a/${token}/words`, { method: "POST", body: `words=${"x".repeat(6000)}` }, 422],
      [`/a/${token}/words`, { method: "POST", body: "x".repeat(70_000) }, 413],
      [`/a/${token}/site/not-a-listing`, { method: "POST" }, 404],
      [`/a/${token}/site/${newId()}`, { method: "POST" }, 404],
      [`/a/${token}`, { method: "DELETE" }, 405],
      ["/u/nobody-here", {}, 404],
      ["/o/nonsense.gif", {}, 200],
      ["/hooks/texts", { method: "POST", body: "{}" }, 401],
      ["/hooks/mail", { method: "POST", body: "x".repeat(300_000) }, 413],
    ];
    for (const [path, init, status] of tries) {
      const response = await fetch(`${APP_URL}${path}`, { redirect: "manual", ...init });
      expect([path.slice(0, 40), response.status]).toEqual([path.slice(0, 40), status]);
    }
    // Looking, with or without a preselected rating, answers for nobody.
    await fetch(`${APP_URL}/a/${token}.0?r=1`);
    expect(await withClient(scope(), (tx) => tx.select().from(answers).where(eq(answers.personId, person.id)))).toEqual(
      answersBefore,
    );
  });
});
