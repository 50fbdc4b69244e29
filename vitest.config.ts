import { defineConfig } from "vitest/config";

/** For tests that start a house: each file has a database and ports of its own, and what all files import is loaded once a worker. */
const house = {
  environment: "node",
  // Machines are busy; a test that hangs is still ended.
  testTimeout: 300_000,
  hookTimeout: 300_000,
  isolate: false,
  maxWorkers: 3,
} as const;

/** For tests of functions. They share nothing that one of them could spoil, so a worker loads what they import once. */
const plain = {
  // Machines are busy; a test that hangs is still ended.
  testTimeout: 60_000,
  isolate: false,
  maxWorkers: 2,
} as const;

export default defineConfig({
  test: {
    projects: [
      {
        test: {
          name: "core",
          include: [
            "language/**/*.test.ts",
            "core/**/*.test.ts",
            "contract/**/*.test.ts",
            "scripts/**/*.test.mjs",
          ],
          environment: "node",
          ...plain,
        },
      },
      {
        test: {
          name: "web",
          include: ["web/**/*.test.ts", "web/**/*.test.tsx"],
          environment: "node",
          ...plain,
        },
      },
      {
        test: {
          name: "server",
          include: ["server/**/*.test.ts", "mailtown/**/*.test.ts", "demo/**/*.test.ts"],
          globalSetup: "server/testing/globalSetup.ts",
          ...house,
        },
      },
      {
        test: {
          name: "e2e",
          include: ["e2e/**/*.test.ts"],
          globalSetup: "server/testing/globalSetup.ts",
          ...house,
        },
      },
    ],
  },
});
