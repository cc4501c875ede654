import { openLocal, ROOT } from "/work/main/scripts/local";
import { startPostgres } from "/work/main/scripts/postgres";
import { freshStack } from "/work/main/scripts/stack";

const local = await openLocal(ROOT + "/.local/test", 4300);
const pg = await startPostgres(local, { fast: true });
const s = await freshStack(local, pg.ownerUrl, "estima_browser", 14);
console.log("STACK READY", s.env.APP_URL);
process.on("SIGTERM", async () => {
  await s.stop();
  process.exit(0);
});
setInterval(() => {}, 1000);
