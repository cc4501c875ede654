import { type ChildProcess, spawn } from "node:child_process";
import { randomBytes } from "node:crypto";
import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { createServer } from "node:net";
import { dirname, join, resolve } from "node:path";
import { fileURLToPath } from "node:url";
import { COMMONS_CLIENT, commonsSecret } from "../standins/guides";
import { townPorts } from "../standins/town";

/** Where a local copy of Estima keeps its data and how its parts find one another. */

export const ROOT = dirname(dirname(fileURLToPath(import.meta.url)));

export type Local = { home: string; port: number; secrets: Secrets };
type Secrets = {
  postgres: string;
  app: string;
  estima: string;
  mailHook: string;
  textHook: string;
  textKey: string;
  waypost: string;
  postgresPort: number;
};

/** The data folder and its secrets, made at the first use. */
export async function openLocal(
  home = process.env.ESTIMA_HOME ?? join(ROOT, ".local"),
  port = Number(process.env.PORT ?? 3000),
): Promise<Local> {
  if (!Number.isInteger(port) || port < 1024 || port > 65000)
    throw new Error("PORT must be a number from 1024 to 65000.");
  const folder = resolve(home);
  mkdirSync(folder, { recursive: true });
  const file = join(folder, "secrets.json");
  if (!existsSync(file)) {
    const secret = () => randomBytes(24).toString("hex");
    const made: Secrets = {
      postgres: secret(),
      app: secret(),
      estima: secret(),
      mailHook: secret(),
      textHook: secret(),
      textKey: secret(),
      waypost: secret(),
      postgresPort: await freePort(),
    };
    writeFileSync(file, JSON.stringify(made, null, 2), { mode: 0o600 });
  }
  return { home: folder, port, secrets: JSON.parse(readFileSync(file, "utf8")) as Secrets };
}

/** A port that nobody listens on now. */
export function freePort(): Promise<number> {
  return new Promise((done, fail) => {
    const server = createServer();
    server.on("error", fail);
    server.listen(0, "127.0.0.1", () => {
      const address = server.address();
      server.close(() => done(typeof address === "object" && address ? address.port : 0));
    });
  });
}

/** Whether nobody listens on a port of this machine. */
export function isFree(port: number): Promise<boolean> {
  return new Promise((done) => {
    const server = createServer();
    server.once("error", () => done(false));
    server.listen(port, "127.0.0.1", () => server.close(() => done(true)));
  });
}

/** The environment of web and worker for a local copy with the simulated town. */
export function environmentFor(local: Local, databaseAppUrl: string): Record<string, string> {
  const { port, secrets } = local;
  const town = townPorts(port + 100);
  const at = (where: number) => `http://127.0.0.1:${where}`;
  return {
    DATABASE_APP_URL: databaseAppUrl,
    APP_URL: at(port),
    PORT: String(port),
    WORKER_PORT: String(port + 1),
    ESTIMA_SECRET: secrets.estima,
    ESTIMA_DEMO: "1",
    SMTP_URL: `smtp://127.0.0.1:${town.smtp}`,
    MAIL_HOOK_SECRET: secrets.mailHook,
    TEXT_GATEWAY_URL: at(town.texts),
    TEXT_GATEWAY_KEY: secrets.textKey,
    TEXT_HOOK_SECRET: secrets.textHook,
    OUTBOUND_ALLOW: [town.waypost, town.daybook, town.town, town.texts, town.mail].map(at).join(","),
    TOWN_URL: at(town.town),
    WAYPOST_URL: at(town.waypost),
    COMMONS_URL: `${at(town.town)}/commons`,
    COMMONS_CLIENT_ID: COMMONS_CLIENT,
    COMMONS_CLIENT_SECRET: commonsSecret(secrets.waypost),
    TENFOLD_URL: `${at(town.town)}/tenfold`,
    RESOLVER_URL: `${at(town.town)}/resolve`,
    NEXT_TELEMETRY_DISABLED: "1",
  };
}

/** Starts a program of this project with the given environment; its output goes where ours goes, or to nowhere. */
export function start(command: string, args: string[], env: Record<string, string>, quiet = false): ChildProcess {
  return spawn(command, args, {
    cwd: ROOT,
    env: { ...process.env, ...env } as NodeJS.ProcessEnv,
    stdio: ["ignore", quiet ? "ignore" : "inherit", "inherit"],
  });
}

/** Runs a program to its end; rejects when it fails. */
export function runToEnd(command: string, args: string[], env: Record<string, string> = {}): Promise<void> {
  return new Promise((done, fail) => {
    const child = start(command, args, env);
    child.on("error", fail);
    child.on("exit", (code) =>
      code === 0 ? done() : fail(new Error(`${command} ${args.join(" ")} ended with ${code}`)),
    );
  });
}

/** Waits until an address answers with 200. */
export async function untilReady(address: string, seconds = 60): Promise<void> {
  const end = Date.now() + seconds * 1000;
  for (;;) {
    try {
      const response = await fetch(address, { signal: AbortSignal.timeout(2000) });
      await response.arrayBuffer();
      if (response.ok) return;
    } catch {
      // not there yet
    }
    if (Date.now() > end) throw new Error(`${address} did not answer within ${seconds} seconds.`);
    await new Promise((next) => setTimeout(next, 150));
  }
}

/** Ends a child: asked first, then made to. */
export async function end(child: ChildProcess | undefined): Promise<void> {
  if (!child || child.exitCode !== null || child.signalCode !== null) return;
  const gone = new Promise<void>((done) => child.once("exit", () => done()));
  child.kill("SIGTERM");
  const timer = setTimeout(() => child.kill("SIGKILL"), 8000);
  await gone;
  clearTimeout(timer);
}
