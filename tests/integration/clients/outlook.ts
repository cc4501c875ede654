import { sql } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { addFeed } from "@/features/intake";
import { receiveTextAt } from "@/features/messaging";
import {
  claimOutlooks,
  claimSummaries,
  listOutlooks,
  loadStartMargin,
  mailSummary,
  type OutlookFilter,
  refreshOutlook,
  setSummaryReader,
} from "@/features/outlook";
import { withAgency, withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { type Harness, startHarness } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** How an agency sees its clients: what each needs somebody for, worked out from its own rows. */
describe("outlook", () => {
  const HOUR = 3_600_000;
  const DAY = 24 * HOUR;
  const ALL: OutlookFilter = { q: "", group: null, by: null, only: null };

  let harness: Harness;
  let agencyId: string;

  beforeAll(async () => {
    harness = await startHarness("outlook");
  });
  afterAll(() => harness.stop());

  /** A client whose first ask went out a hundred days ago. */
  async function scene(): Promise<Scene> {
    const it = new Scene(harness, await harness.addClient());
    await it.moveTo(TUESDAY);
    const { id: personId } = await it.addPerson({}, TUESDAY - 100 * DAY);
    await harness.owner.query(
      `with v as (insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at)
         values (gen_random_uuid(), $1, $2, $3, $4, $6, 'finished', 'by hand', $6) returning id)
       insert into asks (id, client_id, plan_id, person_id, visit_id, branch_id, token, anchor_at, created_at, last_sent_at)
       select gen_random_uuid(), $1, $5, $2, id, $3, replace(id::text, '-', ''), $6, $6, $6 from v`,
      [
        it.client.id,
        personId,
        it.client.branchId,
        it.client.serviceId,
        it.client.planId,
        new Date(TUESDAY - 100 * DAY),
      ],
    );
    const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [it.client.id]);
    agencyId = rows[0].agency_id;
    return it;
  }

  const feedOf = (it: Scene) =>
    withClient(it.scope, (tx) =>
      addFeed(tx, it.scope, "Maud", { kind: "webhook", name: "The book", url: "", branchId: null, serviceId: null }, 0),
    );

  /** Visits that a feed brought, each at an instant. */
  async function arrive(it: Scene, feedId: string, instants: number[]): Promise<void> {
    const { id: personId } = await it.addPerson({}, TUESDAY - 100 * DAY);
    await harness.owner.query(
      `insert into visits (id, client_id, person_id, branch_id, service_id, ends_at, outcome, source, created_at, feed_id, decision)
     select gen_random_uuid(), $1, $2, $3, $4, t, 'finished', 'webhook', t, $5, 'left out' from unnest($6::timestamptz[]) t`,
      [it.client.id, personId, it.client.branchId, it.client.serviceId, feedId, instants.map((at) => new Date(at))],
    );
  }

  /** Nine o'clock to five on weekdays, every half hour, from so many days before the test's Tuesday until an instant. */
  function working(until: number): number[] {
    const found: number[] = [];
    for (let at = TUESDAY - 60 * DAY; at < until; at += HOUR / 2) {
      const date = new Date(at);
      if (date.getUTCDay() % 6 !== 0 && date.getUTCHours() >= 9 && date.getUTCHours() < 17) found.push(at);
    }
    return found;
  }

  async function needsOf(it: Scene) {
    await refreshOutlook(it.client.id);
    const all = await withAgency({ agencyId }, (tx) => listOutlooks(tx, { agencyId }, ALL));
    return all.find(({ id }) => id === it.client.id)?.needs ?? [];
  }

  test("a feed that brings what it usually does needs nobody; silent for longer than usual it does, and says what is usual", async () => {
    const it = await scene();
    const feed = await feedOf(it);
    await arrive(it, feed.id, working(TUESDAY - HOUR));
    expect(await needsOf(it)).toEqual([]);
    await harness.owner.query("delete from visits where client_id = $1 and ends_at > $2", [
      it.client.id,
      new Date(TUESDAY - 2 * DAY),
    ]);
    expect(await needsOf(it)).toEqual([
      {
        code: "feed silent",
        feed: "The book",
        feedId: feed.id,
        since: expect.any(Number),
        usual: { weekday: 1, low: expect.any(Number), high: expect.any(Number) },
      },
    ]);
    // Turned off, or too young to have anything usual, it is not missed.
    await harness.owner.query("update feeds set state = 'off' where id = $1", [feed.id]);
    expect(await needsOf(it)).toEqual([]);
  });

  /** Messages of the client's first ask that went out, or (`sent` false) are due. */
  async function messages(it: Scene, instants: number[], sent = true): Promise<void> {
    await harness.owner.query(
      `insert into messages (id, client_id, ask_id, person_id, channel, direction, state, due_at, sent_at, created_at)
       select gen_random_uuid(), $1, a.id, a.person_id, 'email', 'out', $3, t, case when $4 then t end, t
       from unnest($2::timestamptz[]) t, (select id, person_id from asks where client_id = $1 limit 1) a`,
      [it.client.id, instants.map((at) => new Date(at)), sent ? "sent" : "planned", sent],
    );
  }

  test("messages that leave together at ten are not missed at eleven, nor where none is due; but they are when due and not sent", async () => {
    const it = await scene();
    const days = Array.from({ length: 60 }, (_, n) => TUESDAY - n * DAY).filter(
      (at) => new Date(at).getUTCDay() % 6 !== 0,
    );
    const tenOf = (at: number) => Math.floor(at / DAY) * DAY + 10 * HOUR;
    await messages(
      it,
      days
        .filter((at) => tenOf(at) < TUESDAY)
        .flatMap((at) => Array.from({ length: 20 }, (_, n) => tenOf(at) + n * 9000)),
    );
    const codes = async () => (await needsOf(it)).map(({ code }) => code);
    await it.moveTo(tenOf(TUESDAY) + HOUR);
    const today = tenOf(TUESDAY) + 60_000;
    await messages(it, [today]);
    expect(await codes()).not.toContain("nothing sent");
    // The day after, nothing is due: nothing is missing.
    await it.moveTo(tenOf(TUESDAY) + DAY + 8 * HOUR);
    expect(await codes()).not.toContain("nothing sent");
    await messages(it, [tenOf(TUESDAY) + DAY], false);
    expect(await codes()).toContain("nothing sent");
  });

  test("unhappy customers who wait too long come first, then what stands still, each with its numbers", async () => {
    const it = await scene();
    const feed = await feedOf(it);
    await harness.owner.query("update feeds set problem = $2 where id = $1", [
      feed.id,
      { code: "answered", status: 500 },
    ]);
    await harness.owner.query("update listings set collect_error = $2 where client_id = $1", [
      it.client.id,
      { code: "key refused" },
    ]);
    await harness.owner.query("update plans set state = 'paused', paused_why = $2 where id = $1", [
      it.client.planId,
      { code: "not recorded" },
    ]);
    await harness.owner.query("update clients set texts_a_month = 10 where id = $1", [it.client.id]);
    await harness.owner.query(
      "insert into senders (client_id, channel, month, messages, used) values ($1, 'text', '2026-11', 10, 10)",
      [it.client.id],
    );
    await harness.owner.query(
      `with a as (insert into answers (id, client_id, branch_id, origin, given_at, rating)
       select gen_random_uuid(), $1, $2, 'website', $3, 1 from generate_series(1, 3) returning id)
     insert into concerns (id, client_id, branch_id, answer_id, words, state, opened_at, answer_by)
       select gen_random_uuid(), $1, $2, id, 'x', 'new', $3, $3 from a`,
      [it.client.id, it.client.branchId, new Date(TUESDAY - DAY)],
    );
    expect((await needsOf(it)).map(({ code }) => code)).toEqual([
      "unhappy overdue",
      "plan paused",
      "feed unreadable",
      "site unreadable",
      "allowance used up",
    ]);
    expect((await needsOf(it))[0]).toEqual({ code: "unhappy overdue", count: 3, since: TUESDAY - DAY });
  });

  test("a customer's message that waits longer than promised, in office hours, needs somebody until it is set aside", async () => {
    const it = await scene();
    const person = await it.addPerson();
    const { rows } = await harness.owner.query("select text_number, answer_within_hours from clients where id = $1", [
      it.client.id,
    ]);
    const [{ text_number: to, answer_within_hours: hours }] = rows;
    await receiveTextAt(it.client.id, {
      id: "t1",
      from: person.phone ?? "",
      to,
      body: "Is Saturday open?",
      pictures: [],
    });
    const waits = (since: number) =>
      harness.owner.query("update conversations set waiting_since = $2 where client_id = $1", [
        it.client.id,
        new Date(since),
      ]);
    await waits(TUESDAY - (hours - 1) * HOUR);
    expect(await needsOf(it)).toEqual([]);
    // Since four in the afternoon of the day before: the night does not count.
    const four = Date.UTC(2026, 10, 23, 16);
    await waits(four);
    const over = (await needsOf(it)).filter(({ code }) => code === "message overdue");
    expect(over).toEqual([{ code: "message overdue", count: 1, since: four + 14 * HOUR + hours * HOUR }]);
    await harness.owner.query("update conversations set aside_until = $2 where client_id = $1", [
      it.client.id,
      new Date(TUESDAY + DAY),
    ]);
    expect(await needsOf(it)).toEqual([]);
  });

  test("the list is the agency's own, searched, narrowed and in order; each is claimed once", async () => {
    const [one, other] = [await scene(), await scene()];
    await needsOf(one);
    await harness.owner.query("update plans set state = 'paused', paused_why = $2 where id = $1", [
      other.client.planId,
      { code: "not recorded" },
    ]);
    await needsOf(other);
    const list = (filter: Partial<OutlookFilter>) =>
      withAgency({ agencyId }, (tx) => listOutlooks(tx, { agencyId }, { ...ALL, ...filter }));
    const found = (await list({})).map(({ id }) => id);
    expect(found.indexOf(other.client.id)).toBeLessThan(found.indexOf(one.client.id));
    expect((await list({ only: "well" })).map(({ id }) => id)).not.toContain(other.client.id);
    expect((await list({ only: "needs" })).map(({ id }) => id)).not.toContain(one.client.id);
    const { rows } = await harness.owner.query("select name from clients where id = $1", [one.client.id]);
    expect((await list({ q: rows[0].name.toUpperCase() })).map(({ id }) => id)).toEqual([one.client.id]);
    const elsewhere = newId();
    await harness.owner.query("insert into agencies (id, name) values ($1, 'Elsewhere')", [elsewhere]);
    expect(await withAgency({ agencyId: elsewhere }, (tx) => listOutlooks(tx, { agencyId: elsewhere }, ALL))).toEqual(
      [],
    );
    expect((await withAgency({ agencyId: elsewhere }, (tx) => tx.execute(sql`select * from outlooks`))).rows).toEqual(
      [],
    );
    // What was just worked out is left; five minutes later each is claimed by one of two.
    expect((await claimOutlooks(TUESDAY + 1)).map(({ clientId }) => clientId)).not.toContain(one.client.id);
    const [a, b] = await Promise.all([claimOutlooks(TUESDAY + 6 * 60_000), claimOutlooks(TUESDAY + 6 * 60_000)]);
    const claimed = [...a, ...b].map(({ clientId }) => clientId);
    expect(claimed).toEqual(expect.arrayContaining([one.client.id, other.client.id]));
    expect(new Set(claimed).size).toBe(claimed.length);
  });

  test("whoever wants it gets one mail each morning of who needs them, once, and only with a seat there", async () => {
    const it = await scene();
    const scope = { agencyId };
    await harness.owner.query(
      "insert into users (id, name, email) values ('iris', 'Iris Vane', 'iris@agency.example'), ('gone', 'Gone', 'gone@agency.example')",
    );
    await harness.owner.query(
      "insert into seats (id, user_id, agency_id, role) values (gen_random_uuid(), 'iris', $1, 'agency')",
      [agencyId],
    );
    for (const userId of ["iris", "gone"]) await withAgency(scope, (tx) => setSummaryReader(tx, scope, userId, true));
    await harness.owner.query("update clients set paused_at = $2, paused_why = 'a flood' where id = $1", [
      it.client.id,
      new Date(TUESDAY - HOUR),
    ]);
    await refreshOutlook(it.client.id);
    const at = (hour: number, day = 24) => Date.UTC(2026, 10, day, hour);
    expect(await claimSummaries(at(6))).toEqual([]);
    // Of two workers at once one claims it.
    const both = (await Promise.all([claimSummaries(at(7)), claimSummaries(at(7))])).flat();
    expect(both).toEqual([{ agencyId, userId: "iris", day: "2026-11-24" }]);
    expect(await claimSummaries(at(15))).toEqual([]);
    await it.moveTo(at(7));
    await mailSummary(both[0]);
    // Handed over once more after a worker was killed, it is the same mail to a mail server.
    await mailSummary(both[0]);
    const mails = [...harness.town.mail.mails.values()].filter(({ raw }) => raw.includes("iris@agency.example"));
    expect(mails).toHaveLength(1);
    const { subject, text } = await simpleParser(mails[0].raw);
    expect(subject).toMatch(/clients? needs? you$/);
    expect(text).toContain("Good morning Iris");
    expect(text).toContain(`/c/${it.client.slug}/`);
    await withAgency(scope, (tx) => setSummaryReader(tx, scope, "iris", false));
    expect(await claimSummaries(at(7, 25))).toEqual([]);
  });

  test("beside its clients the start page tells what is under way at the agency, and nothing of another's", async () => {
    const it = await scene();
    const scope = { agencyId };
    const other = newId();
    await harness.owner.query("insert into agencies (id, name) values ($1, 'Other')", [other]);
    for (const owner of [agencyId, other]) {
      await harness.owner.query(
        "insert into client_groups (id, agency_id, name) values (gen_random_uuid(), $1, 'West')",
        [owner],
      );
      await harness.owner.query(
        "insert into client_drafts (id, agency_id, values, by, updated_at) values (gen_random_uuid(), $1, '{\"name\": \"Osprey\"}', 'Iris', now())",
        [owner],
      );
    }
    await harness.owner.query("update clients set archived_at = now() where id = $1", [it.client.id]);
    await harness.owner.query(
      `insert into handovers (id, agency_id, to_agency_id, about_client, from_name, client_name, by, at)
     values (gen_random_uuid(), $1, $2, $3, 'Other', 'Offered Ltd', 'Eve', now()), (gen_random_uuid(), $2, $1, $4, 'Ours', 'Given Ltd', 'Iris', now())`,
      [other, agencyId, newId(), newId()],
    );
    const margin = await withAgency(scope, (tx) => loadStartMargin(tx, scope, "nobody"));
    expect(margin.groups.map(({ name }) => name)).toEqual(["West"]);
    expect(margin.drafts.map(({ name }) => name)).toEqual(["Osprey"]);
    expect(margin.archived.map(({ id }) => id)).toEqual([it.client.id]);
    expect(margin.offered).toMatchObject([{ fromName: "Other", clientName: "Offered Ltd", by: "Eve" }]);
    expect(margin.reads).toBe(false);
  });

  test("a client that was just started needs what is left before its first ask, and says so instead of “running”", async () => {
    const it = new Scene(harness, await harness.addClient());
    await it.moveTo(TUESDAY);
    const first = async () => (await needsOf(it)).map((need) => (need.code === "first steps" ? need.left : need.code));
    const [left] = await first();
    expect(left).toBeGreaterThan(1);
    await harness.owner.query("update listings set looked_at = $2, problem = null where client_id = $1", [
      it.client.id,
      new Date(TUESDAY),
    ]);
    await arrive(it, (await feedOf(it)).id, [TUESDAY - HOUR]);
    expect(await first()).toEqual([Number(left) - 2]);
    await harness.owner.query("update plans set state = 'paused' where id = $1", [it.client.planId]);
    expect(await first()).toEqual([Number(left) - 1]);
  });
});
