import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { stripVTControlCharacters } from "node:util";
import { ROOT } from "./local";

/**
 * What the reports of the test runners say: sums for the last line, each failure for readers who see only the end, and
 * how long each file took, in seconds.
 */
export type RunnerReport = { passed: number; failures: string[]; files: Timed[] };
type Timed = { name: string; seconds: number };

type JestReport = {
  numPassedTests: number;
  testResults: {
    name: string;
    status: string;
    message: string;
    startTime: number;
    endTime: number;
    assertionResults: { status: string; fullName: string; failureMessages: string[] }[];
  }[];
};

type BrowserReport = {
  stats: { expected: number };
  errors: { message?: string }[];
  suites: BrowserSuite[];
};
type BrowserSuite = {
  file: string;
  suites?: BrowserSuite[];
  specs: {
    title: string;
    tests: {
      status: "expected" | "unexpected" | "flaky" | "skipped";
      results: { duration: number; error?: { message?: string } }[];
    }[];
  }[];
};

const MOST_LINES = 12;

/** One failure in a few lines: where, what, and how its message begins. */
function failure(file: string, name: string, message: string | undefined): string {
  const lines = stripVTControlCharacters(message ?? "")
    .split("\n")
    .filter((line) => line.trim());
  return [`${file} › ${name}`, ...lines.slice(0, MOST_LINES).map((line) => `    ${line.trim()}`)].join("\n");
}

export function jestReport(report: JestReport): RunnerReport {
  const failures = report.testResults.flatMap(({ name, status, message, assertionResults }) => {
    const file = relative(ROOT, name);
    const failed = assertionResults
      .filter((it) => it.status === "failed")
      .map((it) => failure(file, it.fullName, it.failureMessages[0]));
    // A file that could not even be run.
    return failed.length === 0 && status === "failed" ? [failure(file, "the file itself", message)] : failed;
  });
  const files = report.testResults.map(({ name, startTime, endTime }) => ({
    name: relative(ROOT, name),
    seconds: (endTime - startTime) / 1000,
  }));
  return { passed: report.numPassedTests, failures, files };
}

/** A test that passed only when it was run again has failed. */
export function browserReport(report: BrowserReport): RunnerReport {
  const ofSuite = (suite: BrowserSuite): string[] => [
    ...suite.specs.flatMap(({ title, tests }) =>
      tests
        .filter(({ status }) => status === "unexpected" || status === "flaky")
        .map(({ results }) => failure(suite.file, title, results.find(({ error }) => error)?.error?.message)),
    ),
    ...(suite.suites ?? []).flatMap(ofSuite),
  ];
  const millisecondsOf = (suite: BrowserSuite): number =>
    [
      ...suite.specs.flatMap(({ tests }) => tests.flatMap(({ results }) => results.map(({ duration }) => duration))),
      ...(suite.suites ?? []).map(millisecondsOf),
    ].reduce((sum, each) => sum + each, 0);
  return {
    passed: report.stats.expected,
    files: report.suites.map((suite) => ({ name: suite.file, seconds: millisecondsOf(suite) / 1000 })),
    failures: [
      ...report.suites.flatMap(ofSuite),
      ...report.errors.map(({ message }) => failure("browser tests", "outside of any test", message)),
    ],
  };
}

/** A runner that left no report, or an unreadable one, has failed. */
export function readReport<Report>(file: string, read: (report: Report) => RunnerReport): RunnerReport {
  try {
    return read(JSON.parse(readFileSync(file, "utf8")) as Report);
  } catch (error) {
    return { passed: 0, files: [], failures: [`${relative(ROOT, file)}: ${(error as Error).message}`] };
  }
}

/** The slowest of some stages or files, a line each. */
export function slowest(timed: readonly Timed[], count: number): string {
  return [...timed]
    .sort((a, b) => b.seconds - a.seconds)
    .slice(0, count)
    .map(({ name, seconds }) => `${seconds.toFixed(1).padStart(8)} s  ${name}`)
    .join("\n");
}
