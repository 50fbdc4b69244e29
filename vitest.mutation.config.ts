import { defineConfig } from "vitest/config";

/** The tests of core as they are run once for every changed line: properties are tried a few times only. */
export default defineConfig({
  test: {
    include: ["core/**/*.test.ts"],
    exclude: ["**/node_modules/**", "core/testing/growth.test.ts"],
    setupFiles: ["core/testing/fewRuns.ts"],
    environment: "node",
    testTimeout: 60_000,
    isolate: false,
  },
});
