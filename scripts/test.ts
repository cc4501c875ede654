import { spawnSync } from "node:child_process";
import { mkdirSync, rmSync } from "node:fs";
import { availableParallelism } from "node:os";
import { join } from "node:path";
import { breaches } from "./layers";
import { isFree, openLocal, ROOT } from "./local";
import { startPostgres } from "./postgres";
import { freshStack, portsOf, type Stack, startUnbegun } from "./stack";
import { browserSums, jestSums, type Sums, sumsOf } from "./testReports";

/**
 * `npm test`: types, lint, layers, unit and integration tests, browser tests. `--check` leaves the browser out,
 * `--browser` everything else.
 */

const hasBrowser = !process.argv.includes("--check");
const hasRest = !process.argv.includes("--browser");
const PARTS = [
  ...(hasRest ? ["types, lint and layers", "unit and integration tests"] : []),
  ...(hasBrowser ? ["building, and two weeks passing in Merrow Bay", "browser tests"] : []),
];
const began = Date.now();
let part = 0;

function beginPart(): void {
  const minutes = Math.round((Date.now() - began) / 60_000);
  console.log(`\nPart ${part + 1} of ${PARTS.length}: ${PARTS[part]} (after ${minutes} min)`);
  part += 1;
}

let passed = 0;
const failures: string[] = [];

function check(name: string, ok: boolean, detail = ""): void {
  console.log(`${ok ? "✓" : "✗"} ${name}`);
  if (!ok && detail) console.log(detail);
  if (ok) passed += 1;
  else failures.push(`${name}${detail && `\n${detail}`}`);
}

/** Adds what a runner's report says; one that ended badly has failed even if its report names nothing. */
function add(name: string, hasEndedWell: boolean, sums: Sums): void {
  passed += sums.passed;
  failures.push(...sums.failures);
  if (!hasEndedWell && sums.failures.length === 0) failures.push(`${name} ended badly without naming a failure`);
}

function run(command: string, args: string[], env: Record<string, string> = {}): boolean {
  return (
    spawnSync(command, args, {
      cwd: ROOT,
      stdio: ["ignore", "inherit", "inherit"],
      env: { ...process.env, ...env } as NodeJS.ProcessEnv,
    }).status === 0
  );
}

async function localForTests() {
  for (let port = 4300; port < 4900; port += 150) {
    const local = await openLocal(
      process.env.ESTIMA_HOME ? join(process.env.ESTIMA_HOME, "test") : join(ROOT, ".local", "test"),
      port,
    );
    if ((await Promise.all(portsOf(local).map(isFree))).every(Boolean)) return local;
  }
  throw new Error("No free ports for the tests.");
}

const reports = join(ROOT, "test-results");
rmSync(reports, { recursive: true, force: true });
mkdirSync(reports, { recursive: true });
if (hasRest) {
  beginPart();
  check("types", run("node", ["node_modules/typescript/bin/tsc", "--noEmit", "-p", "."]));
  check("lint", run("node", ["node_modules/@biomejs/biome/bin/biome", "check", "."]));
  const breached = breaches();
  check("layers", breached.length === 0, breached.join("\n"));
}

const local = await localForTests();
const postgres = await startPostgres(local, { fast: true });
let stack: Stack | undefined;
let unbegun: Awaited<ReturnType<typeof startUnbegun>> | undefined;
process.on("SIGINT", () => void finish(130));
process.on("SIGTERM", () => void finish(143));

async function finish(code: number): Promise<never> {
  await Promise.all([unbegun?.stop(), stack?.stop()]);
  postgres.stop();
  process.exit(code);
}

try {
  if (hasRest) {
    beginPart();
    const jestReport = join(reports, "jest.json");
    const jestOk = run(
      "node",
      [
        "--experimental-vm-modules",
        "--no-warnings",
        "node_modules/jest/bin/jest.js",
        "--ci",
        // Each file has a database and ports of its own.
        `--maxWorkers=${Math.min(4, availableParallelism())}`,
        "--json",
        `--outputFile=${jestReport}`,
      ],
      {
        TEST_DATABASE_URL: postgres.ownerUrl,
        TEST_APP_PASSWORD: local.secrets.app,
      },
    );
    add("unit and integration tests", jestOk, sumsOf(jestReport, jestSums));
  }

  if (hasBrowser) {
    beginPart();
    stack = await freshStack(local, postgres.ownerUrl, "estima_browser", null);
    unbegun = await startUnbegun(local, postgres.ownerUrl, stack);
    beginPart();
    const playwrightReport = join(reports, "browser.json");
    const browserOk = run("node", ["node_modules/@playwright/test/cli.js", "test"], {
      ESTIMA_E2E: stack.env.APP_URL,
      ESTIMA_E2E_TOWN: stack.env.TOWN_URL,
      ESTIMA_E2E_UNBEGUN: unbegun.env.APP_URL,
      ESTIMA_E2E_TOKEN: unbegun.token,
      ESTIMA_E2E_REPORT: playwrightReport,
    });
    add("browser tests", browserOk, sumsOf(playwrightReport, browserSums));
  }
} catch (error) {
  failures.push((error as Error).message);
}
if (failures.length > 0) console.log(`\nWhat failed:\n${failures.join("\n")}\n`);
console.log(`${passed} passed, ${failures.length} failed`);
await finish(failures.length === 0 ? 0 : 1);
