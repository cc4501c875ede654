import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ROOT } from "./local";
import { browserSums, jestSums, sumsOf } from "./testReports";

const passing = { status: "passed", fullName: "a passes", failureMessages: [] };

test("of Jest, each failed test and each file that could not be run is named", () => {
  const sums = jestSums({
    numPassedTests: 2,
    testResults: [
      { name: join(ROOT, "src/a.test.ts"), status: "passed", message: "", assertionResults: [passing] },
      {
        name: join(ROOT, "src/b.test.ts"),
        status: "failed",
        message: "● b fails",
        assertionResults: [
          passing,
          {
            status: "failed",
            fullName: "b fails",
            failureMessages: ["\u001b[31mExpected: 1\u001b[39m\n\nReceived: 2"],
          },
        ],
      },
      { name: join(ROOT, "src/c.test.ts"), status: "failed", message: "Cannot find module", assertionResults: [] },
    ],
  });
  expect(sums).toEqual({
    passed: 2,
    failures: [
      "src/b.test.ts › b fails\n    Expected: 1\n    Received: 2",
      "src/c.test.ts › the file itself\n    Cannot find module",
    ],
  });
});

test("of the browser, those that needed a second try have failed too, also in groups", () => {
  const spec = (title: string, status: "expected" | "unexpected" | "flaky" | "skipped", message?: string) => ({
    title,
    tests: [{ status, results: [{ error: message ? { message } : undefined }] }],
  });
  const sums = browserSums({
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
    failures: [
      "a.spec.ts › fails\n    not visible",
      "a.spec.ts › wavers\n    timeout",
      "browser tests › outside of any test\n    No server.",
    ],
  });
});

test("a report that is missing or broken is a failure", () => {
  const file = join(mkdtempSync(join(tmpdir(), "reports-")), "jest.json");
  expect(sumsOf(file, jestSums).failures).toHaveLength(1);
  writeFileSync(file, "{");
  expect(sumsOf(file, jestSums)).toEqual({ passed: 0, failures: [expect.stringContaining("JSON")] });
});
