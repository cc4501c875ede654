import { readFileSync } from "node:fs";
import { relative } from "node:path";
import { stripVTControlCharacters } from "node:util";
import { ROOT } from "./local";

/** What the reports of the test runners say: sums for the last line, and each failure for whoever reads only the end. */
export type Sums = { passed: number; failures: string[] };

type JestReport = {
  numPassedTests: number;
  testResults: {
    name: string;
    status: string;
    message: string;
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
    tests: { status: "expected" | "unexpected" | "flaky" | "skipped"; results: { error?: { message?: string } }[] }[];
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

export function jestSums(report: JestReport): Sums {
  const failures = report.testResults.flatMap(({ name, status, message, assertionResults }) => {
    const file = relative(ROOT, name);
    const failed = assertionResults
      .filter((it) => it.status === "failed")
      .map((it) => failure(file, it.fullName, it.failureMessages[0]));
    // A file that could not even be run.
    return failed.length === 0 && status === "failed" ? [failure(file, "the file itself", message)] : failed;
  });
  return { passed: report.numPassedTests, failures };
}

/** A test that passed only when it was run again has failed. */
export function browserSums(report: BrowserReport): Sums {
  const ofSuite = (suite: BrowserSuite): string[] => [
    ...suite.specs.flatMap(({ title, tests }) =>
      tests
        .filter(({ status }) => status === "unexpected" || status === "flaky")
        .map(({ results }) => failure(suite.file, title, results.find(({ error }) => error)?.error?.message)),
    ),
    ...(suite.suites ?? []).flatMap(ofSuite),
  ];
  return {
    passed: report.stats.expected,
    failures: [
      ...report.suites.flatMap(ofSuite),
      ...report.errors.map(({ message }) => failure("browser tests", "outside of any test", message)),
    ],
  };
}

/** A runner that left no report, or an unreadable one, has failed. */
export function sumsOf<Report>(file: string, read: (report: Report) => Sums): Sums {
  try {
    return read(JSON.parse(readFileSync(file, "utf8")) as Report);
  } catch (error) {
    return { passed: 0, failures: [`${relative(ROOT, file)}: ${(error as Error).message}`] };
  }
}
