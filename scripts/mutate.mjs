import { spawnSync } from "node:child_process";
import { existsSync } from "node:fs";
import { join } from "node:path";
import { ROOT } from "./run.mjs";

/*
 * Changes the code of one or several folders of core in thousands of small ways, one at a time, and tells which changes no
 * test noticed: `npm run mutate -- step`. The score is the share that was noticed.
 */
const folders = process.argv.slice(2);
const unknown = folders.filter((folder) => !existsSync(join(ROOT, "core", folder)));
if (folders.length === 0 || unknown.length > 0) {
  console.error(
    unknown.length > 0
      ? `core has no folder ${unknown.join(", ")}.`
      : "Say which folder of core to change: npm run mutate -- step",
  );
  process.exit(1);
}
const { status } = spawnSync(
  process.execPath,
  [
    "node_modules/@stryker-mutator/core/bin/stryker.js",
    "run",
    "stryker.config.json",
    "--mutate",
    folders
      .flatMap((folder) => [
        folder.endsWith(".ts") ? `core/${folder}` : `core/${folder}/**/*.ts`,
        `!core/${folder}/**/*.test.ts`,
      ])
      .join(","),
  ],
  { cwd: ROOT, stdio: "inherit" },
);
process.exitCode = status ?? 1;
