import { readdirSync } from "node:fs";
import { join } from "node:path";
import { getTableColumns, getTableName, is, type SQL, sql } from "drizzle-orm";
import { drizzle } from "drizzle-orm/node-postgres";
import { PgTable } from "drizzle-orm/pg-core";
import { erasePeople, exportPerson } from "@/features/people-admin";
import { withClient } from "@/platform/database";
import * as accounts from "@/schema/accounts";
import * as answerPhotos from "@/schema/answerPhotos";
import * as answers from "@/schema/answers";
import * as api from "@/schema/api";
import * as askEvents from "@/schema/askEvents";
import * as asks from "@/schema/asks";
import * as audit from "@/schema/audit";
import * as clients from "@/schema/clients";
import * as concerns from "@/schema/concerns";
import * as conversations from "@/schema/conversations";
import * as desk from "@/schema/desk";
import * as feeds from "@/schema/feeds";
import * as images from "@/schema/images";
import * as intake from "@/schema/intake";
import * as messagePictures from "@/schema/messagePictures";
import * as messages from "@/schema/messages";
import * as notices from "@/schema/notices";
import * as onboarding from "@/schema/onboarding";
import * as outlook from "@/schema/outlook";
import * as ownReviews from "@/schema/ownReviews";
import * as people from "@/schema/people";
import { ownedBy, type Personal } from "@/schema/personal";
import { PERSONAL_DATA } from "@/schema/personalData";
import * as plans from "@/schema/plans";
import * as replyRules from "@/schema/replyRules";
import * as reviewImports from "@/schema/reviewImports";
import * as reviews from "@/schema/reviews";
import * as sites from "@/schema/sites";
import * as standingLinks from "@/schema/standingLinks";
import * as tellings from "@/schema/tellings";
import * as themes from "@/schema/themes";
import * as visits from "@/schema/visits";
import * as words from "@/schema/words";
import { fillClient } from "../../support/filled";
import { type Harness, startHarness, type TestClient } from "../../support/harness";

/** The registry of personal data says everything, and erasing by it leaves nothing. */
describe("personal", () => {
  const MODULES = {
    accounts,
    answers,
    api,
    askEvents,
    asks,
    audit,
    clients,
    concerns,
    conversations,
    desk,
    feeds,
    images,
    intake,
    messagePictures,
    messages,
    notices,
    onboarding,
    outlook,
    answerPhotos,
    ownReviews,
    people,
    plans,
    replyRules,
    reviewImports,
    reviews,
    sites,
    standingLinks,
    tellings,
    themes,
    visits,
    words,
  };
  const NOW = Date.UTC(2026, 10, 24, 14, 5);

  let harness: Harness;
  let client: TestClient;

  beforeAll(async () => {
    harness = await startHarness("personal");
    client = await harness.addClient();
    await fillClient(harness, client, NOW);
  });
  afterAll(() => harness.stop());

  const isText = (type: string) => /^(text|jsonb|json|varchar|character varying)/.test(type);
  const ownedOnes = PERSONAL_DATA.filter(({ owners, erase }) => owners.length > 0 && erase !== "by its feature");

  test("every table says what of it is personal, and every text of a person's row says what becomes of it", () => {
    const files = readdirSync(join(import.meta.dirname, "../../../src/schema")).map((file) => file.replace(".ts", ""));
    expect(files.filter((file) => !["columns", "personal", "personalData"].includes(file)).sort()).toEqual(
      Object.keys(MODULES).sort(),
    );
    const tables = Object.values(MODULES).flatMap((module) =>
      Object.values(module).flatMap((each) => (is(each, PgTable) ? [getTableName(each)] : [])),
    );
    expect(PERSONAL_DATA.map(({ table }) => getTableName(table)).sort()).toEqual(tables.sort());
    const silent = ownedOnes.flatMap(({ table, erase, keeps }) =>
      erase === "delete"
        ? []
        : Object.entries(getTableColumns(table))
            .filter(
              ([name, column]) => isText(column.getSQLType()) && !(name in (erase as object)) && !keeps.includes(name),
            )
            .map(([name]) => `${getTableName(table)}.${name}`),
    );
    expect(silent).toEqual([]);
  });

  /** The whole database as text, table by table, the queue's included. */
  async function everything(): Promise<string> {
    const { rows: tables } = await harness.owner.query<{ name: string }>(
      "select format('%I.%I', schemaname, tablename) as name from pg_tables where schemaname not in ('pg_catalog', 'information_schema')",
    );
    const parts: string[] = [];
    for (const { name } of tables) {
      const { rows } = await harness.owner.query(`select t::text as row from ${name} t`);
      parts.push(`${name}: ${rows.map(({ row }) => row).join("\n")}`);
    }
    return parts.join("\n");
  }

  /** A word that stands nowhere else, for one column. */
  const marker = (entry: Personal, column: string) =>
    `Quillfeather${getTableName(entry.table)}${column}`.replaceAll("_", "");

  test("somebody erased who had a row in every table is in none: no word that was theirs is in the database", async () => {
    const scope = { clientId: client.id };
    const { rows: someone } = await harness.owner.query<{ id: string }>(
      "select person_id as id from concerns where client_id = $1",
      [client.id],
    );
    const personId = someone[0].id;
    const ids = sql`array[${personId}]::uuid[]`;
    const run = async (statement: SQL) => (await drizzle(harness.owner).execute(statement)).rows;
    for (const entry of ownedOnes) {
      const name = getTableName(entry.table);
      // One row of the client's becomes theirs where they have none.
      const own = entry.owners.filter((owner) => !("of" in owner));
      const [owner] = own;
      const has = async () =>
        (await run(sql`select 1 from ${entry.table} where ${ownedBy(entry, ids)} limit 1`)).length > 0;
      if (!(await has()) && owner && !("of" in owner))
        await run(
          sql`update ${entry.table} set ${sql.identifier(owner.name)} = ${personId} where ctid = (select ctid from ${entry.table} where client_id = ${client.id} limit 1)`,
        );
      expect([name, await has()]).toEqual([name, true]);
      for (const [key, column] of Object.entries(getTableColumns(entry.table))) {
        if (!isText(column.getSQLType()) || entry.keeps.includes(key)) continue;
        const word = marker(entry, key);
        const value = column.getSQLType().endsWith("[]")
          ? sql`array[${word}]`
          : column.getSQLType() === "jsonb"
            ? sql`${JSON.stringify({ word })}::jsonb`
            : sql`${word}::text`;
        await run(
          sql`update ${entry.table} set ${sql.identifier(column.name)} = ${value} where ${ownedBy(entry, ids)}`,
        );
      }
    }
    const before = await everything();
    const marked = ownedOnes.flatMap((entry) =>
      Object.entries(getTableColumns(entry.table))
        .filter(([key, column]) => isText(column.getSQLType()) && !entry.keeps.includes(key))
        .map(([key]) => marker(entry, key)),
    );
    expect(marked.filter((word) => !before.includes(word))).toEqual([]);
    const file = JSON.stringify(await withClient(scope, (tx) => exportPerson(tx, scope, personId, NOW)));
    for (const word of [
      "visitsabout",
      "messagesbody",
      "answerswords",
      "concernswords",
      "peoplenote",
      "intakerowscells",
    ])
      expect(file).toContain(`Quillfeather${word}`);

    await withClient(scope, (tx) => erasePeople(tx, scope, [personId], "Maud", NOW));
    const after = await everything();
    expect(marked.filter((word) => after.includes(word))).toEqual([]);
    expect(after).not.toContain("Quillfeather");
  });
});
