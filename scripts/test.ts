import { type ChildProcess, spawn } from "node:child_process";
import { mkdirSync, rmSync, writeFileSync } from "node:fs";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { setTimeout as sleep } from "node:timers/promises";
import { buildOnce } from "./build";
import { breaches } from "./layers";
import { environmentFor, isFree, type Local, openLocal, ROOT } from "./local";
import { startPostgres } from "./postgres";
import { proofs } from "./proofs";
import { freshDemo, portsOf, type Stack, startStack, startUnbegun } from "./stack";
import { browserReport, jestReport, type RunnerReport, readReport, slowest } from "./testReports";
import { wordingFaults } from "./wording";

/**
 * `npm test`: types, lint, layers, unit and integration tests, browser tests. What needs no other result runs side by
 * side: the checks, the build and the demo's data beside Jest; then the browser in two lanes, each with a copy of the
 * demo to itself.
 *
 * `--check` leaves the browser out, `--browser` everything else; `--whole` runs the long proofs whole, and only files
 * that have one (`npm run prove`). Anything else narrows the tests to files whose path contains it.
 */

const flags = new Set(process.argv.slice(2).filter((it) => it.startsWith("--")));
const isWhole = flags.has("--whole");
const wanted = process.argv.slice(2).filter((it) => !it.startsWith("--"));
const patterns = wanted.length > 0 || !isWhole ? wanted : proofs();
const runsBrowser = !flags.has("--check");
const runsRest = !flags.has("--browser");
const began = Date.now();
const results = join(ROOT, "test-results");

const children = new Set<ChildProcess>();
const stages: { name: string; seconds: number }[] = [];
const files: { name: string; seconds: number }[] = [];
const failures: string[] = [];
let passed = 0;

/** Runs a stage, and notes how long it took. One that throws is a failure, and the others go on. */
async function stage(name: string, work: () => Promise<void>): Promise<void> {
  const from = Date.now();
  try {
    await work();
  } catch (error) {
    failures.push(`${name}\n${(error as Error).message}`);
  }
  const seconds = (Date.now() - from) / 1000;
  stages.push({ name, seconds });
  console.log(`■ ${name}: ${seconds.toFixed(0)} s (${((Date.now() - began) / 60_000).toFixed(1)} min since the start)`);
}

/** Runs a program. With `isQuiet` its output is printed only if it fails, in one piece. */
function run(args: string[], env: Record<string, string> = {}, isQuiet = false): Promise<boolean> {
  return new Promise((done) => {
    const child = spawn("node", args, {
      cwd: ROOT,
      // A group of its own: ended with all that it started, workers of a crash test included.
      detached: true,
      stdio: ["ignore", isQuiet ? "pipe" : "inherit", isQuiet ? "pipe" : "inherit"],
      env: { ...process.env, ...env } as NodeJS.ProcessEnv,
    });
    children.add(child);
    const said: Buffer[] = [];
    child.stdout?.on("data", (part: Buffer) => said.push(part));
    child.stderr?.on("data", (part: Buffer) => said.push(part));
    child.on("close", (code) => {
      children.delete(child);
      if (code !== 0 && said.length > 0) console.log(Buffer.concat(said).toString());
      done(code === 0);
    });
  });
}

function check(name: string, ok: boolean, detail = ""): void {
  console.log(`${ok ? "✓" : "✗"} ${name}${ok || !detail ? "" : `\n${detail}`}`);
  if (ok) passed += 1;
  else failures.push(`${name}${detail && `\n${detail}`}`);
}

/** Adds what a runner's report says; one that ended badly has failed even if its report names nothing. */
function add(name: string, endedWell: boolean, report: RunnerReport): void {
  passed += report.passed;
  files.push(...report.files);
  failures.push(...report.failures);
  if (!endedWell && report.failures.length === 0) failures.push(`${name} ended badly without naming a failure`);
}

async function localForTests(): Promise<Local> {
  const home = process.env.ESTIMA_HOME ? join(process.env.ESTIMA_HOME, "test") : join(ROOT, ".local", "test");
  for (let port = 4300; port < 4900; port += 150) {
    const local = await openLocal(home, port);
    if ((await Promise.all(lanesOf(local).flatMap(portsOf).map(isFree))).every(Boolean)) return local;
  }
  throw new Error("No free ports for the tests.");
}

/** The lanes of the browser tests (playwright.config.ts), each with ports and data of its own. */
const lanesOf = (local: Local): Local[] => [
  local,
  { ...local, home: join(local.home, "second"), port: local.port + 50 },
];

const checks = async () => {
  check("types", await run(["node_modules/typescript/bin/tsc", "--noEmit", "-p", "."], {}, true));
  check("lint", await run(["node_modules/@biomejs/biome/bin/biome", "check", "."], {}, true));
  const breached = breaches();
  check("layers", breached.length === 0, breached.join("\n"));
  const said = wordingFaults(ROOT);
  check("wording", said.length === 0, said.join("\n"));
};

async function jest(ownerUrl: string, appPassword: string): Promise<void> {
  const report = join(results, "jest.json");
  const endedWell = await run(
    [
      "--experimental-vm-modules",
      "--no-warnings",
      "node_modules/jest/bin/jest.js",
      "--ci",
      "--passWithNoTests",
      `--maxWorkers=${Math.min(4, availableParallelism())}`,
      "--json",
      `--outputFile=${report}`,
      ...patterns,
    ],
    { TEST_DATABASE_URL: ownerUrl, TEST_APP_PASSWORD: appPassword, ESTIMA_PROVE: isWhole ? "1" : "" },
  );
  add("unit and integration tests", endedWell, readReport(report, jestReport));
}

async function browser(lane: number, stack: Stack, unbegun: Awaited<ReturnType<typeof startUnbegun>> | null) {
  const report = join(results, `browser-${lane + 1}.json`);
  const endedWell = await run(
    [
      "node_modules/@playwright/test/cli.js",
      "test",
      `--project=lane ${lane + 1}*`,
      "--pass-with-no-tests",
      `--output=test-results/lane-${lane + 1}`,
      ...patterns,
    ],
    {
      ESTIMA_E2E: stack.env.APP_URL,
      ESTIMA_E2E_TOWN: stack.env.TOWN_URL,
      ...(unbegun ? { ESTIMA_E2E_UNBEGUN: unbegun.env.APP_URL, ESTIMA_E2E_TOKEN: unbegun.token } : {}),
      ESTIMA_E2E_REPORT: report,
      ESTIMA_PROVE: isWhole ? "1" : "",
    },
  );
  add(`browser tests, lane ${lane + 1}`, endedWell, readReport(report, browserReport));
}

rmSync(results, { recursive: true, force: true });
mkdirSync(results, { recursive: true });
const local = await localForTests();
const postgres = await startPostgres(local, { fast: true });
const demos: [Local, Record<string, string>][] = [];
const stacks: Stack[] = [];
let isEnding = false;

function endGroup(pid: number | undefined, signal: "SIGTERM" | "SIGKILL"): void {
  try {
    if (pid) process.kill(-pid, signal);
  } catch {
    // It has ended.
  }
}

async function finish(code: number): Promise<never> {
  isEnding = true;
  for (const signal of ["SIGTERM", "SIGKILL"] as const) {
    for (const { pid } of children) endGroup(pid, signal);
    if (children.size > 0) await sleep(3000);
  }
  await Promise.all(stacks.map((stack) => stack.stop()));
  postgres.stop();
  process.exit(code);
}
process.on("SIGINT", () => void finish(130));
process.on("SIGTERM", () => void finish(143));

const beside = async () => {
  if (runsRest) await stage("types, lint and layers", checks);
  if (!runsBrowser) return;
  await stage("production build", () => buildOnce(environmentFor(local, "")));
  for (const [lane, own] of lanesOf(local).entries())
    await stage(`demo data, lane ${lane + 1}`, async () => {
      demos.push([own, await freshDemo(own, postgres.ownerUrl, `estima_browser_${lane + 1}`, null)]);
    });
};
await Promise.all([
  beside(),
  runsRest ? stage("unit and integration tests", () => jest(postgres.ownerUrl, local.secrets.app)) : null,
]);
if (runsBrowser && demos.length === lanesOf(local).length && !isEnding) {
  const lanes: Stack[] = [];
  let unbegun: Awaited<ReturnType<typeof startUnbegun>> | null = null;
  await stage("starting the stacks", async () => {
    for (const [own, env] of demos) {
      const stack = await startStack(own, env);
      stacks.push(stack);
      lanes.push(stack);
    }
    unbegun = await startUnbegun(local, postgres.ownerUrl, lanes[0]);
    stacks.push(unbegun);
  });
  if (unbegun && !isEnding)
    await Promise.all(
      lanes.map((stack, lane) =>
        stage(`browser tests, lane ${lane + 1}`, () => browser(lane, stack, lane === 0 ? unbegun : null)),
      ),
    );
}

const minutes = (Date.now() - began) / 60_000;
writeFileSync(
  join(results, "report.json"),
  JSON.stringify({ passed, failed: failures.length, minutes, stages, files, failures }, null, 2),
);
console.log(`\nSlowest stages:\n${slowest(stages, 10)}\n\nSlowest files:\n${slowest(files, 10)}`);
console.log(`\n${minutes.toFixed(1)} minutes. The whole report is in test-results/report.json.`);
if (failures.length > 0) console.log(`\nWhat failed:\n${failures.join("\n")}\n`);
console.log(`${passed} passed, ${failures.length} failed`);
await finish(failures.length === 0 ? 0 : 1);
