import { spawnSync } from "node:child_process";
import { join } from "node:path";
import pg from "pg";
import { addFeed, secretOf } from "@/features/intake";
import { closeDatabase, withClient } from "@/platform/database";
import { closeMail } from "@/platform/mail";
import { townPorts } from "../../standins/town";
import { prepareDatabase, recreateDatabase } from "../database";
import { end, environmentFor, openLocal, ROOT, start, untilReady } from "../local";
import { startPostgres } from "../postgres";
import { decisionsPerSecond } from "./decisions";
import { addVisits, claimAmong, clearVisits, examineThem, readThem, rehearseThem } from "./examining";
import { sendAll, signDeliveries } from "./hooks";
import { clearLists, makeList, throughCopy } from "./lists";
import { benchClient, clearBench, planMails, throughBareMailer, throughEstima } from "./sending";
import { tellThemes } from "./themes/run";

/** `npm run bench`: every figure beside its baseline, measured in turn in the same run, as a ratio. */

const MAILS = 2000;
const TURNS = 3;
const local = await openLocal(
  process.env.ESTIMA_HOME ? join(process.env.ESTIMA_HOME, "bench") : join(ROOT, ".local", "bench"),
  4900,
);
const postgres = await startPostgres(local);
const middle = (values: number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)];

const decisions = Array.from({ length: TURNS }, () => decisionsPerSecond());
console.log(
  `next-step decisions in core: ${Math.round(middle(decisions)).toLocaleString("en-GB")} a second, ${(middle(decisions) / 100_000).toFixed(1)} times the wanted 100,000 (${TURNS} turns)`,
);

tellThemes();

const env = {
  ...environmentFor(
    local,
    await prepareDatabase(await recreateDatabase(postgres.ownerUrl, "estima_bench"), local.secrets.app),
  ),
  ESTIMA_DEMO: "",
};
Object.assign(process.env, env);
const databaseUrl = postgres.ownerUrl.replace(/\/[^/]*$/, "/estima_bench");
let hookServer: ReturnType<typeof start> | undefined;
const base = local.port + 100;
const town = start("node", ["--import", "tsx", "standins/main.ts"], {
  ...env,
  TOWN_OPTIONS: JSON.stringify({
    basePort: base,
    folder: null,
    seed: 1,
    estimaUrl: null,
    secrets: local.secrets,
    places: [],
    senders: [],
  }),
});
try {
  try {
    await untilReady(`http://127.0.0.1:${townPorts(base).town}/health`);
    const client = await benchClient();
    const ours: number[] = [];
    const bare: number[] = [];
    // One unmeasured turn of each warms both.
    for (let turn = 0; turn <= TURNS; turn++) {
      await planMails(client, MAILS);
      const rate = await throughEstima(MAILS);
      const baseline = await throughBareMailer(MAILS);
      await clearBench(client.id);
      if (turn === 0) continue;
      ours.push(rate);
      bare.push(baseline);
      console.log(`  turn ${turn}: Estima ${Math.round(rate)} mails a second, bare mailer ${Math.round(baseline)}`);
    }
    console.log(
      `sending through the mail stand-in: ${Math.round(middle(ours))} mails a second beside ${Math.round(middle(bare))} of a bare pooled mailer: ${(middle(ours) / middle(bare)).toFixed(2)} (goal at least 0.7; ${MAILS} mails, middle of ${TURNS} turns)`,
    );
    await benchExamining(client);
    await benchLists(client);
    await benchHooks(client);
  } finally {
    hookServer && (await end(hookServer));
    await closeMail();
    await closeDatabase();
    await end(town);
  }
  // They have a review site of their own, at the town's address.
  benchPages();
} finally {
  postgres.stop();
}
process.exit(0);

/** Deciding about 100,000 visits beside reading them, rehearsing 10,000, and claiming what is due among a million. */
async function benchExamining(client: Awaited<ReturnType<typeof benchClient>>): Promise<void> {
  const count = Number(process.env.BENCH_VISITS ?? 100_000);
  await addVisits(databaseUrl, client, count);
  const ours: number[] = [];
  const bare: number[] = [];
  let asked = 0;
  for (let turn = 0; turn <= TURNS; turn++) {
    const baseline = await readThem(client);
    const done = await examineThem(client);
    if (turn === 0) continue;
    ours.push(done.seconds);
    bare.push(baseline);
    asked = done.asked;
  }
  console.log(
    `examining ${count.toLocaleString("en-GB")} visits: ${middle(ours).toFixed(2)} s beside ${middle(bare).toFixed(2)} s of the plainest SQL that reads them: ${(middle(ours) / middle(bare)).toFixed(2)} times (goal at most 3; ${asked.toLocaleString("en-GB")} would be asked)`,
  );
  const rehearsals = [];
  for (let turn = 0; turn <= TURNS; turn++) rehearsals.push(await rehearseThem(client, 10_000 / 14_400));
  const { visits, messages } = rehearsals[0];
  console.log(
    `rehearsing ${visits.toLocaleString("en-GB")} visits, ${messages.toLocaleString("en-GB")} messages with their texts: ${middle(rehearsals.slice(1).map(({ seconds }) => seconds)).toFixed(2)} s (goal for 10,000: under 3 s)`,
  );
  const few = await claimAmong(databaseUrl, client, 10_000);
  await clearVisits(databaseUrl, client);
  await addVisits(databaseUrl, client, 2);
  const many = await claimAmong(databaseUrl, client, 1_000_000);
  console.log(
    `claiming 100 due messages among 1,000,000 planned: ${many.toFixed(1)} ms beside ${few.toFixed(1)} ms among 10,000: ${(many / few).toFixed(2)} times (by index: about 1)`,
  );
  await clearVisits(databaseUrl, client);
}

/** A list of 100,000 rows, end to end. */
async function benchLists(client: Awaited<ReturnType<typeof benchClient>>): Promise<void> {
  const rows = Number(process.env.BENCH_ROWS ?? 100_000);
  const ours: number[] = [];
  const bare: number[] = [];
  let most = 0;
  for (let turn = 1; turn <= TURNS; turn++) {
    await clearLists(databaseUrl, client);
    const run = spawnSync(
      "node",
      ["--max-old-space-size=230", "--import", "tsx", "scripts/bench/listRun.ts", client.id, String(rows)],
      {
        cwd: ROOT,
        env: process.env,
        encoding: "utf8",
      },
    );
    if (run.status !== 0) throw new Error(run.stderr);
    const { rate, megabytes } = JSON.parse(run.stdout.trim().split("\n").at(-1) ?? "{}") as {
      rate: number;
      megabytes: number;
    };
    await clearLists(databaseUrl, client);
    const baseline = await throughCopy(databaseUrl, client, makeList(rows));
    ours.push(rate);
    bare.push(baseline);
    most = Math.max(most, megabytes);
    console.log(
      `  turn ${turn}: Estima ${Math.round(rows / rate)} s and ${megabytes} MB, bare parse and COPY ${(rows / baseline).toFixed(1)} s`,
    );
  }
  await clearLists(databaseUrl, client);
  console.log(
    `a list of ${rows.toLocaleString("en-GB")} rows: ${(rows / middle(ours)).toFixed(1)} s beside ${(rows / middle(bare)).toFixed(1)} s of bare parse and COPY into the same tables: ${(middle(bare) / middle(ours)).toFixed(2)} times (goal at most 3), ${most} MB at most with a heap of 230 MB (goal under 400)`,
  );
}

/** Webhook deliveries beside a bare route. */
async function benchHooks(client: Awaited<ReturnType<typeof benchClient>>): Promise<void> {
  const scope = { clientId: client.id };
  const feed = await withClient(scope, (tx) =>
    addFeed(
      tx,
      scope,
      "Bench",
      { kind: "webhook", name: "Bench", url: "", branchId: null, serviceId: null },
      Date.now(),
    ),
  );
  const owner = new pg.Client({ connectionString: databaseUrl });
  await owner.connect();
  await owner.query(
    "create table bench_rows (id bigserial primary key, body jsonb not null); grant all on bench_rows, bench_rows_id_seq to estima_app",
  );
  const port = local.port + 2;
  hookServer = start("node", ["--import", "tsx", "scripts/bench/hookServer.ts", String(port)], env);
  await untilReady(`http://127.0.0.1:${port}/health`);
  const ours: number[] = [];
  const bare: number[] = [];
  for (let turn = 0; turn <= TURNS; turn++) {
    const rate = await sendAll(
      `http://127.0.0.1:${port}/hooks/feeds/${feed.id}`,
      signDeliveries(secretOf(feed) ?? "", 3000),
    );
    const baseline = await sendAll(`http://127.0.0.1:${port}/bare`, signDeliveries(secretOf(feed) ?? "", 3000));
    if (turn === 0) continue;
    ours.push(rate);
    bare.push(baseline);
  }
  await owner.end();
  console.log(
    `webhook deliveries: ${Math.round(middle(ours))} a second beside ${Math.round(middle(bare))} of a bare route that inserts one row: ${(middle(ours) / middle(bare)).toFixed(2)} (goal at least 0.5)`,
  );
}

/** Pages and searches at the seeded scale, in a process of their own: another database. */
function benchPages(): void {
  const home = { ESTIMA_HOME: local.home, PORT: String(local.port) };
  const run = spawnSync("node", ["--import", "tsx", "scripts/bench/pagesRun.ts"], {
    cwd: ROOT,
    env: { ...process.env, ...home },
    stdio: ["ignore", "inherit", "inherit"],
  });
  if (run.status !== 0) throw new Error("Pages could not be measured.");
}
