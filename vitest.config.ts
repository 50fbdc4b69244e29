import { existsSync } from "node:fs";
import { configDefaults, defineConfig } from "vitest/config";

/** The second mail system runs only where `npm test` could unpack it, as root (scripts/setUp.mjs). */
const hasSecondMailSystem =
  process.getuid?.() === 0 &&
  existsSync(new URL("node_modules/.cache/second-mail-system/usr/lib/postfix", import.meta.url));

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
          exclude: [
            ...configDefaults.exclude,
            ...(hasSecondMailSystem ? [] : ["server/mail/secondMailSystem.test.ts"]),
          ],
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
