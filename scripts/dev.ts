import { join } from "node:path";
import { prepareDatabase } from "./database";
import { environmentFor, openLocal, start } from "./local";
import { startPostgres } from "./postgres";
import { townOptions } from "./seed/seed";

/**
 * `npm run dev`: the web application with live reload over the demo's data. Worker and town run beside it as in the
 * demo.
 */
const local = await openLocal();
const postgres = await startPostgres(local);
const env = environmentFor(local, await prepareDatabase(postgres.ownerUrl, local.secrets.app));
const web = start("node", ["node_modules/next/dist/bin/next", "dev", "-p", String(local.port), "-H", "127.0.0.1"], env);
const worker = start("node", ["--watch", "--import", "tsx", "src/worker/main.ts"], env);
const town = start("node", ["--import", "tsx", "standins/main.ts"], {
  ...env,
  TOWN_OPTIONS: JSON.stringify(townOptions(local.port + 100, join(local.home, "town"), env.APP_URL, local.secrets)),
});
const stop = () => {
  for (const child of [web, worker, town]) child.kill("SIGTERM");
  postgres.stop();
  process.exit(0);
};
process.on("SIGINT", stop);
process.on("SIGTERM", stop);
