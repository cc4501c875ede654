/** Unit and integration tests. Those that need the database say so by importing tests/support/database. */
export default {
  roots: ["<rootDir>/src", "<rootDir>/standins", "<rootDir>/scripts", "<rootDir>/tests/integration"],
  testMatch: ["**/*.test.ts", "**/*.test.tsx"],
  testEnvironment: "node",
  extensionsToTreatAsEsm: [".ts", ".tsx"],
  moduleNameMapper: { "^@/(.*)$": "<rootDir>/src/$1" },
  transform: {
    "^.+\\.tsx?$": [
      "@swc/jest",
      {
        jsc: {
          target: "es2022",
          parser: { syntax: "typescript", tsx: true },
          transform: { react: { runtime: "automatic" } },
          experimental: { keepImportAttributes: true },
        },
        module: { type: "es6" },
      },
    ],
  },
  testSequencer: "<rootDir>/tests/support/sequencer.mjs",
  setupFiles: ["<rootDir>/tests/support/seed.ts"],
  globalSetup: "<rootDir>/tests/support/globalSetup.mjs",
  // Ends what hangs; no test is a matter of speed.
  testTimeout: 600_000,
};
