import type { ChildProcess } from "node:child_process";
import { existsSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { DEMO_PASSWORD, DEMO_SEATS } from "@/features/demo";
import { townPorts } from "../standins/town";
import { buildOnce } from "./build";
import { prepareDatabase, recreateDatabase } from "./database";
import { end, environmentFor, openLocal, start, untilReady } from "./local";
import { startPostgres } from "./postgres";
import { LAPSED_DOMAIN } from "./seed/scenario";
import { townOptions } from "./seed/seed";

/** `npm run demo`: everything at once, from nothing. `--fresh` starts anew, `--seed-only` ends when the data is there. */

const SEEDED = "estima demo";
const fresh = process.argv.includes("--fresh");
const local = await openLocal();
const children: ChildProcess[] = [];
const postgres = await startPostgres(local);
let stopping = false;

async function stop(code: number): Promise<never> {
  if (!stopping) {
    stopping = true;
    await Promise.all(children.map((child) => end(child)));
    postgres.stop();
  }
  process.exit(code);
}
process.on("SIGINT", () => void stop(0));
process.on("SIGTERM", () => void stop(0));

try {
  const town = townPorts(local.port + 100);
  for (const port of [local.port, local.port + 1, ...Object.values(town)]) await assertFree(port);
  const isNew = fresh || !(await hasData(postgres.ownerUrl));
  if (isNew) await recreateDatabase(postgres.ownerUrl, new URL(postgres.ownerUrl).pathname.slice(1));
  const appUrl = await prepareDatabase(postgres.ownerUrl, local.secrets.app);
  const env = environmentFor(local, appUrl);
  const building = buildOnce(env);
  // A build that fails while the seed runs is told at the end of both.
  building.catch(() => {});
  if (isNew) {
    console.log("Two months pass in Merrow Bay, one due moment after the other. This takes two or three minutes ...");
    rmSync(join(local.home, "seeded"), { force: true });
    const seed = start("node", ["--import", "tsx", "scripts/demo-seed.ts"], env);
    children.push(seed);
    const code = await new Promise<number | null>((done) => seed.on("exit", done));
    if (code !== 0) throw new Error("The demo could not be filled.");
    await markSeeded(postgres.ownerUrl);
    writeFileSync(join(local.home, "seeded"), new Date().toISOString());
  }
  await building;
  if (!process.argv.includes("--seed-only")) {
    const options = { ...townOptions(local.port + 100, join(local.home, "town"), env.APP_URL, local.secrets), bounces: [`@${LAPSED_DOMAIN}`] };
    children.push(start("node", ["--import", "tsx", "standins/main.ts"], { ...env, TOWN_OPTIONS: JSON.stringify(options) }));
    children.push(start("node", ["node_modules/next/dist/bin/next", "start", "-p", String(local.port), "-H", "127.0.0.1"], { ...env, NODE_ENV: "production", LOG_LEVEL: "warn" }, true));
    await untilReady(`${env.TOWN_URL}/health`);
    await untilReady(`${env.APP_URL}/health`);
    children.push(start("node", ["--import", "tsx", "src/worker/main.ts"], { ...env, NODE_ENV: "production", LOG_LEVEL: "warn" }, true));
    await untilReady(`http://127.0.0.1:${local.port + 1}/health`);
    for (const child of children.slice(-3)) child.on("exit", (code) => !stopping && (console.error(`A part of Estima ended by itself (${code}).`), void stop(1)));
    console.log(`\nEstima is ready at ${env.APP_URL}\n\nThe sign-in page offers these seats in one click (password for each: ${DEMO_PASSWORD}):`);
    for (const seat of DEMO_SEATS) console.log(`  ${seat.name.padEnd(12)} ${seat.email.padEnd(28)} ${seat.says}`);
    console.log(`\nThe simulated town (mailboxes, phones, Waypost): ${env.TOWN_URL}\nCtrl-C stops all of it.`);
  } else await stop(0);
} catch (error) {
  console.error((error as Error).message);
  await stop(1);
}

async function assertFree(port: number): Promise<void> {
  const { createServer } = await import("node:net");
  await new Promise<void>((done, fail) => {
    const server = createServer();
    server.once("error", () => fail(new Error(`Port ${port} is taken. Stop what uses it, or set PORT to another number.`)));
    server.listen(port, "127.0.0.1", () => server.close(() => done()));
  });
}

/** Whether an earlier seed ran to its end in this database. */
async function hasData(ownerUrl: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  try {
    const { rows } = await client.query("select obj_description('public'::regnamespace) as note");
    return rows[0]?.note === SEEDED && existsSync(join(local.home, "seeded")) && readFileSync(join(local.home, "seeded"), "utf8").length > 0;
  } finally {
    await client.end();
  }
}

async function markSeeded(ownerUrl: string): Promise<void> {
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  await client.query(`comment on schema public is '${SEEDED}'`);
  await client.query("analyze");
  await client.end();
}
