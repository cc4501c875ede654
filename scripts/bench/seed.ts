import { join } from "node:path";
import { prepareDatabase, recreateDatabase } from "../database";
import { openLocal, ROOT } from "../local";
import { startPostgres } from "../postgres";
import { FULL, fill } from "./fill";

/** `npm run bench:seed`: fills the database estima_scale with the full scale, by COPY. */
const local = await openLocal(
  process.env.ESTIMA_HOME ? join(process.env.ESTIMA_HOME, "bench") : join(ROOT, ".local", "bench"),
  4900,
);
const postgres = await startPostgres(local);
const began = Date.now();
try {
  const ownerUrl = await recreateDatabase(postgres.ownerUrl, "estima_scale");
  await prepareDatabase(ownerUrl, local.secrets.app);
  await fill(ownerUrl, FULL, Date.now(), console.log);
  console.log(`The scale is seeded in ${Math.round((Date.now() - began) / 1000)} s.`);
} finally {
  postgres.stop();
}
process.exit(0);
