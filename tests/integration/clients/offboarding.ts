import { sql } from "drizzle-orm";
import { simpleParser } from "mailparser";
import { permissionsOf } from "@/core/access/permissions";
import { DATA_DAYS, LINK_DAYS } from "@/core/offboarding/retention";
import { readClientFile } from "@/core/onboarding/clientFile";
import { PLAIN_LOOK } from "@/core/words/look";
import { addSeat, roleOf, saveRole, WHOLE_AGENCY } from "@/features/accounts";
import { makeKey, SCOPES } from "@/features/api";
import { addFeed, assignName, changeFeed, listFeeds } from "@/features/intake";
import {
  acceptHandover,
  archiveClient,
  beginDeletion,
  claimDeletions,
  deleteClient,
  endHandover,
  listArchived,
  listHandovers,
  offerClient,
  takeBack,
} from "@/features/offboarding";
import { exportClient, startClient } from "@/features/onboarding";
import { saveView } from "@/features/people";
import { rowsOf, type Tx, withAgency, withClient, workFor } from "@/platform/database";
import { newId } from "@/schema/columns";
import { doAllDue } from "@/worker/due";
import { fillClient } from "../../support/filled";
import { type Harness, startHarness, type TestClient } from "../../support/harness";
import { Scene, TUESDAY } from "../../support/scene";

/** What becomes of a client in the end: archived, handed over, deleted; and its file, from which it begins anew. */
describe("offboarding", () => {
  const DAY = 86_400_000;
  const by = { id: "iris", name: "Iris" };
  let harness: Harness;
  let scope: { agencyId: string };
  let elsewhere: { agencyId: string };

  beforeAll(async () => {
    harness = await startHarness("offboarding");
    const client = await harness.addClient();
    scope = { agencyId: await agencyOf(client) };
    elsewhere = { agencyId: newId() };
    await harness.owner.query("insert into agencies (id, name, slug) values ($1, 'Elsewhere', 'elsewhere')", [
      elsewhere.agencyId,
    ]);
    await harness.owner.query("insert into users (id, name, email) values ('iris', 'Iris', 'iris@agency.example')");
    await harness.owner.query("insert into users (id, name, email) values ('maud', 'Maud', 'maud@client.example')");
    await inside((tx) => addSeat(tx, scope, { userId: "iris", ...WHOLE_AGENCY, role: "agency", roleId: null }));
  });
  afterAll(() => harness.stop());

  const inside = <T>(work: (tx: Tx) => Promise<T>, as = scope) => withAgency(as, work);

  async function agencyOf(client: TestClient): Promise<string> {
    const { rows } = await harness.owner.query("select agency_id from clients where id = $1", [client.id]);
    return rows[0].agency_id;
  }

  const mayEnter = async (userId: string) =>
    (await rowsOf<{ slug: string }>(sql`select slug from estima_seats_of(${userId}) order by slug`)).map(
      ({ slug }) => slug,
    );

  /** How many rows each table has of a client. */
  async function countsOf(clientId: string): Promise<Record<string, number>> {
    const { rows } = await harness.owner.query(
      `select table_name as name from information_schema.columns where table_schema = 'public' and column_name = 'client_id'
     and not (select relispartition from pg_class where oid = table_name::regclass) order by 1`,
    );
    const counts: Record<string, number> = {};
    for (const { name } of rows) {
      const found = await harness.owner.query(`select count(*)::int as n from ${name} where client_id = $1`, [
        clientId,
      ]);
      counts[name] = found.rows[0].n;
    }
    return counts;
  }

  /** All rows of a client, as one sum for each table. */
  async function sumsOf(clientId: string): Promise<string[]> {
    const sums: string[] = [];
    for (const table of Object.keys(await countsOf(clientId))) {
      const { rows } = await harness.owner.query(
        `select md5(coalesce(string_agg(t::text, '|' order by t::text), '')) as sum from ${table} t where client_id = $1`,
        [clientId],
      );
      sums.push(`${table} ${rows[0].sum}`);
    }
    return sums;
  }

  describe("an archived client", () => {
    test("asks nobody, is entered by nobody, answers links kindly for a while; taken back it waits", async () => {
      const client = await harness.addClient();
      const it = new Scene(harness, client);
      await it.moveTo(TUESDAY);
      const { person } = await it.finishVisit();
      const feed = await withClient(it.scope, (tx) =>
        addFeed(
          tx,
          it.scope,
          "Maud",
          { kind: "webhook", name: "Book", url: "", branchId: null, serviceId: null },
          TUESDAY,
        ),
      );
      const later = await it.addPerson();
      await harness.owner.query("update visits set examine_at = now() - interval '1 day' where person_id = $1", [
        later.id,
      ]);
      const ask = await it.askOf(person.id);
      const page = () => fetch(`${harness.env.APP_URL}/a/${ask.token}`);
      expect((await page()).status).toBe(200);
      expect(await mayEnter("iris")).toContain(client.slug);
      const { stopped } = await archiveClient(scope, it.scope, by, "Test Vets", TUESDAY);
      expect(stopped).toBe(1);
      expect(await mayEnter("iris")).not.toContain(client.slug);
      expect((await inside((tx) => listArchived(tx, scope))).map(({ id }) => id)).toEqual([client.id]);
      const ended = await page();
      expect([ended.status, await ended.text()]).toEqual([
        410,
        expect.stringContaining("no longer collects feedback here"),
      ]);
      // Saying no to messages stays possible.
      expect((await fetch(`${harness.env.APP_URL}/u/${ask.token}`)).status).toBe(200);
      await it.advance(TUESDAY + 3 * DAY);
      expect((await it.messagesOf(person.id)).filter(({ state }) => state !== "stopped")).toEqual([]);
      expect((await withClient(it.scope, (tx) => listFeeds(tx, it.scope)))[0].state).toBe("off");
      await it.moveTo(TUESDAY + (LINK_DAYS + 1) * DAY);
      expect((await page()).status).toBe(404);

      await takeBack(scope, it.scope, by, "Test Vets", TUESDAY + 4 * DAY);
      expect(await mayEnter("iris")).toContain(client.slug);
      const { rows } = await harness.owner.query("select state from plans where client_id = $1", [client.id]);
      expect(rows).toEqual([{ state: "paused" }]);
      expect(feed.state).toBe("on");
      await it.moveTo(TUESDAY);
    });

    test("is deleted by itself when it was archived long enough, and not before", async () => {
      const client = await harness.addClient();
      await archiveClient(scope, workFor(client.id), by, "Test Vets", TUESDAY);
      expect(await claimDeletions(TUESDAY + (DATA_DAYS - 1) * DAY)).not.toContain(client.id);
      expect(await claimDeletions(TUESDAY + (DATA_DAYS + 1) * DAY)).toContain(client.id);
      // Claimed by one alone.
      expect(await claimDeletions(TUESDAY + (DATA_DAYS + 1) * DAY)).not.toContain(client.id);
      expect(await deleteClient(client.id, TUESDAY + (DATA_DAYS + 1) * DAY)).toBe(true);
    });
  });

  test("deleting takes everything of a client, counts it, tells it, and touches nobody else", async () => {
    const [client, other] = [await harness.addClient(), await harness.addClient()];
    await new Scene(harness, client).moveTo(TUESDAY);
    await fillClient(harness, client, TUESDAY);
    await fillClient(harness, other, TUESDAY);
    const { rows: named } = await harness.owner.query("select name from clients where id = $1", [client.id]);
    const before = await countsOf(client.id);
    expect(Object.values(before).filter((count) => count === 0)).toEqual([]);
    const others = await sumsOf(other.id);
    await inside((tx) =>
      addSeat(tx, scope, { userId: "maud", ...WHOLE_AGENCY, onlyClient: client.id, role: "manager", roleId: null }),
    );
    // What is not to be deleted is not, whoever asks the worker.
    expect(await deleteClient(other.id, TUESDAY)).toBe(false);
    expect(await beginDeletion(scope, workFor(client.id), by, "Test Vets", TUESDAY)).toBe(true);
    expect(await beginDeletion(scope, workFor(client.id), by, "Test Vets", TUESDAY)).toBe(false);
    expect(await mayEnter("maud")).toEqual([]);
    // A worker that is told to stop leaves off; another goes on.
    const stop = new AbortController();
    stop.abort();
    expect(await deleteClient(client.id, TUESDAY, stop.signal)).toBe(false);
    const half = await countsOf(client.id);
    expect(half).toEqual(before);
    expect(await deleteClient(client.id, TUESDAY)).toBe(true);
    expect(Object.values(await countsOf(client.id)).every((count) => count === 0)).toBe(true);
    // Of the two clients' shared phones one is signed in as somebody still.
    expect((await harness.owner.query("select count(*)::int as n from users where id like 'phone-%'")).rows).toEqual([
      { n: 1 },
    ]);
    expect(await deleteClient(client.id, TUESDAY)).toBe(false);
    expect(await sumsOf(other.id)).toEqual(others);
    const { rows } = await harness.owner.query(
      "select details from account_entries where action = 'deleted' and name = $1",
      [named[0].name],
    );
    // Deleting is not noted at the client itself: what is counted is what there was.
    expect(rows[0].details).toEqual(before);
    expect((await harness.owner.query("select 1 from seats where only_client = $1", [client.id])).rows).toEqual([]);
    const mail = [...harness.town.mail.mails.values()].at(-1);
    const { subject, text } = await simpleParser(mail?.raw ?? "");
    expect(subject).toContain("has been deleted");
    expect(text).toContain(`${before.visits === 1 ? "one visit" : `${before.visits} visits`}`);
  });

  describe("handing over", () => {
    test("both agree; then the one agency has no access any more, the client's own people keep theirs", async () => {
      const client = await harness.addClient();
      const role = await inside(async (tx) => {
        const rights = { name: "Iris", rights: { permissions: permissionsOf("agency") } };
        await saveRole(
          tx,
          scope,
          rights,
          null,
          { name: "Answers only", permissions: ["see heard", "answer concerns"] },
          TUESDAY,
        );
        const { rows } = await harness.owner.query("select id from roles where name = 'Answers only'");
        return rows[0]?.id as string | undefined;
      });
      const { rows: made } = await harness.owner.query("select id from roles where name = 'Answers only'");
      const roleId = role ?? made[0].id;
      expect(await inside((tx) => roleOf(tx, scope, roleId))).not.toBeNull();
      await inside((tx) =>
        addSeat(tx, scope, { userId: "maud", ...WHOLE_AGENCY, onlyClient: client.id, role: "reader", roleId }),
      );
      const it = { id: client.id, name: "Test Vets" };
      // Nobody learns whether there is such an agency.
      expect(await offerClient(scope, by, "Test agency", it, "nobody-there", TUESDAY)).toBe("offered");
      expect(await inside((tx) => listHandovers(tx, scope))).toEqual([]);
      expect(await offerClient(scope, by, "Test agency", it, "elsewhere", TUESDAY)).toBe("offered");
      expect(await offerClient(scope, by, "Test agency", it, "elsewhere", TUESDAY)).toBe("offered before");
      const [offer] = await inside((tx) => listHandovers(tx, elsewhere), elsewhere);
      expect(offer).toMatchObject({ clientName: "Test Vets", fromName: "Test agency" });
      // The one that offers cannot take it for the other, nor can a stranger.
      expect(await acceptHandover(scope, by, offer.id, TUESDAY)).toBeNull();
      expect(await acceptHandover({ agencyId: newId() }, by, offer.id, TUESDAY)).toBeNull();
      expect(await inside((tx) => endHandover(tx, { agencyId: newId() }, by, offer.id, TUESDAY))).toBe(false);
      expect(await mayEnter("iris")).toContain(client.slug);
      const opens = async () =>
        (
          await harness.owner.query(
            `select (select count(*)::int from api_keys where client_id = $1 and ended_at is null) as keys,
              (select count(*)::int from feeds where client_id = $1 and kind = 'webhook' and secret is not null) as secrets,
              (select string_agg(token, ' ') from feeds where client_id = $1) as tokens,
              (select count(*)::int from preview_links where client_id = $1) as previews`,
            [client.id],
          )
        ).rows[0];
      const at = workFor(client.id);
      await withClient(at, async (tx) => {
        await makeKey(tx, at, "Maud", "till", [SCOPES[0]], TUESDAY);
        for (const kind of ["webhook", "drop-off"] as const)
          await addFeed(tx, at, "Maud", { kind, name: kind, url: "", branchId: null, serviceId: null }, TUESDAY);
      });
      const opened = await opens();
      expect(opened).toMatchObject({ keys: 1, secrets: 1, tokens: expect.any(String) });
      const both = await Promise.all([1, 2].map(() => acceptHandover(elsewhere, by, offer.id, TUESDAY)));
      expect(both.filter(Boolean)).toEqual([client.slug]);
      // What opens the client without a seat was known to the agency before.
      const opensNow = await opens();
      expect(opensNow).toMatchObject({ keys: 0, secrets: 0, previews: 0 });
      expect(opensNow.tokens).not.toBe(opened.tokens);
      expect(await mayEnter("iris")).not.toContain(client.slug);
      const [seat] = await rowsOf<{ role_name: string; permissions: string[]; agency: string }>(
        sql`select role_name, permissions, agency from estima_seats_of('maud') where slug = ${client.slug}`,
      );
      expect(seat).toEqual({
        role_name: "Answers only",
        permissions: ["see heard", "answer concerns"],
        agency: "Elsewhere",
      });
      expect((await inside((tx) => tx.execute(sql`select 1 from clients where id = ${client.id}`))).rows).toEqual([]);
    });

    test("one that was archived meanwhile is not to be had; taken back, it is", async () => {
      const client = await harness.addClient();
      const it = { id: client.id, name: "Test Vets" };
      await offerClient(scope, by, "Test agency", it, "elsewhere", TUESDAY);
      const [offer] = await inside((tx) => listHandovers(tx, elsewhere), elsewhere);
      await archiveClient(scope, workFor(client.id), by, "Test Vets", TUESDAY);
      expect(await acceptHandover(elsewhere, by, offer.id, TUESDAY)).toBeNull();
      await takeBack(scope, workFor(client.id), by, "Test Vets", TUESDAY);
      expect(await acceptHandover(elsewhere, by, offer.id, TUESDAY)).toBe(client.slug);
    });

    test("an offer is declined or taken back, and then nobody takes it", async () => {
      const client = await harness.addClient();
      const it = { id: client.id, name: "Test Vets" };
      for (const [who, agency] of [
        [elsewhere, "declined"],
        [scope, "withdrawn"],
      ] as const) {
        await offerClient(scope, by, "Test agency", it, "elsewhere", TUESDAY);
        const [offer] = await inside((tx) => listHandovers(tx, scope));
        expect(await inside((tx) => endHandover(tx, who, by, offer.id, TUESDAY), who)).toBe(true);
        expect(await acceptHandover(elsewhere, by, offer.id, TUESDAY)).toBeNull();
        const { rows } = await harness.owner.query("select ended from handovers where id = $1", [offer.id]);
        expect(rows).toEqual([{ ended: agency }]);
      }
    });
  });

  test("exported, deleted and imported it is the same client, table by table, history and secrets aside", async () => {
    const client = await harness.addClient({ restDays: 90, textsAMonth: 500, closedDates: ["2026-12-24"] });
    const own = workFor(client.id);
    await new Scene(harness, client).moveTo(TUESDAY);
    await fillClient(harness, client, TUESDAY);
    const quay = newId();
    await harness.owner.query(
      "insert into branches (id, client_id, name, zone, address, region, phone, position) values ($1, $2, 'Quay', 'Europe/Dublin', '2 Quay', 'SCT', '+441134960001', 1)",
      [quay, client.id],
    );
    await withClient(own, async (tx) => {
      await saveView(tx, own, "Maud", "At the quay", { branch: quay, state: "answered" });
      const feed = await addFeed(
        tx,
        own,
        "Maud",
        { kind: "calendar", name: "Diary", url: "", branchId: quay, serviceId: client.serviceId },
        TUESDAY + 5,
      );
      await changeFeed(tx, own, "Maud", feed, { state: "off" }, TUESDAY + 6);
    });
    await harness.owner.query(`update plans set rules = jsonb_set(rules, '{begins}', $2) where client_id = $1`, [
      client.id,
      JSON.stringify({ kind: "visit", services: [client.serviceId], branches: [quay], kinds: [] }),
    ]);
    await harness.owner.query(
      "insert into seen_names (id, client_id, kind, key, name, target_id, first_seen_at) values (gen_random_uuid(), $1, 'branch', 'the quay', 'the quay', $2, now())",
      [client.id, quay],
    );
    // The look, the pages' settings, and words of one service alone come along.
    await harness.owner.query(
      `update clients set look = $2, link_days = 90, privacy_note = '{"pl": "Nasze"}', keeps_marks = true, language = 'pl' where id = $1`,
      [client.id, JSON.stringify({ ...PLAIN_LOOK, typeface: "newsreader", signature: "Maud" })],
    );
    await harness.owner.query("update branches set look = $2 where id = $1", [
      quay,
      JSON.stringify({ colour: "#113355", look: { ...PLAIN_LOOK, senderName: "The quay" } }),
    ]);
    await harness.owner.query(`update plans set rules = jsonb_set(rules, '{words}', $2) where client_id = $1`, [
      client.id,
      JSON.stringify({
        own: { "de:page/happy": "Schön!", [`pl:page/happy@${client.serviceId}`]: "Pięknie!" },
        taken: {},
      }),
    ]);
    const before = await setUpOf(client.id);
    await harness.owner.query(
      "update feeds set url = 'https://book.example/s3cret.ics' where client_id = $1 and kind = 'calendar'",
      [client.id],
    );
    const text = JSON.stringify(await withClient(own, (tx) => exportClient(tx, own)), null, 2);
    // Whoever has a calendar's address reads it.
    expect(text).not.toContain("s3cret");
    // Nothing secret, and no identifier of this installation.
    expect(text).not.toMatch(/whsec_|[0-9a-f]{8}-[0-9a-f]{4}-7[0-9a-f]{3}-/);
    await beginDeletion(scope, own, by, "Test Vets", TUESDAY);
    expect(await deleteClient(client.id, TUESDAY)).toBe(true);
    const read = readClientFile(text);
    if (!("file" in read)) throw new Error(JSON.stringify(read.faults));
    const started = await startClient({ ...scope, user: by }, read.file, null, TUESDAY);
    if (typeof started === "string" || !("slug" in started)) throw new Error(JSON.stringify(started));
    const { rows } = await harness.owner.query("select id from clients where slug = $1", [started.slug]);
    expect(await setUpOf(rows[0].id)).toEqual(before);
    // And exported again it is the same file, but that no plan has run here.
    const again = await withClient(workFor(rows[0].id), (tx) => exportClient(tx, workFor(rows[0].id)));
    const still = (file: string) => file.replace(/"state": "(running|paused|draft)"/g, '"state": "draft"');
    expect(still(JSON.stringify(again, null, 2))).toBe(still(text));
  });

  /** What is set up for a client, table by table, with names in place of identifiers, and without secrets and history. */
  async function setUpOf(clientId: string): Promise<Record<string, unknown[]>> {
    const { rows: names } = await harness.owner.query(
      `select id, 'branch ' || name as name from branches where client_id = $1 union all select id, 'service ' || name from services where client_id = $1
     union all select id, 'team ' || name from team_members where client_id = $1 union all select id, 'tag ' || name from tags where client_id = $1`,
      [clientId],
    );
    const ASIDE: Record<string, string[]> = {
      clients: [
        "id",
        "slug",
        "group_id",
        "looked_after_by",
        "shown_places",
        "sender_confirmed_at",
        "deleting_at",
        "deleting_for",
        "deleted",
      ],
      branches: ["id"],
      services: ["id"],
      team_members: ["id"],
      listings: [
        "id",
        "connector_key",
        "review_count",
        "rating_sum",
        "own_rating_sum",
        "account_id",
        "failing_since",
        "failures",
        "first_read_at",
        "read_count",
        "read_total",
        "collect_at",
        "collected_at",
        "collect_error",
        "cursor",
        "problem",
        "looked_at",
      ],
      tags: ["id"],
      plans: [
        "id",
        "state",
        "version",
        "revision",
        "running_since",
        "next_run_at",
        "looked_until",
        "paused_why",
        "draft",
        "draft_by",
      ],
      feeds: [
        "id",
        "secret",
        "token",
        "created_at",
        "poll_at",
        "polled_at",
        "etag",
        "last_modified",
        "report",
        "problem",
      ],
      views: ["id", "made_by"],
      readings: ["at"],
      seen_names: ["id", "times", "first_seen_at"],
    };
    const found: Record<string, unknown[]> = {};
    for (const [table, aside] of Object.entries(ASIDE)) {
      const { rows } = await harness.owner.query(
        `select to_jsonb(t) - $2::text[] - 'client_id' as row from ${table} t where ${table === "clients" ? "id" : "client_id"} = $1
       ${table === "seen_names" ? "and (target_id is not null or ignored)" : ""}`,
        [clientId, aside],
      );
      const plain = rows.map(({ row }) => {
        let text = JSON.stringify(row);
        for (const { id, name } of names) text = text.replaceAll(id, name);
        return text;
      });
      found[table] = plain.sort();
    }
    return found;
  }

  test("a file's faults are told with their lines, also in plans and feeds", async () => {
    const client = await harness.addClient();
    const own = workFor(client.id);
    const file = await withClient(own, (tx) => exportClient(tx, own));
    const faultsOf = (change: (it: Record<string, never>) => void) => {
      const copy = structuredClone(file) as unknown as Record<string, never>;
      change(copy);
      const read = readClientFile(JSON.stringify(copy, null, 2));
      return "faults" in read ? read.faults.map(({ path, message }) => `${path}: ${message}`) : [];
    };
    type Plans = {
      plans: { rules: { begins: { services: string[] }; freshDays: number } }[];
      feeds: object[];
      settings: object;
    };
    const as = (it: unknown) => it as Plans;
    expect(faultsOf((it) => as(it).plans[0].rules.begins.services.push("Juggling"))).toEqual([
      "plans.0.rules.begins.services.0: There’s no service called “Juggling” in this file.",
    ]);
    expect(faultsOf((it) => Object.assign(as(it).plans[0].rules, { freshDays: 0 }))).toEqual([
      "plans.0.rules.freshDays: At least one day.",
    ]);
    expect(faultsOf((it) => as(it).feeds.push({ kind: "pigeon", name: "x" }))[0]).toMatch(/^feeds.0.kind/);
    expect(faultsOf((it) => Object.assign(as(it).settings, { currency: "pounds" }))).toEqual([
      "settings.currency: A currency such as GBP.",
    ]);
    await doAllDue();
    expect(assignName).toBeDefined();
  });
});
