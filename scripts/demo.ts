import { existsSync, rmSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import pg from "pg";
import { DEMO_PASSWORD, DEMO_SEATS } from "@/features/navigation";
import { buildOnce } from "./build";
import { prepareDatabase, recreateDatabase } from "./database";
import { environmentFor, isFree, openLocal } from "./local";
import { commitLazily, startPostgres } from "./postgres";
import { makeDemo, portsOf, type Stack, startStack } from "./stack";

/** `npm run demo`: everything at once, from nothing. `--fresh` starts anew. */

const local = await openLocal();
const seeded = join(local.home, "seeded");
const postgres = await startPostgres(local);
let stack: Stack | undefined;
let stopping = false;

async function stop(code: number): Promise<never> {
  if (!stopping) {
    stopping = true;
    await stack?.stop();
    postgres.stop();
  }
  process.exit(code);
}
process.on("SIGINT", () => void stop(0));
process.on("SIGTERM", () => void stop(0));

try {
  for (const port of portsOf(local))
    if (!(await isFree(port)))
      throw new Error(`Port ${port} is taken. Stop what uses it, or set PORT to another number.`);
  const isNew = process.argv.includes("--fresh") || !existsSync(seeded) || (await isEmpty(postgres.ownerUrl));
  if (isNew) await recreateDatabase(postgres.ownerUrl, new URL(postgres.ownerUrl).pathname.slice(1));
  const building = buildOnce(environmentFor(local, ""));
  // A build that fails while the demo is made is told at the end of both.
  building.catch(() => {});
  let env: Record<string, string>;
  if (isNew) {
    rmSync(seeded, { force: true });
    await commitLazily(postgres.ownerUrl, true);
    env = await makeDemo(local, postgres.ownerUrl);
    await commitLazily(postgres.ownerUrl, false);
    writeFileSync(seeded, new Date().toISOString());
  } else env = environmentFor(local, await prepareDatabase(postgres.ownerUrl, local.secrets.app));
  console.log("Building the web application, unless it is built already ...");
  await building;
  stack = await startStack(local, env);
  for (const child of stack.children) {
    child.on("exit", (code) => {
      if (stopping) return;
      console.error(`A part of Estima ended by itself (${code}).`);
      void stop(1);
    });
  }
  console.log(
    `\nEstima is ready at ${env.APP_URL}\n\nThe sign-in page offers these seats in one click (password for each: ${DEMO_PASSWORD}):`,
  );
  for (const seat of DEMO_SEATS) console.log(`  ${seat.name.padEnd(12)} ${seat.email.padEnd(28)} ${seat.says}`);
  console.log(`\nThe simulated town (mailboxes, phones, Waypost): ${env.TOWN_URL}\nCtrl-C stops all of it.`);
} catch (error) {
  console.error((error as Error).message);
  await stop(1);
}

/** Whether the database holds no demo, whatever the mark in the data folder says. */
async function isEmpty(ownerUrl: string): Promise<boolean> {
  const client = new pg.Client({ connectionString: ownerUrl });
  await client.connect();
  try {
    const { rows } = await client.query("select count(*)::int as n from demo_clock");
    return rows[0].n === 0;
  } catch {
    return true;
  } finally {
    await client.end();
  }
}
