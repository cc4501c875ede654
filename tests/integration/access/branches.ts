import { sql } from "drizzle-orm";
import type { StarterRole } from "@/core/access/permissions";
import { addSeat, listPlaces, listSeats, placeOf } from "@/features/accounts";
import { countStages, tallyPlans } from "@/features/asks";
import { concernCounts, listConcerns } from "@/features/concerns";
import { countLog, readLog } from "@/features/messaging";
import { countListed, countPeople, listPeople, searchPeople } from "@/features/people";
import { listReviews, reviewCounts } from "@/features/reviews";
import { timelineOf } from "@/features/timeline";
import { loadTodayView } from "@/features/today";
import { setDemoClock } from "@/platform/clock";
import { acrossBranches, rowIn, rowsOf, type Scope, withAgency, withClient } from "@/platform/database";
import { newId } from "@/schema/columns";
import { accessOf } from "../../support/access";
import { fillClient } from "../../support/filled";
import { type Harness, startHarness, type TestClient } from "../../support/harness";

/** Whoever is bound to a branch sees its people, visits, concerns, reviews and figures, and no others. */
describe("branches", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  const FACTS = { now: NOW, zone: "Europe/London", restDays: 90 };

  let harness: Harness;
  let client: TestClient;
  /** A branch where nothing has happened yet. */
  const quay = newId();
  let here: Scope;
  let there: Scope;

  beforeAll(async () => {
    harness = await startHarness("branches");
    await setDemoClock(NOW, NOW);
    client = await harness.addClient();
    await fillClient(harness, client, NOW);
    await harness.owner.query(
      "insert into branches (id, client_id, name, zone, address, position) values ($1, $2, 'Quay', 'Europe/London', '2 Quay', 1)",
      [quay, client.id],
    );
    here = { clientId: client.id, branches: [client.branchId] };
    there = { clientId: client.id, branches: [quay] };
  });
  afterAll(() => harness.stop());

  const countIn = (table: string, scope: Scope) =>
    withClient(scope, async (tx) => {
      const { rows } = await tx.execute(sql.raw(`select count(*)::int as n from ${table}`));
      return rows[0].n as number;
    });

  test("of every table that knows of branches the rows of other branches are hidden, also of those added later", async () => {
    const { rows } = await harness.owner.query(
      `select distinct table_name from information_schema.columns join information_schema.tables using (table_schema, table_name)
     where table_schema = 'public' and column_name in ('branch_id', 'last_branch_id') and table_type = 'BASE TABLE'`,
    );
    const tables = [...rows.map(({ table_name }) => table_name as string), "triggers", "ask_events"].filter(
      (table) => !/_\d{4}_\d{2}$|_other$/.test(table),
    );
    expect(tables.length).toBeGreaterThanOrEqual(11);
    for (const table of tables) {
      const all = await countIn(table, { clientId: client.id });
      expect([table, await countIn(table, there)]).toEqual([table, 0]);
      // What is of no branch at all is the whole client's.
      if (["visits", "asks", "concerns", "answers", "reviews", "listings", "ask_events"].includes(table))
        expect([table, all > 0, await countIn(table, here)]).toEqual([table, true, all]);
    }
    expect(await countIn("branches", there)).toBe(1);
    // Nobody's branches are no branches.
    expect(await countIn("visits", { clientId: client.id, branches: [] })).toBe(0);
  });

  test("what belongs to a row of another branch is hidden with it: pictures, notes, whatever refers to one", async () => {
    const { rows: messageRows } = await harness.owner.query("select id from messages where client_id = $1 limit 1", [
      client.id,
    ]);
    await harness.owner.query(
      "insert into message_pictures (id, client_id, message_id, position, created_at) values (gen_random_uuid(), $1, $2, 0, now())",
      [client.id, messageRows[0].id],
    );
    await harness.owner.query(
      "insert into concern_notes (id, client_id, concern_id, written_by, words, written_at) select gen_random_uuid(), client_id, id, 'Maud', 'x', now() from concerns where client_id = $1",
      [client.id],
    );
    const { rows } = await harness.owner.query(
      `select distinct k.conrelid::regclass::text as name from pg_constraint k
       where k.contype = 'f' and k.confrelid::regclass::text in ('asks', 'visits', 'messages', 'answers', 'concerns', 'reviews', 'conversations')
         and exists (select 1 from pg_attribute o where o.attrelid = k.conrelid and o.attname = 'client_id')
         and not exists (select 1 from pg_attribute o where o.attrelid = k.conrelid and o.attname = 'branch_id')`,
    );
    const tables = rows.map(({ name }) => name as string);
    expect(tables).toEqual(expect.arrayContaining(["message_pictures", "concern_notes"]));
    for (const table of tables) {
      const all = await countIn(table, { clientId: client.id });
      expect([table, await countIn(table, there)]).toEqual([table, 0]);
      if (["message_pictures", "concern_notes"].includes(table))
        expect([table, all > 0, await countIn(table, here)]).toEqual([table, true, all]);
    }
  });

  test("rows of another branch cannot be planted, changed or removed", async () => {
    const before = await rowsBefore();
    for (const table of ["visits", "asks", "messages", "concerns", "answers", "reviews", "listings"])
      for (const statement of [
        `update ${table} set branch_id = '${quay}'`,
        `delete from ${table}`,
        `insert into ${table} select * from ${table}`,
      ])
        await withClient(there, (tx) => tx.execute(sql.raw(statement))).catch(() => null);
    await withClient(there, (tx) =>
      tx.execute(
        sql`insert into branches (id, client_id, name, zone, address) values (${newId()}, ${client.id}, 'x', 'UTC', 'x')`,
      ),
    ).catch(() => null);
    expect(await rowsBefore()).toEqual(before);
  });

  async function rowsBefore(): Promise<unknown[]> {
    const found: unknown[] = [];
    for (const table of ["visits", "asks", "messages", "concerns", "answers", "reviews", "listings", "branches"])
      found.push(
        (await harness.owner.query(`select md5(string_agg(t::text, '|' order by t::text)) as sum from ${table} t`))
          .rows,
      );
    return found;
  }

  const zeros = (it: object) => Object.values(it).filter((value) => typeof value === "number" && value !== 0);

  test("every list and every figure is that of their branch", async () => {
    const [{ id: personId }] = (
      await harness.owner.query("select person_id as id from visits where client_id = $1 limit 1", [client.id])
    ).rows;
    const seen = (scope: Scope) =>
      withClient(scope, async (tx) => ({
        people: (await listPeople(tx, {}, null, FACTS)).length,
        search: (await searchPeople(tx, "odette", 8)).length,
        counted: await countPeople(tx),
        listed: await countListed(tx, {}, FACTS),
        log: (
          await readLog(tx, scope, {
            state: null,
            channel: null,
            branchId: null,
            planId: null,
            between: null,
            after: null,
          })
        ).length,
        logCounts: zeros(await countLog(tx, scope)).length,
        concerns: (await listConcerns(tx, scope, { open: false })).length,
        concernCounts: zeros(await rowIn(tx, concernCounts(scope))).length,
        reviews: (await listReviews(tx, scope, { waiting: false, site: null, branchId: null, before: null })).length,
        reviewCounts: zeros(await rowIn(tx, reviewCounts(scope, 0))).length,
        stages: zeros(await countStages(tx, scope, { since: 0, planId: null, branchId: null })).length,
        plans: [...(await tallyPlans(tx, scope, 0)).values()].flatMap(zeros).length,
        timeline: (await timelineOf(tx, scope, personId)).visits.length,
      }));
    const nothing = await seen(there);
    expect(Object.entries(nothing).filter(([, value]) => value !== 0)).toEqual([]);
    const own = await seen(here);
    expect(Object.entries(own).filter(([, value]) => value === 0)).toEqual([]);
  });

  const day = Math.floor(NOW / 86_400_000);

  test("Today tells of their branch alone", async () => {
    const empty = await loadTodayView(accessOf(client, there), { day, branchId: null }, NOW);
    expect(empty.needs).toBe(0);
    expect(zeros(empty.tally)).toEqual([]);
    expect(empty.leftOut).toEqual([]);
    const own = await loadTodayView(accessOf(client, here), { day, branchId: null }, NOW);
    expect(own.needs).toBeGreaterThan(0);
  });

  test("what only the set-up can mend needs nobody who has no way there", async () => {
    const whole = { clientId: client.id };
    const needs = async (role: StarterRole) =>
      (await loadTodayView(accessOf(client, whole, role), { day, branchId: null }, NOW)).needs;
    const roles = ["manager", "desk", "reader"] as const;
    const before = await Promise.all(roles.map(needs));
    const problem = JSON.stringify({ code: "sign-in ended", at: NOW });
    await harness.owner.query("update listings set collect_error = $2 where client_id = $1", [client.id, problem]);
    const { rowCount } = await harness.owner.query("select distinct site from listings where client_id = $1", [
      client.id,
    ]);
    expect(await Promise.all(roles.map(needs))).toEqual([before[0] + Number(rowCount), before[1], before[2]]);
    await harness.owner.query("update listings set collect_error = null where client_id = $1", [client.id]);
  });

  test("the program reckons across branches, and is bound again afterwards", async () => {
    await withClient(there, async (tx) => {
      const count = async () => (await tx.execute(sql`select count(*)::int as n from visits`)).rows[0].n;
      expect(await count()).toBe(0);
      expect(await acrossBranches(tx, count)).toBeGreaterThan(0);
      expect(await count()).toBe(0);
    });
  });

  test("seats for a group, a client and a branch give what they say, and no more", async () => {
    const [{ agency_id: agencyId }] = (
      await harness.owner.query("select agency_id from clients where id = $1", [client.id])
    ).rows;
    const scope = { agencyId };
    const other = await harness.addClient();
    const groupId = newId();
    await harness.owner.query("insert into client_groups (id, agency_id, name) values ($1, $2, 'West')", [
      groupId,
      agencyId,
    ]);
    await harness.owner.query("update clients set group_id = $1 where id = $2", [groupId, other.id]);
    await harness.owner.query("insert into users (id, name, email) values ('gil', 'Gil', 'gil@agency.example')");
    const places = await withAgency(scope, (tx) => listPlaces(tx, scope));
    expect(places.map(({ kind, name }) => `${kind} ${name}`)).toEqual([
      "group West",
      "client Test Vets 0",
      "client Test Vets 1",
      "branch Fenwick, Test Vets 0",
      "branch Quay, Test Vets 0",
    ]);
    const give = (choice: string, role: "agency" | "desk") =>
      withAgency(scope, async (tx) => {
        const place = await placeOf(tx, scope, choice);
        if (!place) throw new Error("no place");
        await addSeat(tx, scope, { userId: "gil", ...place, role, roleId: null });
      });
    await give(`group ${groupId}`, "agency");
    await give(`branch ${quay}`, "desk");
    await give(`branch ${quay}`, "desk");
    const seats = (await withAgency(scope, (tx) => listSeats(tx, scope))).filter(({ userId }) => userId === "gil");
    expect(seats.map(({ place }) => place)).toEqual(["Quay, Test Vets 0", "West"]);
    // Neither the agency's people nor its lists are anybody's who has less than all of it.
    expect(seats.flatMap(({ permissions }) => permissions)).not.toContain("manage people");
    expect(seats[0].permissions).not.toContain("import lists");
    const rows = await rowsOf<{ slug: string; kind: string; branch: string | null }>(
      sql`select slug, kind, branch from estima_seats_of('gil')`,
    );
    expect(rows).toEqual([
      { slug: client.slug, kind: "branch", branch: quay },
      { slug: other.slug, kind: "group", branch: null },
    ]);
    // Places of another agency are none.
    const foreign = { agencyId: newId() };
    for (const { value } of places) expect(await withAgency(foreign, (tx) => placeOf(tx, foreign, value))).toBeNull();
    // At the agency they are shown the clients of the group.
    const shown = await withAgency({ agencyId, group: groupId }, (tx) => tx.execute(sql`select slug from clients`));
    expect(shown.rows).toEqual([{ slug: other.slug }]);
  });
});
