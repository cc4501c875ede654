import { eq, sql } from "drizzle-orm";
import { searchPeople } from "@/features/people";
import { setDemoClock } from "@/platform/clock";
import { checkRole, database, rowsOf, type Tx, withAgency, withClient, workFor } from "@/platform/database";
import { agencies, seats } from "@/schema/accounts";
import { clients } from "@/schema/clients";
import { people } from "@/schema/people";
import { fillClient } from "../../support/filled";
import { type Harness, startHarness, type TestClient } from "../../support/harness";

/** Nobody sees, changes or adds another client's rows, whichever table it is, also ones added later. */
describe("tenancy", () => {
  const NOW = Date.UTC(2026, 10, 24, 14, 5);
  let harness: Harness;
  let ours: TestClient;
  let theirs: TestClient;

  beforeAll(async () => {
    harness = await startHarness("tenancy");
    await setDemoClock(NOW, NOW);
    ours = await harness.addClient();
    theirs = await harness.addClient();
    await fillClient(harness, ours, NOW);
    await fillClient(harness, theirs, NOW);
  });
  afterAll(() => harness.stop());

  async function guardedTables(): Promise<string[]> {
    const { rows } = await harness.owner.query(
      // Partitions are met through their table.
      "select table_name from information_schema.columns where table_schema = 'public' and column_name = 'client_id' and not (select relispartition from pg_class where oid = table_name::regclass) order by 1",
    );
    return rows.map((row) => row.table_name);
  }

  test("the program's role neither owns a table nor bypasses row-level security", async () => {
    await expect(checkRole()).resolves.toBeUndefined();
    await expect(rowsOf(sql`create table mine (id int)`)).rejects.toThrow();
    await expect(rowsOf(sql`alter table people disable row level security`)).rejects.toThrow();
  });

  test("every table with a client has rows of both to hide, a policy, and shows only one's own", async () => {
    const tables = await guardedTables();
    expect(tables.length).toBeGreaterThanOrEqual(28);
    for (const table of tables) {
      const { rows } = await harness.owner.query(`select count(distinct client_id)::int as n from ${table}`);
      expect([table, rows[0].n]).toEqual([table, 2]);
      const seen = await withClient(workFor(ours.id), (tx) =>
        tx.execute(sql.raw(`select distinct client_id from ${table}`)),
      );
      expect([table, seen.rows]).toEqual([table, [{ client_id: ours.id }]]);
      // Without a client nothing is visible at all.
      expect([table, (await database().execute(sql.raw(`select 1 from ${table}`))).rows.length]).toEqual([table, 0]);
    }
    expect((await withClient(workFor(ours.id), (tx) => tx.execute(sql`select id from clients`))).rows).toEqual([
      { id: ours.id },
    ]);
  });

  test("no table lets one change, remove or plant another's rows", async () => {
    for (const table of await guardedTables()) {
      const { rows: before } = await harness.owner.query(
        `select count(*)::int as n from ${table} where client_id = $1`,
        [theirs.id],
      );
      await attempt((tx) => tx.execute(sql.raw(`delete from ${table} where client_id = '${theirs.id}'`)));
      await attempt((tx) =>
        tx.execute(sql.raw(`update ${table} set client_id = '${ours.id}' where client_id = '${theirs.id}'`)),
      );
      await attempt((tx) => tx.execute(sql.raw(`update ${table} set client_id = '${theirs.id}'`)));
      const { rows: after } = await harness.owner.query(
        `select count(*)::int as n from ${table} where client_id = $1`,
        [theirs.id],
      );
      expect([table, after[0].n]).toEqual([table, before[0].n]);
    }
  });

  async function attempt(work: (tx: Tx) => Promise<unknown>): Promise<void> {
    await withClient(workFor(ours.id), work).catch(() => null);
  }

  test("search stays inside the client, and odd searches are only searches", async () => {
    const find = (query: string) => withClient(workFor(ours.id), (tx) => searchPeople(tx, query));
    expect((await find("odette")).map(({ clientId }) => clientId)).toEqual([ours.id]);
    expect(await find("07700 900123")).toHaveLength(1);
    for (const query of ["%", "_", "\\", "' or 1=1 --", "\u0000".replace("\u0000", "x".repeat(300)), "😀"])
      expect(await find(query)).toEqual([]);
  });

  test("a scope that is no identifier never reaches the database", async () => {
    await expect(withClient({ clientId: "x'; drop table people; --" }, async () => 1)).rejects.toThrow("Not a client.");
  });

  test("an agency sees its own seats and clients and no other's, and no row of any client", async () => {
    const { rows: others } = await harness.owner.query<{ id: string }>(
      "insert into agencies (id, name) values (gen_random_uuid(), 'Another agency') returning id",
    );
    const { rows: own } = await harness.owner.query<{ id: string }>(
      "select agency_id as id from clients where id = $1",
      [ours.id],
    );
    const [mine, other] = [own[0].id, others[0].id];
    await harness.owner.query("update clients set agency_id = $1 where id = $2", [other, theirs.id]);
    const { rows: users } = await harness.owner.query<{ id: string }>(
      "insert into users (id, name, email) values ('seat-a', 'A', 'a@seat.example'), ('seat-b', 'B', 'b@seat.example') returning id",
    );
    for (const [index, agencyId] of [mine, other].entries())
      await harness.owner.query(
        "insert into seats (id, user_id, agency_id, role) values (gen_random_uuid(), $1, $2, 'agency')",
        [users[index].id, agencyId],
      );
    const see = (agencyId: string) =>
      withAgency({ agencyId }, async (tx) => ({
        agencies: (await tx.select().from(agencies)).map(({ id }) => id),
        seats: [...new Set((await tx.select().from(seats)).map((seat) => seat.agencyId))],
        clients: [...new Set((await tx.select().from(clients)).map((client) => client.agencyId))],
        people: (await tx.select().from(people)).length,
      }));
    expect(await see(mine)).toEqual({ agencies: [mine], seats: [mine], clients: [mine], people: 0 });
    expect(await see(other)).toEqual({ agencies: [other], seats: [other], clients: [other], people: 0 });
    // Nothing of another's is changed, removed or planted, and a client only through its own door.
    const touched = await withAgency({ agencyId: mine }, async (tx) => [
      (await tx.update(seats).set({ role: "reader" }).where(eq(seats.agencyId, other))).rowCount,
      (await tx.delete(seats).where(eq(seats.agencyId, other))).rowCount,
      (await tx.update(clients).set({ name: "Taken" })).rowCount,
    ]);
    expect(touched).toEqual([0, 0, 0]);
    await expect(
      withAgency({ agencyId: mine }, (tx) =>
        tx.insert(seats).values({ userId: users[0].id, agencyId: other, role: "agency" }),
      ),
    ).rejects.toThrow();
    // Through a client's door an agency's rows are not there; and who is no agency has no door.
    expect(await withClient(workFor(ours.id), async (tx) => (await tx.select().from(seats)).length)).toBe(0);
    await expect(withAgency({ agencyId: "x' or true" }, async () => 1)).rejects.toThrow("Not an agency.");
  });
});
