import { eq, sql } from "drizzle-orm";
import { starterRules } from "@/core/plans/starters";
import { makeKey } from "@/features/api";
import { decideVisits } from "@/features/asks";
import { keepTag } from "@/features/clients";
import { addFeed, receiveList, startImport } from "@/features/intake";
import { enqueueNotice } from "@/features/notices";
import { savePerson, saveView, searchPeople } from "@/features/people";
import { dismissMatch, erasePeople, makeHousehold, mergePeople } from "@/features/people-admin";
import { installPlan } from "@/features/plans";
import { recordVisit } from "@/features/visits";
import { setDemoClock } from "@/platform/clock";
import { checkRole, database, rowsOf, type Tx, withClient, workFor } from "@/platform/database";
import { newId } from "@/schema/columns";
import { people, peopleMatches } from "@/schema/people";
import { siteTurns } from "@/schema/plans";
import { doAllDue } from "@/worker/due";
import { type Harness, startHarness, type TestClient } from "../support/harness";

/** Nobody sees, changes or adds another client's rows, whichever table it is, also ones added later. */

const NOW = Date.UTC(2026, 10, 24, 14, 5);
let harness: Harness;
let ours: TestClient;
let theirs: TestClient;

async function fill(client: TestClient): Promise<void> {
  const scope = workFor(client.id);
  const { person, visit } = await withClient(scope, async (tx) => {
    const { person } = await savePerson(
      tx,
      scope,
      {
        given: "Odette",
        family: "Marsh",
        email: "odette@post.example",
        phone: { number: "+447700900123", canText: true, country: "GB" },
        note: "",
        doNotAsk: null,
      },
      NOW,
    );
    const visit = await recordVisit(
      tx,
      scope,
      "Maud",
      {
        personId: person.id,
        serviceId: client.serviceId,
        branchId: client.branchId,
        about: "",
        endsAt: NOW - 3 * 3_600_000,
        outcome: "finished",
        requestKey: newId(),
      },
      NOW,
    );
    await decideVisits(tx, scope, [visit.id], NOW);
    return { person, visit };
  });
  await doAllDue();
  const [{ id: askId, token }] = (
    await harness.owner.query("select id, token from asks where client_id = $1", [client.id])
  ).rows;
  for (const [path, body] of [
    ["rate", "rating=2"],
    ["words", "words=Too+long"],
  ])
    await fetch(`${harness.env.APP_URL}/a/${token}/${path}`, { method: "POST", body, redirect: "manual" });
  const [{ id: listingId }] = (await harness.owner.query("select id from listings where client_id = $1", [client.id]))
    .rows;
  await fetch(`${harness.env.APP_URL}/a/${token}/site/${listingId}`, { method: "POST", redirect: "manual" });
  await fetch(`${harness.waypostUrl}/places/${client.place}`, {
    method: "POST",
    body: new URLSearchParams({ author: "O", stars: "2", words: "x" }),
    redirect: "manual",
  });
  await harness.owner.query("update listings set collect_at = to_timestamp(0)");
  await doAllDue();
  expect([person.id, visit.id, askId].every(Boolean)).toBe(true);
  await fillRecords(client);
}

/** Rows in every table of lists, feeds, keys and records. */
async function fillRecords(client: TestClient): Promise<void> {
  const scope = workFor(client.id);
  const bytes = new TextEncoder().encode(
    "Name,Email,Date,Service\nJun Pike,jun@post.example,24/11/2026,Unheard of\nNobody,wrong,,\n",
  );
  await startImport(
    scope,
    await receiveList(scope, { source: "file", name: "x.csv", bytes, who: "Maud", requestKey: newId() }),
    "Maud",
    false,
  );
  await withClient(scope, async (tx) => {
    const base = { note: "", doNotAsk: null };
    const one = async (given: string) =>
      (
        await savePerson(
          tx,
          scope,
          { ...base, given, family: "Twin", email: `${given}@post.example`, phone: null },
          NOW,
        )
      ).person.id;
    const [a, b, c] = [await one("a"), await one("b"), await one("c")];
    await makeHousehold(tx, scope, [a, b], "Maud", NOW);
    await dismissMatch(tx, scope, "twins", [a, c], "Maud", NOW);
    await mergePeople(tx, scope, a, c, "Maud", NOW);
    await erasePeople(tx, scope, [await one("d")], "Maud", NOW);
    await keepTag(tx, scope, "Maud", null, { name: "vip", effect: "none" }, NOW);
    await installPlan(tx, scope, {
      name: "Tagged",
      rules: { ...starterRules(), begins: { kind: "tag", tag: "vip" } },
      runningSince: NOW,
      position: 1,
    });
    await tx
      .update(people)
      .set({ tags: ["vip"] })
      .where(eq(people.id, b));
    await tx
      .insert(siteTurns)
      .values({ clientId: client.id, planId: client.planId, branchId: client.branchId, site: "Waypost", turns: 1 });
    await tx.insert(peopleMatches).values({ clientId: client.id, foundAt: NOW, pairs: [], homes: [] });
    await saveView(tx, scope, "Maud", "Mine", { q: "x" });
    await enqueueNotice(tx, scope, { about: "x", subject: "x", words: "x", path: "/today" }, NOW);
  });
  const feed = await withClient(scope, (tx) =>
    addFeed(tx, scope, "Maud", { kind: "webhook", name: "Book", url: "", branchId: null, serviceId: null }, NOW),
  );
  await rowsOf(sql`select estima_add_inbound_event(${newId()}, ${feed.id}, 'e', '{}'::jsonb, now())`);
  const { key } = await withClient(scope, (tx) => makeKey(tx, scope, "Maud", "x", ["people:write"], NOW));
  await fetch(`${harness.env.APP_URL}/api/v1/people`, {
    method: "POST",
    body: JSON.stringify({ name: "Ines", email: "ines@post.example" }),
    headers: { authorization: `Bearer ${key}`, "content-type": "application/json", "idempotency-key": "k" },
  });
}

beforeAll(async () => {
  harness = await startHarness("tenancy");
  await setDemoClock(NOW, NOW);
  ours = await harness.addClient();
  theirs = await harness.addClient();
  await fill(ours);
  await fill(theirs);
});
afterAll(() => harness.stop());

async function guardedTables(): Promise<string[]> {
  const { rows } = await harness.owner.query(
    "select table_name from information_schema.columns where table_schema = 'public' and column_name = 'client_id' order by 1",
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
