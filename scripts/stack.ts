import type { ChildProcess } from "node:child_process";
import { rmSync } from "node:fs";
import { basename, join } from "node:path";
import { encrypt, tagFor } from "@/platform/secrets";
import { townPorts } from "../standins/town";
import { placeKey } from "../standins/waypost";
import { buildOnce } from "./build";
import { appUrlOf, migrateUpTo, prepareDatabase, recreateDatabase } from "./database";
import { end, environmentFor, type Local, start, untilReady } from "./local";
import { loadRecording, readManifest } from "./recording/recording";
import { LAPSED_DOMAIN } from "./seed/scenario";
import { townOptions } from "./seed/seed";

/** Web, worker and town of a local copy, started together. */
export type Stack = { env: Record<string, string>; children: ChildProcess[]; stop: () => Promise<void> };

/**
 * Makes the demo in an empty database and gives the environment of its parts: the recorded history is loaded, and
 * brought up to date by later migrations. Where there is no recording, or a shorter history is wanted, it is lived.
 */
export async function makeDemo(
  local: Local,
  ownerUrl: string,
  historyDays: number | null = null,
): Promise<Record<string, string>> {
  const recording = historyDays === null ? readManifest() : null;
  if (!recording && historyDays === null)
    console.log("No recording of Merrow Bay is here: its two months are lived now, which takes four minutes ...");
  if (recording) await migrateUpTo(ownerUrl, recording.migration);
  else await prepareDatabase(ownerUrl, local.secrets.app);
  const env = environmentFor(local, appUrlOf(ownerUrl, local.secrets.app));
  if (recording) {
    console.log(`Loading ${recording.days} days of Merrow Bay ...`);
    Object.assign(process.env, env);
    await loadRecording(ownerUrl, join(local.home, "town"), env, {
      sealedKey: (url) => encrypt(placeKey(local.secrets.waypost, basename(url))),
      tag: (id) => tagFor("reply", id),
    });
    await prepareDatabase(ownerUrl, local.secrets.app);
  }
  await fillDemo(local, recording ? "open" : "live", {
    ...env,
    ...(recording ? { DEMO_OWNER_URL: ownerUrl } : {}),
    ...(historyDays === null ? {} : { DEMO_HISTORY_DAYS: String(historyDays) }),
  });
  return env;
}

async function fillDemo(local: Local, how: "live" | "open", env: Record<string, string>): Promise<void> {
  const seed = start("node", ["--import", "tsx", "scripts/demo-seed.ts", how], {
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

/** The demo in a database of its own, for the browser tests and the pictures; gives the environment to start it with. */
export async function freshDemo(
  local: Local,
  ownerUrl: string,
  name: string,
  historyDays: number | null,
): Promise<Record<string, string>> {
  const owner = await recreateDatabase(ownerUrl, name);
  rmSync(join(local.home, "town"), { recursive: true, force: true });
  return makeDemo(local, owner, historyDays);
}

/** The same, started. */
export async function freshStack(
  local: Local,
  ownerUrl: string,
  name: string,
  historyDays: number | null,
): Promise<Stack> {
  const building = buildOnce(environmentFor(local, ""));
  building.catch(() => {});
  const env = await freshDemo(local, ownerUrl, name, historyDays);
  await building;
  return startStack(local, env);
}

/**
 * Web and worker over an empty database, as a real installation begins, beside a stack whose town they write to. `token`
 * is what the server prints.
 */
export async function startUnbegun(local: Local, ownerUrl: string, beside: Stack): Promise<Stack & { token: string }> {
  const owner = await recreateDatabase(ownerUrl, "estima_unbegun");
  const [web, worker] = [local.port + UNBEGUN, local.port + UNBEGUN + 1];
  const env = {
    ...beside.env,
    DATABASE_APP_URL: await prepareDatabase(owner, local.secrets.app),
    APP_URL: `http://127.0.0.1:${web}`,
    PORT: String(web),
    WORKER_PORT: String(worker),
    ESTIMA_DEMO: "",
    NODE_ENV: "production",
    LOG_LEVEL: "warn",
  };
  const children = [
    start("node", ["--import", "tsx", "src/web/main.ts"], { ...env, HOST: "127.0.0.1" }, true),
    start("node", ["--import", "tsx", "src/worker/main.ts"], env, true),
  ];
  await untilReady(`${env.APP_URL}/health`);
  await untilReady(`http://127.0.0.1:${worker}/health`);
  return {
    env,
    children,
    token: tagFor("begin", "the first account"),
    stop: async () => {
      await Promise.all(children.map((child) => end(child)));
    },
  };
}

/** How far the ports of an installation that has not begun lie from those of the copy beside it. */
const UNBEGUN = 10;

/** The ports a local copy takes. */
export function portsOf(local: Local): number[] {
  const { port } = local;
  return [port, port + 1, port + UNBEGUN, port + UNBEGUN + 1, ...Object.values(townPorts(port + 100))];
}
