import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { latestMigration, prepareDatabase, recreateDatabase } from "./database";
import { environmentFor, openLocal } from "./local";
import { startPostgres } from "./postgres";
import { FIRST_DAYS, liveForRecording } from "./recording/live";
import { capture, writeRecording } from "./recording/recording";
import { DEMO_NOW, HISTORY_DAYS } from "./seed/scenario";

/**
 * `npm run demo:record`: lives the demo's two months and writes them into the repository, for `npm run demo` and the
 * browser tests to load. Run it when the rules have changed what the history would be.
 */

// What is recorded belongs to the tables as they are now, whatever is added while it is lived.
const migration = latestMigration();
const home = mkdtempSync(join(tmpdir(), "estima-record-"));
const local = await openLocal(home, Number(process.env.PORT ?? 4700));
const postgres = await startPostgres(local, { fast: true });
try {
  const lived = async (days?: number) => {
    const ownerUrl = await recreateDatabase(postgres.ownerUrl, "estima");
    const env = environmentFor(local, await prepareDatabase(ownerUrl, local.secrets.app));
    const folder = join(home, "town");
    rmSync(folder, { recursive: true, force: true });
    await liveForRecording(local, env, folder, days);
    return capture(ownerUrl, folder, env);
  };
  const first = await lived(FIRST_DAYS);
  const whole = await lived();
  if (latestMigration() !== migration) throw new Error("A migration was added while it was lived: run it again.");
  const bytes = writeRecording({ migration, endsAt: DEMO_NOW, days: HISTORY_DAYS }, whole, first);
  const rows = whole.tables.reduce((sum, table) => sum + table.rows.length, 0);
  console.log(`${rows} rows of ${whole.tables.length} tables, ${(bytes / 1024 / 1024).toFixed(2)} MB.`);
} finally {
  postgres.stop();
  rmSync(home, { recursive: true, force: true });
}
process.exit(0);
