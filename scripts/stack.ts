import type { ChildProcess } from "node:child_process";
import { rmSync } from "node:fs";
import { join } from "node:path";
import { townPorts } from "../standins/town";
import { buildOnce } from "./build";
import { prepareDatabase, recreateDatabase } from "./database";
import { end, environmentFor, type Local, start, untilReady } from "./local";
import { LAPSED_DOMAIN } from "./seed/scenario";
import { townOptions } from "./seed/seed";

/** Web, worker and town of a local copy, started together. */
export type Stack = { env: Record<string, string>; children: ChildProcess[]; stop: () => Promise<void> };

/** Fills an empty database with the demo by running its history. */
export async function seedInto(local: Local, env: Record<string, string>): Promise<void> {
  const seed = start("node", ["--import", "tsx", "scripts/demo-seed.ts"], {
    ...env,
    ESTIMA_HOME: local.home,
    PORT: String(local.port),
  });
  const code = await new Promise<number | null>((done) => seed.on("exit", done));
  if (code !== 0) throw new Error("The demo could not be filled.");
}

/** Starts the parts over a database that is up to date. */
export async function startStack(local: Local, env: Record<string, string>): Promise<Stack> {
  const children: ChildProcess[] = [];
  const production = { ...env, NODE_ENV: "production", LOG_LEVEL: "warn" };
  const options = {
    ...townOptions(local.port + 100, join(local.home, "town"), env.APP_URL, local.secrets),
    bounces: [`@${LAPSED_DOMAIN}`],
  };
  children.push(
    start("node", ["--import", "tsx", "standins/main.ts"], { ...env, TOWN_OPTIONS: JSON.stringify(options) }),
  );
  children.push(
    start(
      "node",
      ["--import", "tsx", "src/web/main.ts"],
      { ...production, PORT: String(local.port), HOST: "127.0.0.1" },
      true,
    ),
  );
  await untilReady(`${env.TOWN_URL}/health`);
  await untilReady(`${env.APP_URL}/health`);
  children.push(start("node", ["--import", "tsx", "src/worker/main.ts"], production, true));
  await untilReady(`http://127.0.0.1:${local.port + 1}/health`);
  return {
    env,
    children,
    stop: async () => {
      await Promise.all(children.map((child) => end(child)));
    },
  };
}

/** A stack over a database of its own with a short history: for the browser tests and the pictures. */
export async function freshStack(
  local: Local,
  ownerUrl: string,
  name: string,
  historyDays: number | null,
): Promise<Stack> {
  const owner = await recreateDatabase(ownerUrl, name);
  const env = environmentFor(local, await prepareDatabase(owner, local.secrets.app));
  rmSync(join(local.home, "town"), { recursive: true, force: true });
  const building = buildOnce(env);
  building.catch(() => {});
  await seedInto(local, historyDays === null ? env : { ...env, DEMO_HISTORY_DAYS: String(historyDays) });
  await building;
  return startStack(local, env);
}

/** The ports a local copy takes. */
export function portsOf(local: Local): number[] {
  return [local.port, local.port + 1, ...Object.values(townPorts(local.port + 100))];
}
