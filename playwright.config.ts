import { defineConfig } from "@playwright/test";

/** Browser tests against a production build with the demo's data; `npm test` starts all of it and sets ESTIMA_E2E. */
export default defineConfig({
  testDir: "tests/browser",
  workers: 1,
  fullyParallel: false,
  // These end what hangs; no test is a matter of speed.
  timeout: 900_000,
  expect: { timeout: 90_000 },
  // `npm test` runs the lanes side by side, each on a copy of the demo of its own, about as long as one another.
  projects: [
    { name: "lane 1", testMatch: /(?:agency|begin|clients|journey|people|plans)\.spec/ },
    { name: "lane 2", testMatch: /(?:places|words|guide)\.spec/ },
    // Heard connects sites, which then show on other pages, and strangers change whatever they may: they come last.
    { name: "lane 2, last", testMatch: /(?:heard|conversations|strangers)\.spec/ },
  ],
  reporter: [["list"], ["json", { outputFile: process.env.ESTIMA_E2E_REPORT ?? "test-results/report.json" }]],
  use: {
    baseURL: process.env.ESTIMA_E2E,
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--no-sandbox",
        "--disable-gpu",
        "--disable-background-networking",
        "--disable-component-update",
        "--disable-sync",
        "--no-first-run",
      ],
    },
    actionTimeout: 90_000,
    trace: "retain-on-failure",
  },
});
