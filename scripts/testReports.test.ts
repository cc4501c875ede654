import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ROOT } from "./local";
import { browserReport, jestReport, readReport, slowest } from "./testReports";

const passing = { status: "passed", fullName: "a passes", failureMessages: [] };

test("of Jest, each failed test and each file that could not be run is named", () => {
  const sums = jestReport({
    numPassedTests: 2,
    testResults: [
      {
        name: join(ROOT, "src/a.test.ts"),
        status: "passed",
        message: "",
        startTime: 1000,
        endTime: 3500,
        assertionResults: [passing],
      },
      {
        name: join(ROOT, "src/b.test.ts"),
        status: "failed",
        message: "● b fails",
        startTime: 0,
        endTime: 500,
        assertionResults: [
          passing,
          {
            status: "failed",
            fullName: "b fails",
            failureMessages: ["\u001b[31mExpected: 1\u001b[39m\n\nReceived: 2"],
          },
        ],
      },
      {
        name: join(ROOT, "src/c.test.ts"),
        status: "failed",
        message: "Cannot find module",
        startTime: 0,
        endTime: 0,
        assertionResults: [],
      },
    ],
  });
  expect(sums).toEqual({
    passed: 2,
    files: [
      { name: "src/a.test.ts", seconds: 2.5 },
      { name: "src/b.test.ts", seconds: 0.5 },
      { name: "src/c.test.ts", seconds: 0 },
    ],
    failures: [
      "src/b.test.ts › b fails\n    Expected: 1\n    Received: 2",
      "src/c.test.ts › the file itself\n    Cannot find module",
    ],
  });
});

test("of the browser, those that needed a second try have failed too, also in groups", () => {
  const spec = (title: string, status: "expected" | "unexpected" | "flaky" | "skipped", message?: string) => ({
    title,
    tests: [{ status, results: [{ duration: 700, error: message ? { message } : undefined }] }],
  });
  const sums = browserReport({
    stats: { expected: 1 },
    errors: [{ message: "No server." }],
    suites: [
      {
        file: "a.spec.ts",
        specs: [spec("passes", "expected"), spec("fails", "unexpected", "not visible"), spec("left out", "skipped")],
        suites: [{ file: "a.spec.ts", specs: [spec("wavers", "flaky", "timeout")] }],
      },
    ],
  });
  expect(sums).toEqual({
    passed: 1,
    files: [{ name: "a.spec.ts", seconds: 2.8 }],
    failures: [
      "a.spec.ts › fails\n    not visible",
      "a.spec.ts › wavers\n    timeout",
      "browser tests › outside of any test\n    No server.",
    ],
  });
});

test("a report that is missing or broken is a failure", () => {
  const file = join(mkdtempSync(join(tmpdir(), "reports-")), "jest.json");
  expect(readReport(file, jestReport).failures).toHaveLength(1);
  writeFileSync(file, "{");
  expect(readReport(file, jestReport)).toEqual({ passed: 0, files: [], failures: [expect.stringContaining("JSON")] });
});

test("the slowest come first, and no more than were asked for", () => {
  const timed = [3, 12.25, 7].map((seconds) => ({ name: `after ${seconds}`, seconds }));
  expect(slowest(timed, 2).split("\n")).toEqual(["    12.3 s  after 12.25", "     7.0 s  after 7"]);
});
