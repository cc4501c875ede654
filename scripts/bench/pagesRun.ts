import pg from "pg";
import { closeDatabase } from "@/platform/database";
import { buildOnce } from "../build";
import { prepareDatabase, recreateDatabase } from "../database";
import { end, environmentFor, openLocal, start, untilReady } from "../local";
import { startPostgres } from "../postgres";
import { answerPageBesidePlain, composingBesidePlain, pictureBesideJpeg } from "./customer";
import { FULL, fill } from "./fill";
import { firstReadingBesideCopy } from "./firstReading";
import { type Pair, pagesBesidePlain, queriesBesidePlain, seededPlaces, signInAt, startPageBesidePlain } from "./pages";

/** Fills a database with the full scale and measures pages and searches on it; `npm run bench` starts it in the data folder of the bench. */
const local = await openLocal();
const postgres = await startPostgres(local);
const ownerUrl = await recreateDatabase(postgres.ownerUrl, "estima_bench_pages");
const env: Record<string, string> = {
  ...environmentFor(local, await prepareDatabase(ownerUrl, local.secrets.app)),
  ESTIMA_DEMO: "",
};
Object.assign(process.env, env);
await buildOnce(env);
const filled = await fill(ownerUrl, FULL, Date.now());
const { slug, personId } = await seededPlaces(filled);
/** Links of people of the seeded data that still work. */
async function tokensOf(databaseUrl: string, clientId: string): Promise<string[]> {
  const client = new pg.Client({ connectionString: databaseUrl });
  await client.connect();
  const { rows } = await client.query(
    "select token from asks where client_id = $1 order by last_sent_at desc nulls last limit 400",
    [clientId],
  );
  await client.end();
  return rows.map(({ token }) => token);
}
const say = (what: string, goal: string, pairs: Pair[]) => {
  for (const { name, ours, plain } of pairs)
    console.log(`  ${name}: ${ours.toFixed(1)} ms beside ${plain.toFixed(1)} ms: ${(ours / plain).toFixed(2)}`);
  const worst = Math.max(...pairs.map(({ ours, plain }) => ours / plain));
  console.log(`${what}: ${worst.toFixed(2)} times at most (goal at most ${goal})`);
};
say(
  "queries of lists and searches at the seeded scale, beside the plainest indexed query of as many rows",
  "2",
  await queriesBesidePlain(filled, ownerUrl),
);
say("the first reading of a site, beside fetching its pages and COPY", "3", [
  await firstReadingBesideCopy(ownerUrl, { id: filled.clientId, branchId: filled.branchIds[0] }, 50_000),
]);
say("an agency’s start page, beside its plainest query", "2", [await startPageBesidePlain(ownerUrl, Date.now())]);
say("emails composed, beside a plain string that is filled", "4", [await composingBesidePlain()]);
say("pictures with a name, beside a JPEG of their size", "4", [await pictureBesideJpeg()]);
const cookie = await signInAt(ownerUrl, filled.clientId);
const web = start("node", ["--import", "tsx", "src/web/main.ts"], {
  ...env,
  NODE_ENV: "production",
  LOG_LEVEL: "warn",
});
try {
  await untilReady(`${env.APP_URL}/health`);
  say(
    "whole pages at the seeded scale, beside the page of the services",
    "2",
    await pagesBesidePlain(env.APP_URL, cookie, slug, personId),
  );
  say("customers’ pages, beside bare pages of the same bytes", "2", [
    await answerPageBesidePlain(env.APP_URL, ownerUrl, await tokensOf(ownerUrl, filled.clientId)),
  ]);
} finally {
  await end(web);
  await closeDatabase();
}
process.exit(0);
