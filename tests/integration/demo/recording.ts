import { mkdtempSync, readdirSync, readFileSync, rmSync, statSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import pg from "pg";
import { decrypt, encrypt, tagFor } from "@/platform/secrets";
import { migrateUpTo, prepareDatabase, recreateDatabase } from "../../../scripts/database";
import { environmentFor, isFree, type Local } from "../../../scripts/local";
import { FIRST_DAYS, liveForRecording } from "../../../scripts/recording/live";
import {
  capture,
  loadRecording,
  RECORDING,
  readFirstDays,
  readManifest,
  readRecording,
} from "../../../scripts/recording/recording";
import { portsOf } from "../../../scripts/stack";
import { placeKey } from "../../../standins/waypost";
import { derivedFaults } from "../../support/derived";

/** The recorded demo is what the rules make of its seed, and loads anywhere. */
describe("recording", () => {
  const manifest = readManifest();
  const home = mkdtempSync(join(tmpdir(), "estima-recording-"));
  const password = process.env.TEST_APP_PASSWORD ?? "estima-test";
  let local: Local;

  beforeAll(async () => {
    const secret = (name: string) => `${name}-of-this-test-and-long-enough`;
    for (let port = 24_000; ; port += 250) {
      const names = ["postgres", "app", "estima", "mailHook", "textHook", "textKey", "waypost"];
      const secrets = Object.fromEntries(names.map((name) => [name, secret(name)])) as Omit<
        Local["secrets"],
        "postgresPort"
      >;
      local = { home, port, secrets: { ...secrets, postgresPort: 0 } };
      if ((await Promise.all(portsOf(local).map(isFree))).every(Boolean)) break;
    }
  });
  afterAll(() => rmSync(home, { recursive: true, force: true }));

  const databaseOf = (name: string) => recreateDatabase(process.env.TEST_DATABASE_URL ?? "", `estima_${name}`);
  const secrets = {
    sealedKey: (url: string) => encrypt(placeKey(local.secrets.waypost, url.slice(url.lastIndexOf("/") + 1))),
    tag: (id: string) => tagFor("reply", id),
  };

  test("it is small: files under 4 MB, 6 MB together", () => {
    const sizes = readdirSync(RECORDING).map((file) => statSync(join(RECORDING, file)).size);
    expect(Math.max(...sizes)).toBeLessThan(4 * 1024 * 1024);
    expect(sizes.reduce((sum, size) => sum + size, 0)).toBeLessThan(6 * 1024 * 1024);
  });

  test("its first days, lived anew from the same seed, leave the very same rows", async () => {
    const lived = await databaseOf("recording_lived");
    const living = environmentFor(local, await prepareDatabase(lived, password));
    await liveForRecording(local, { ...living, LOG_LEVEL: "silent" }, join(home, "lived"), FIRST_DAYS);
    const found = await capture(lived, join(home, "lived"), living);

    const kept = await databaseOf("recording_kept");
    await migrateUpTo(kept, manifest?.migration ?? "");
    const env = environmentFor(local, kept);
    await loadRecording(kept, join(home, "kept"), env, secrets, readFirstDays());
    await prepareDatabase(kept, password);
    const wanted = await capture(kept, join(home, "kept"), env);

    expect(found.tables.map(({ name, rows }) => [name, rows.length])).toEqual(
      wanted.tables.map(({ name, rows }) => [name, rows.length]),
    );
    for (const [n, { name, rows }] of wanted.tables.entries())
      expect([name, found.tables[n].rows]).toEqual([name, rows]);
    expect(found.journals).toEqual(wanted.journals);
  });

  test("loaded, it says nothing of where it was recorded: addresses and secrets are those of the place", async () => {
    const owner = await databaseOf("recording_loaded");
    await migrateUpTo(owner, manifest?.migration ?? "");
    const env = environmentFor(local, owner);
    const folder = join(home, "loaded");
    await loadRecording(owner, folder, env, secrets);
    await prepareDatabase(owner, password);
    const db = new pg.Client({ connectionString: owner });
    await db.connect();
    const { tables } = readRecording();
    expect(await derivedFaults(db)).toEqual({});
    for (const { name, rows } of tables) {
      const { rows: found } = await db.query(`select count(*)::int as n from "${name}"`);
      expect([name, found[0].n]).toEqual([name, rows.length]);
      const { rows: left } = await db.query(
        `select count(*)::int as n from "${name}" t where t::text ~ '\\{\\{\\w+\\}\\}'`,
      );
      expect([name, left[0].n]).toEqual([name, 0]);
    }
    const { rows: pages } = await db.query(
      "select connector_url as url, connector_key as key from listings where connector_key is not null",
    );
    expect(pages.length).toBeGreaterThan(0);
    for (const { url, key } of pages) {
      expect(url).toContain(env.OUTBOUND_ALLOW.split(",")[0]);
      expect(decrypt(key)).toBe(placeKey(local.secrets.waypost, url.slice(url.lastIndexOf("/") + 1)));
    }
    await db.end();
    const mails = readFileSync(join(folder, "mail.jsonl"), "utf8");
    const reply = /\+([0-9a-f-]{36})\.([a-z0-9_-]{16})@/.exec(mails);
    expect(reply?.[2]).toBe(tagFor("reply", reply?.[1] ?? "").toLowerCase());
    expect(mails).toContain(`${env.APP_URL}/a/`);
  });
});
