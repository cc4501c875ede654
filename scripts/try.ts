import { openLocal, environmentFor, runToEnd } from "./local";
import { startPostgres } from "./postgres";
import { prepareDatabase, recreateDatabase } from "./database";
const local = await openLocal();
let { ownerUrl } = await startPostgres(local);
ownerUrl = await recreateDatabase(ownerUrl, "estima");
const app = await prepareDatabase(ownerUrl, local.secrets.app);
await runToEnd("node", ["--import", "/tmp/patch.mjs", "--import", "tsx", "scripts/demo-seed.ts"], { ...environmentFor(local, app), DEMO_HISTORY_DAYS: "6" });
