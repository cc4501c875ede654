import { sql } from "drizzle-orm";
import { searchPeople } from "@/features/people";
import { setDemoClock } from "@/platform/clock";
import { checkRole, database, rowsOf, type Tx, withClient, workFor } from "@/platform/database";
import { fillClient } from "../support/filled";
import { type Harness, startHarness, type TestClient } from "../support/harness";

/** Nobody sees, changes or adds another client's rows, whichever table it is, also ones added later. */

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
    const { rows: before } = await harness.owner.query(`select count(*)::int as n from ${table} where client_id = $1`, [
      theirs.id,
    ]);
    await attempt((tx) => tx.execute(sql.raw(`delete from ${table} where client_id = '${theirs.id}'`)));
    await attempt((tx) =>
      tx.execute(sql.raw(`update ${table} set client_id = '${ours.id}' where client_id = '${theirs.id}'`)),
    );
    await attempt((tx) => tx.execute(sql.raw(`update ${table} set client_id = '${theirs.id}'`)));
    const { rows: after } = await harness.owner.query(`select count(*)::int as n from ${table} where client_id = $1`, [
      theirs.id,
    ]);
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
