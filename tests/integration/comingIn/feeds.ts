import { randomUUID } from "node:crypto";
import fc from "fast-check";
import { Webhook } from "standardwebhooks";
import { loadSetting } from "@/features/clients";
import {
  addFeed,
  changeFeed,
  type Feed,
  fetchFeed,
  findFeed,
  renewFeed,
  retryInboundEvent,
  secretOf,
  takeCalendar,
} from "@/features/intake";
import { correctAddress } from "@/features/people-admin";
import { eventSentence } from "@/locales/intake";
import { withClient } from "@/platform/database";
import { asks } from "@/schema/asks";
import { branches } from "@/schema/clients";
import { newId } from "@/schema/columns";
import { inboundEvents } from "@/schema/feeds";
import { intakes } from "@/schema/intake";
import { people } from "@/schema/people";
import { visits } from "@/schema/visits";
import { doAllDue, fetchDue, processInboundEvents } from "@/worker/due";
import { derivedFaults } from "../../support/derived";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";
import { size } from "../../support/size";

/** Feeds: what programs deliver, what calendars say, what is left on the drop-off page. */
describe("feeds", () => {
  const HOUR = 3_600_000;
  let harness: Harness;
  beforeAll(async () => {
    harness = await startHarness("feeds");
  });
  afterAll(async () => {
    // Whatever came in, was merged or erased: what repeats other rows still agrees with them.
    expect(await derivedFaults(harness.owner)).toEqual({});
    await harness.stop();
  });

  async function scene(): Promise<Scene> {
    const made = new Scene(harness, await harness.addClient());
    await made.moveTo(TUESDAY);
    return made;
  }

  const feedOf = (it: Scene, kind: Feed["kind"], url = "") =>
    withClient(it.scope, (tx) =>
      addFeed(tx, it.scope, "Maud", { kind, name: `A ${kind}`, url, branchId: null, serviceId: null }, TUESDAY),
    );
  const all = (it: Scene) =>
    withClient(it.scope, async (tx) => ({
      people: await tx.select().from(people).orderBy(people.createdAt, people.id),
      visits: await tx.select().from(visits).orderBy(visits.endsAt),
      asks: await tx.select().from(asks),
      deliveries: await tx.select().from(inboundEvents).orderBy(inboundEvents.at, inboundEvents.id),
    }));

  type Sending = { id?: string; at?: Date; secret?: string; body?: string };
  const event = (type: string, visit: object | null, person: object | null, at = TUESDAY) => ({
    type,
    timestamp: new Date(at).toISOString(),
    data: { ...(visit ? { visit } : {}), ...(person ? { person } : {}) },
  });

  /** Sends as the specification's own library does. */
  function send(feed: Feed, payload: unknown, change: Sending = {}): Promise<Response> {
    const body = change.body ?? JSON.stringify(payload);
    const id = change.id ?? `msg_${randomUUID()}`;
    const at = change.at ?? new Date();
    return fetch(`${harness.env.APP_URL}/hooks/feeds/${feed.id}`, {
      method: "POST",
      body,
      headers: {
        "content-type": "application/json",
        "webhook-id": id,
        "webhook-timestamp": String(Math.floor(at.getTime() / 1000)),
        "webhook-signature": new Webhook(change.secret ?? secretOf(feed) ?? "").sign(id, at, body),
      },
    });
  }

  const odette = { id: "P1", name: "MARSH, Odette", phone: "07700 900123", email: "odette@post.example" };
  const visit = (id: string, hours: number) => ({
    id,
    service: "Check-up",
    branch: "Fenwick",
    team_member: "Dr Hale",
    about: "Biscuit",
    ends_at: new Date(TUESDAY + hours * HOUR).toISOString(),
  });

  describe("a webhook", () => {
    test("a visit that is booked, then finished, is asked about; everything it named is there", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      expect((await send(feed, event("visit.booked", visit("A1", 1), odette))).status).toBe(202);
      await doAllDue();
      expect((await all(it)).visits).toMatchObject([
        { externalId: "A1", outcome: "booked", about: "Biscuit", source: "webhook", feedId: feed.id },
      ]);
      await it.moveTo(TUESDAY + HOUR);
      await send(feed, event("visit.finished", visit("A1", 1), odette, TUESDAY + HOUR));
      await doAllDue();
      const after = await all(it);
      expect(after).toMatchObject({
        people: [{ given: "Odette", family: "Marsh", externalId: "P1", phone: "+447700900123" }],
        visits: [{ outcome: "finished", decision: "asked" }],
        asks: [{ stop: null }],
      });
      expect(
        after.deliveries.map(({ state, result }) => [state, result && eventSentence(result, "Europe/London", TUESDAY)]),
      ).toEqual([
        ["done", expect.stringContaining("Odette Marsh is new: a visit")],
        ["done", expect.stringContaining("is now finished")],
      ]);
    });

    test("what an event does not name stays as it was", async () => {
      const it = await scene();
      const second = newId();
      await withClient(it.scope, (tx) =>
        tx.insert(branches).values({
          id: second,
          clientId: it.client.id,
          name: "Old Mill",
          zone: "Europe/London",
          address: "The Mill",
          position: 2,
        }),
      );
      const feed = await feedOf(it, "webhook");
      await send(feed, event("visit.booked", { ...visit("N1", 1), branch: "old mill" }, odette));
      await doAllDue();
      await send(feed, event("visit.cancelled", { id: "N1" }, null, TUESDAY + 1000));
      await doAllDue();
      expect((await all(it)).visits).toMatchObject([
        { branchId: second, about: "Biscuit", outcome: "cancelled", endsAt: TUESDAY + HOUR },
      ]);
    });

    test("an address that was put right is not made wrong again by its source", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      const wrong = { id: "W1", name: "Odette Marsh", email: "odette@post.exmaple" };
      await send(feed, event("visit.booked", visit("W1", 1), wrong));
      await doAllDue();
      const [person] = (await all(it)).people;
      await withClient(it.scope, (tx) =>
        correctAddress(tx, it.scope, person.id, "email", "odette@post.example", "Maud", TUESDAY),
      );
      await send(feed, event("visit.updated", visit("W1", 2), wrong, TUESDAY + 1000));
      await doAllDue();
      expect((await all(it)).people).toMatchObject([{ email: "odette@post.example" }]);
      await send(
        feed,
        event("visit.updated", visit("W1", 2), { ...wrong, email: "odette.new@post.example" }, TUESDAY + 2000),
      );
      await doAllDue();
      expect((await all(it)).people).toMatchObject([{ email: "odette.new@post.example" }]);
    });

    test("a cancelled visit stops its ask, an unpaid no-show is not asked, a paid invoice is", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      await send(feed, event("visit.finished", visit("B1", -1), { ...odette, id: "B" }));
      await doAllDue();
      expect((await all(it)).asks).toMatchObject([{ stop: null }]);
      await send(feed, event("appointment.cancelled", { id: "B1" }, null, TUESDAY + 1000));
      await send(
        feed,
        event("visit.no_show", visit("B2", -1), { id: "B-2", name: "Jun Albrecht", email: "jun@post.example" }),
      );
      await send(
        feed,
        event(
          "invoice.paid",
          { id: "B3", service: "Check-up" },
          { id: "B-3", name: "Ines Pike", email: "ines@post.example" },
        ),
      );
      await doAllDue();
      const after = await all(it);
      expect(after.asks).toHaveLength(2);
      expect(after.asks.find(({ stop }) => stop)).toMatchObject({ stop: "visit cancelled" });
      expect(
        after.visits.map(({ externalId, outcome, kind, reason }) => [externalId, outcome, kind, reason]).sort(),
      ).toEqual([
        ["B1", "cancelled", "appointment", null],
        ["B2", "no-show", "appointment", "no-show"],
        ["B3", "finished", "invoice", null],
      ]);
    });

    test("the same event counts once, however often and however many at once", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      const same = event("visit.finished", visit("C1", -1), { ...odette, id: "C" });
      const answers = await Promise.all(Array.from({ length: 12 }, () => send(feed, same, { id: "msg_same" })));
      expect(answers.map(({ status }) => status).sort()).toEqual([...Array(11).fill(200), 202]);
      await send(feed, same);
      await doAllDue();
      expect(await all(it)).toMatchObject({ people: [{}], visits: [{}], asks: [{}], deliveries: [{}, {}] });
      expect((await all(it)).visits).toHaveLength(1);
    });

    test("signatures, replays, clocks, sizes and nonsense are refused in words, and nothing is kept", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      const good = event("visit.finished", visit("D1", -1), odette);
      const status = async (change: Sending, payload: unknown = good) => (await send(feed, payload, change)).status;
      expect(
        await status({ secret: `whsec_${Buffer.from("another secret of enough letters").toString("base64")}` }),
      ).toBe(401);
      expect(await status({ at: new Date(Date.now() - 6 * 60_000) })).toBe(401);
      expect(await status({ at: new Date(Date.now() + 6 * 60_000) })).toBe(401);
      expect(await status({ body: "not json" })).toBe(400);
      expect(await status({ body: "[".repeat(100) + "]".repeat(100) })).toBe(400);
      expect(await status({ body: '"text"' })).toBe(422);
      expect(await status({ id: "x".repeat(300) })).toBe(400);
      expect(await status({ body: JSON.stringify({ type: "x", filler: "y".repeat(300_000) }) })).toBe(413);
      const address = `${harness.env.APP_URL}/hooks/feeds`;
      expect((await fetch(`${address}/${feed.id}`, { method: "POST", body: "{}" })).status).toBe(401);
      expect((await fetch(`${address}/${randomUUID()}`, { method: "POST", body: "{}" })).status).toBe(404);
      expect((await fetch(`${address}/nonsense`, { method: "POST", body: "{}" })).status).toBe(404);
      expect((await all(it)).deliveries).toEqual([]);
      expect(await status({ at: new Date(Date.now() - 4 * 60_000) })).toBe(202);
    });

    test("texts that no database can hold are kept as well as they can be", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      expect(
        (
          await send(feed, null, {
            body: '{"type":"visit.finished","data":{"person":{"name":"Od\\u0000ette \\ud800","email":"odd@post.example"},"visit":{"id":"E1"}}}',
          })
        ).status,
      ).toBe(202);
      await doAllDue();
      expect(await all(it)).toMatchObject({ people: [{ email: "odd@post.example" }], visits: [{ externalId: "E1" }] });
    });

    test("events in any order end in the same state", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      const three = (id: string) => [
        event("visit.booked", visit(id, -1), { ...odette, id }, TUESDAY - 5 * HOUR),
        event("visit.updated", { ...visit(id, -1), about: "Otto" }, { ...odette, id }, TUESDAY - 4 * HOUR),
        event("visit.cancelled", visit(id, -1), { ...odette, id }, TUESDAY - 3 * HOUR),
      ];
      let n = 0;
      await fc.assert(
        fc.asyncProperty(fc.shuffledSubarray([0, 1, 2], { minLength: 3 }), async (order) => {
          const id = `F${n++}`;
          for (const index of order) {
            await send(feed, three(id)[index]);
            await processInboundEvents();
          }
          const found = (await all(it)).visits.filter(({ externalId }) => externalId === id);
          expect(found.map(({ outcome }) => outcome)).toEqual(["cancelled"]);
        }),
        { numRuns: size(8, 200), seed: 30 },
      );
    });

    test("an event that overtakes the one it depends on waits for it", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      await send(feed, event("visit.cancelled", { id: "G1" }, null, TUESDAY));
      await processInboundEvents();
      expect((await all(it)).deliveries).toMatchObject([{ state: "waiting", tries: 1 }]);
      await send(feed, event("visit.finished", visit("G1", -1), odette, TUESDAY - HOUR));
      await processInboundEvents();
      await harness.owner.query("update inbound_events set claimed_until = null");
      await processInboundEvents();
      expect((await all(it)).visits).toMatchObject([{ externalId: "G1", outcome: "cancelled" }]);
    });

    test("what fails says why and can be tried again after mending the mapping", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      await send(feed, { kind: "done", who: { mail: "odette@post.example", called: "Odette Marsh" }, no: "H1" });
      await send(feed, event("visit.finished", visit("H2", -1), { name: "Nobody", phone: "12" }));
      await doAllDue();
      expect(
        (await all(it)).deliveries.map(({ state, result }) => [
          state,
          result && eventSentence(result, "Europe/London", TUESDAY),
        ]),
      ).toEqual([
        ["ignored", "The delivery doesn’t say which event it is."],
        ["failed", "“12” isn’t a phone number."],
      ]);
      await withClient(it.scope, (tx) =>
        changeFeed(
          tx,
          it.scope,
          "Maud",
          feed,
          {
            mapping: {
              type: "kind",
              at: null,
              fields: { email: "who.mail", "full name": "who.called", "visit number": "no" },
              types: { done: "visit finished" },
            },
          },
          TUESDAY,
        ),
      );
      await send(feed, { kind: "done", who: { mail: "odette@post.example", called: "Odette Marsh" }, no: "H1" });
      await doAllDue();
      expect((await all(it)).visits).toMatchObject([{ externalId: "H1", outcome: "finished" }]);
      expect(await withClient(it.scope, (tx) => retryInboundEvent(tx, it.scope, feed.id, null))).toBe(1);
    });

    test("a renewed secret and a feed that is turned off count at once", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      expect((await send(feed, event("visit.booked", visit("I1", 1), odette))).status).toBe(202);
      await withClient(it.scope, (tx) => renewFeed(tx, it.scope, "Maud", feed, TUESDAY));
      const renewed = await withClient(it.scope, (tx) => findFeed(tx, it.scope, feed.id));
      if (!renewed) throw new Error("gone");
      await new Promise((next) => setTimeout(next, 60));
      expect((await send(renewed, event("visit.booked", visit("I2", 1), odette))).status).toBe(202);
      expect((await send(feed, event("visit.booked", visit("I3", 1), odette))).status).toBe(401);
      await withClient(it.scope, (tx) => changeFeed(tx, it.scope, "Maud", renewed, { state: "off" }, TUESDAY));
      // Kept by nobody, even while the answer may still be the remembered one.
      await send(renewed, event("visit.booked", visit("I4", 1), odette));
      expect((await all(it)).deliveries).toHaveLength(2);
    });

    test("a thousand deliveries at once: each is kept and worked on once", async () => {
      const it = await scene();
      const feed = await feedOf(it, "webhook");
      const one = (n: number) =>
        event(
          "visit.finished",
          { ...visit(`K${n}`, -1), about: null },
          { id: `K${n % 200}`, name: `Given${n % 200} Family${n % 200}`, email: `k${n % 200}@post.example` },
        );
      const statuses: number[] = [];
      const queue = Array.from({ length: 1000 }, (_, n) => n);
      const lane = async () => {
        for (let n = queue.pop(); n !== undefined; n = queue.pop()) statuses.push((await send(feed, one(n))).status);
      };
      await Promise.all(Array.from({ length: 50 }, lane));
      expect(statuses.filter((status) => status === 202)).toHaveLength(1000);
      await Promise.all([processInboundEvents(), processInboundEvents()]);
      await processInboundEvents();
      const after = await all(it);
      expect(after.deliveries.every(({ state }) => state === "done")).toBe(true);
      expect([after.people.length, after.visits.length]).toEqual([200, 1000]);
    });
  });

  const ics = (...events: string[]) =>
    [
      "BEGIN:VCALENDAR",
      "VERSION:2.0",
      "PRODID:-//t",
      ...events.map((lines) => `BEGIN:VEVENT\n${lines}\nEND:VEVENT`),
      "END:VCALENDAR",
    ]
      .join("\n")
      .replaceAll("\n", "\r\n");

  describe("a calendar", () => {
    test("events become visits once; moved, cancelled and removed ones follow", async () => {
      const it = await scene();
      const feed = await feedOf(it, "calendar");
      const one = (id: string, hour: string, extra = "") =>
        `UID:${id}\nDTSTART:20261125T${hour}0000Z\nDTEND:20261125T${hour}3000Z\nSUMMARY:Check-up: Odette ${id}\nDESCRIPTION:Email: ${id}@post.example${extra}`;
      const take = async (text: string, now = TUESDAY) => {
        const fresh = await withClient(it.scope, (tx) => findFeed(tx, it.scope, feed.id));
        return takeCalendar(it.scope, fresh ?? feed, text, now);
      };
      expect(await take(ics(one("a", "10"), one("b", "11"), one("c", "12")))).toMatchObject({
        ...{ code: "calendar read", events: 3, added: 3, changed: 0, isWhole: true },
      });
      expect(await take(ics(one("a", "10"), one("b", "11"), one("c", "12")))).toMatchObject({ added: 0 });
      expect(await take(ics(one("a", "15"), one("b", "11", "\nSTATUS:CANCELLED")))).toMatchObject({ gone: 1 });
      const after = await all(it);
      expect(
        after.visits.map(({ outcome, endsAt }) => [outcome, new Date(endsAt).toISOString().slice(11, 16)]).sort(),
      ).toEqual([
        ["booked", "15:30"],
        ["cancelled", "11:30"],
        ["cancelled", "12:30"],
      ]);
      expect(after.people).toHaveLength(3);
    });

    test("it is fetched with conditional requests, and the appointment book's own calendar brings its visits", async () => {
      const it = await scene();
      const book = {
        slug: it.client.slug,
        name: "Book",
        services: ["Check-up"],
        branches: ["Fenwick"],
        staff: ["Dr Hale"],
        about: null,
      };
      harness.town.daybook.open(book);
      harness.town.daybook.load([
        {
          id: "L1",
          book: book.slug,
          customer: { id: "1", name: "Jun Albrecht", phone: "+447700900321", email: null },
          service: "Check-up",
          branch: "Fenwick",
          staff: "Dr Hale",
          about: null,
          startsAt: TUESDAY + HOUR,
          endsAt: TUESDAY + 2 * HOUR,
          status: "booked",
          changedAt: TUESDAY,
        },
      ]);
      const feed = await feedOf(it, "calendar", `${harness.daybookUrl}/book/${book.slug}/calendar.ics`);
      await fetchFeed({ clientId: it.client.id, feedId: feed.id });
      const seen = async () => withClient(it.scope, (tx) => findFeed(tx, it.scope, feed.id));
      expect(await seen()).toMatchObject({ problem: null, report: { code: "calendar read", added: 1 } });
      await fetchFeed({ clientId: it.client.id, feedId: feed.id });
      expect(await seen()).toMatchObject({ report: { code: "nothing new" } });
      harness.town.daybook.change("L1", "cancelled");
      await fetchFeed({ clientId: it.client.id, feedId: feed.id });
      expect((await all(it)).visits).toMatchObject([{ outcome: "cancelled" }]);
      expect((await withClient(it.scope, loadSetting)).services).toHaveLength(2);
    });

    test.each([
      ["an address inside a private network", "http://10.1.2.3/calendar.ics"],
      ["nobody there", "http://127.0.0.1:1/x.ics"],
    ])("%s is said beside the feed", async (_name, url) => {
      const it = await scene();
      const feed = await feedOf(it, "calendar", url);
      await fetchFeed({ clientId: it.client.id, feedId: feed.id });
      expect(await withClient(it.scope, (tx) => findFeed(tx, it.scope, feed.id))).toMatchObject({
        problem: { code: "private network" },
      });
    });

    test("what is no calendar, or not there, is said too, and tried again when its turn comes", async () => {
      const it = await scene();
      const feed = await feedOf(it, "calendar", `${harness.daybookUrl}/`);
      await fetchDue(TUESDAY);
      const seen = await withClient(it.scope, (tx) => findFeed(tx, it.scope, feed.id));
      expect(seen).toMatchObject({
        problem: { code: "not a calendar" },
        pollAt: TUESDAY + 30 * 60_000,
      });
      const gone = await feedOf(it, "calendar", `${harness.daybookUrl}/nothing-here`);
      await fetchFeed({ clientId: it.client.id, feedId: gone.id });
      expect(await withClient(it.scope, (tx) => findFeed(tx, it.scope, gone.id))).toMatchObject({
        problem: { code: "answered", status: 404 },
      });
    });
  });

  test("an end-of-day file is fetched, kept and asked about; fetched again it adds nothing", async () => {
    const it = await scene();
    const slug = it.client.slug;
    harness.town.daybook.open({
      slug,
      name: "Jobs",
      services: ["Check-up"],
      branches: ["Fenwick"],
      staff: ["Dr Hale"],
      about: null,
    });
    harness.town.daybook.load(
      ["M1", "M2"].map((id, index) => ({
        id,
        book: slug,
        customer: { id, name: `Given${index} Family`, phone: `+44770090033${index}`, email: null },
        service: "Check-up",
        branch: "Fenwick",
        staff: "Dr Hale",
        about: null,
        startsAt: TUESDAY - 3 * HOUR,
        endsAt: TUESDAY - 2 * HOUR,
        status: index === 0 ? ("finished" as const) : ("missed" as const),
        changedAt: TUESDAY,
      })),
    );
    const feed = await feedOf(it, "end of day", `${harness.daybookUrl}/book/${slug}/end-of-day.csv`);
    await fetchFeed({ clientId: it.client.id, feedId: feed.id });
    await doAllDue();
    const after = await all(it);
    expect(after.visits.map(({ outcome, decision, source }) => [outcome, decision, source]).sort()).toEqual([
      ["finished", "asked", "end of day"],
      ["no-show", "left out", "end of day"],
    ]);
    await withClient(it.scope, (tx) => changeFeed(tx, it.scope, "Maud", feed, { url: `${feed.url}?again` }, TUESDAY));
    await fetchFeed({ clientId: it.client.id, feedId: feed.id });
    expect((await all(it)).visits).toHaveLength(2);
  });

  describe("the drop-off page", () => {
    const open = (feed: Feed, init?: RequestInit) =>
      fetch(`${harness.env.APP_URL}/d/${feed.token}`, { redirect: "manual", ...init });
    const add = (feed: Feed, fields: Record<string, string>) =>
      open(feed, { method: "POST", body: new URLSearchParams(fields) });
    const leave = (feed: Feed, text: string, name = "week.csv") => {
      const form = new FormData();
      form.set("file", new File([text], name));
      return open(feed, { method: "POST", body: form });
    };

    test("adds one person in three fields, and says the same whether they are known or not", async () => {
      const it = await scene();
      const feed = await feedOf(it, "drop-off");
      const one = { name: "Odette Marsh", reach: "07700 900777", service: it.client.serviceId };
      const first = await add(feed, one);
      const second = await add(feed, one);
      expect([first.status, first.headers.get("location")]).toEqual([303, `/d/${feed.token}?added=asked`]);
      expect(second.headers.get("location")).toBe(first.headers.get("location"));
      await doAllDue();
      expect(await all(it)).toMatchObject({ people: [{ phone: "+447700900777" }], asks: [{}] });
      // Whoever is added twice was here once.
      const { rows } = await harness.owner.query("select count(*)::int as n from visits where client_id = $1", [
        it.client.id,
      ]);
      expect(rows[0].n).toBe(1);
    });

    test("what it says will happen is what happens, by what was typed alone", async () => {
      const it = await scene();
      const feed = await feedOf(it, "drop-off");
      const said = async (answer: Response) =>
        (await fetch(new URL(answer.headers.get("location") ?? "", harness.env.APP_URL))).text();
      const landline = await said(
        await add(feed, { name: "Tom Marsh", reach: "020 7946 0958", service: it.client.serviceId }),
      );
      expect(landline).toContain("we won’t ask them");
      expect(landline).not.toContain("We’ll ask them how it went at a good time, unless");
      // Somebody who rests is told of as anybody else: nothing of whoever is here already shows.
      const known = await it.addPerson({ given: "Una", family: "Dearing", email: "una@post.example", phone: null });
      await harness.owner.query("update people set rest_until = now() + interval '1 year' where id = $1", [known.id]);
      const resting = await said(
        await add(feed, { name: "Una Dearing", reach: "una@post.example", service: it.client.serviceId }),
      );
      const fresh = await said(
        await add(feed, { name: "Noor Dearing", reach: "noor@post.example", service: it.client.serviceId }),
      );
      expect(/role="status"[^>]*>([^<]+)/.exec(resting)?.[1]).toBe(/role="status"[^>]*>([^<]+)/.exec(fresh)?.[1]);
      await doAllDue();
      const { rows } = await harness.owner.query(
        "select p.given, v.decision from visits v join people p on p.id = v.person_id where v.client_id = $1 order by 1",
        [it.client.id],
      );
      expect(rows).toEqual([
        { given: "Noor", decision: "asked" },
        { given: "Tom", decision: "left out" },
        { given: "Una", decision: "left out" },
      ]);
    });

    test("each row of a list is told of by its row in the spreadsheet, with what happens to it", async () => {
      const it = await scene();
      const feed = await feedOf(it, "drop-off");
      const answer = await leave(
        feed,
        "Clients of the week\n\nName,Phone,Visit date\nOdette Marsh,07700 900771,24/11/2026\n\nTom Vale,020 7946 0958,24/11/2026\nUna Reed,07700 900772,02/06/2026\nNobody,wrong,24/11/2026\n",
      );
      const page = await (await fetch(new URL(answer.headers.get("location") ?? "", harness.env.APP_URL))).text();
      const text = page.replace(/<[^>]+>/g, " ").replace(/\s+/g, " ");
      expect(text).toMatch(/Asked at a good time[^(]*\( ?row ?4 ?\)/);
      expect(text).toMatch(/Not asked: [^(]*\( ?row ?6 ?\)/);
      expect(text).toMatch(/Not asked: [^(]*\( ?row ?7 ?\)/);
      expect(text).toContain("Row 8:");
    });

    test("wrong input is said beside what was typed, and nothing is kept", async () => {
      const it = await scene();
      const feed = await feedOf(it, "drop-off");
      for (const fields of [
        { name: "", reach: "07700 900777" },
        { name: "Odette", reach: "12" },
        { name: "Odette", reach: "" },
        { name: "x".repeat(400), reach: "nonsense@" },
      ] as Record<string, string>[]) {
        const answer = await add(feed, fields);
        expect(answer.status).toBe(422);
        expect(await answer.text()).toContain('role="alert"');
      }
      expect((await all(it)).people).toEqual([]);
    });

    test("a list is taken in, what could not be used is told, and nothing of anyone already here", async () => {
      const it = await scene();
      await it.addPerson({ given: "Secret", family: "Someone", email: "known@post.example", phone: null });
      const feed = await feedOf(it, "drop-off");
      const answer = await leave(
        feed,
        "Name,Email\nOther Name,known@post.example\nJun Albrecht,jun@post.example\nNobody,wrong\n",
      );
      const place = answer.headers.get("location") ?? "";
      expect([answer.status, place]).toEqual([303, expect.stringMatching(/\?list=/)]);
      const page = await (await fetch(`${harness.env.APP_URL}${place}`)).text();
      expect(page).toContain("Two rows added");
      expect(page).toContain("Row 4:");
      expect(page).not.toMatch(/Secret|Somebody|known/);
      expect(await withClient(it.scope, (tx) => tx.select({ state: intakes.state }).from(intakes))).toEqual([
        { state: "imported" },
      ]);
    });

    test("a link that is limited to a branch brings visits for no other", async () => {
      const it = await scene();
      const second = newId();
      await withClient(it.scope, (tx) =>
        tx.insert(branches).values({
          id: second,
          clientId: it.client.id,
          name: "Old Mill",
          zone: "Europe/London",
          address: "The Mill",
          position: 2,
        }),
      );
      const feed = await withClient(it.scope, (tx) =>
        addFeed(
          tx,
          it.scope,
          "Maud",
          { kind: "drop-off", name: "Mill", url: "", branchId: second, serviceId: it.client.serviceId },
          TUESDAY,
        ),
      );
      await leave(
        feed,
        "Name,Email,Date,Branch\nJun,jun@post.example,24/11/2026,Fenwick\nInes,ines@post.example,24/11/2026,\n",
      );
      await add(feed, { name: "Kofi", reach: "kofi@post.example", service: it.client.serviceId });
      expect((await all(it)).visits.map(({ branchId, serviceId }) => [branchId, serviceId])).toEqual(
        Array(3).fill([second, it.client.serviceId]),
      );
    });

    test("a list with a question waits for somebody who may sign in", async () => {
      const it = await scene();
      const feed = await feedOf(it, "drop-off");
      const place = (await leave(feed, "Name,Email,Date\nJun Albrecht,jun@post.example,05/11/2026\n")).headers.get(
        "location",
      );
      expect(await (await fetch(`${harness.env.APP_URL}${place}`)).text()).toContain("Someone will check it first");
      expect((await all(it)).people).toEqual([]);
    });

    test("an old, wrong or foreign link leads nowhere; so does another page's list", async () => {
      const it = await scene();
      const [feed, other] = [await feedOf(it, "drop-off"), await feedOf(it, "drop-off")];
      const place = (await leave(feed, "Name,Email\nJun,jun@post.example\n")).headers.get("location") ?? "";
      expect((await open({ ...feed, token: other.token } as Feed)).status).toBe(200);
      expect((await fetch(`${harness.env.APP_URL}/d/${other.token}${place.slice(place.indexOf("?"))}`)).status).toBe(
        404,
      );
      await withClient(it.scope, (tx) => renewFeed(tx, it.scope, "Maud", feed, TUESDAY));
      for (const token of [feed.token, "x", "a".repeat(22), "../../etc", "%00"])
        expect((await fetch(`${harness.env.APP_URL}/d/${token}`)).status).toBe(404);
      expect((await leave({ ...feed } as Feed, "Name,Email\nA,a@post.example\n")).status).toBe(404);
    });

    test("a broken upload, an empty one and one that is no list are refused in words", async () => {
      const it = await scene();
      const feed = await feedOf(it, "drop-off");
      expect(
        (
          await open(feed, {
            method: "POST",
            body: "garbage",
            headers: { "content-type": "multipart/form-data; boundary=x" },
          })
        ).status,
      ).toBe(400);
      expect((await leave(feed, "")).status).toBe(422);
      const place = (await leave(feed, "%PDF-1.4", "x.pdf")).headers.get("location");
      expect(await (await fetch(`${harness.env.APP_URL}${place}`)).text()).toContain("This is a PDF");
    });
  });
});
