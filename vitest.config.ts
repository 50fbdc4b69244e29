import { defineConfig } from "vitest/config";

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
          // Machines are busy; a test that hangs is still ended.
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: "web",
          include: ["web/**/*.test.ts", "web/**/*.test.tsx"],
          environment: "node",
          testTimeout: 60_000,
        },
      },
      {
        test: {
          name: "server",
          include: ["server/**/*.test.ts", "mailtown/**/*.test.ts", "demo/**/*.test.ts"],
          environment: "node",
          testTimeout: 60_000,
          hookTimeout: 120_000,
          // Each file has a database and ports of its own. What all files import is loaded once a worker.
          isolate: false,
          maxWorkers: 2,
        },
      },
      {
        test: {
          name: "e2e",
          include: ["e2e/**/*.test.ts"],
          environment: "node",
          testTimeout: 300_000,
          hookTimeout: 300_000,
          maxWorkers: 2,
        },
      },
    ],
  },
});
