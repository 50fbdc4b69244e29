import { existsSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { spawn, spawnSync } from "node:child_process";
import { ROOT } from "./run.mjs";
import { needMailPrograms, needNode, needPackages } from "./setUp.mjs";

const steps = process.argv.slice(2);
const folder = mkdtempSync(join(tmpdir(), "amigo-test-"));
let passed = 0;
let failed = 0;

/** Runs one step with its output shown, and says how long it took. */
function step(name, args) {
  if (steps.length > 0 && !steps.includes(name)) return true;
  console.log(`\n── ${name} ──`);
  const began = Date.now();
  const { status } = spawnSync(process.execPath, args, {
    cwd: ROOT,
    stdio: "inherit",
    env: { ...process.env, AMIGO_LOG: "silent" },
  });
  console.log(closing(name, status, began));
  return status === 0;
}

/** Runs several steps at once, because each uses only one core, and prints what each said once it is done. */
async function together(checks) {
  const wanted = checks.filter(([name]) => steps.length === 0 || steps.includes(name));
  const results = await Promise.all(
    wanted.map(async ([name, args]) => {
      const began = Date.now();
      const child = spawn(process.execPath, args, {
        cwd: ROOT,
        stdio: ["ignore", "pipe", "pipe"],
      });
      let said = "";
      for (const stream of [child.stdout, child.stderr])
        stream.on("data", (part) => {
          said += part;
        });
      const status = await new Promise((resolve) => {
        child.once("close", resolve);
      });
      console.log(`\n── ${name} ──\n${said}${closing(name, status, began)}`);
      return status === 0;
    }),
  );
  return results.every((well) => well);
}

function closing(name, status, began) {
  if (status !== 0) failed++;
  const seconds = ((Date.now() - began) / 1000).toFixed(1);
  return `── ${name}: ${status === 0 ? "fine" : "FAILED"} in ${seconds} s`;
}

/** Runs some of the tests and adds their counts up. */
function tests(name, projects) {
  const report = join(folder, `${name}.json`);
  const well = step(name, [
    "node_modules/vitest/vitest.mjs",
    "run",
    ...projects.flatMap((project) => ["--project", project]),
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${report}`,
  ]);
  if (!existsSync(report)) return well;
  const { numPassedTests, numFailedTests } = JSON.parse(readFileSync(report, "utf8"));
  passed += numPassedTests;
  failed += numFailedTests - (well || numFailedTests === 0 ? 0 : 1);
  return well;
}

try {
  needNode();
  needMailPrograms();
  needPackages();
  const quick = await together([
    ["format", ["node_modules/prettier/bin/prettier.cjs", "--check", "--log-level=warn", "."]],
    ["types", ["node_modules/typescript/bin/tsc", "-p", "tsconfig.json"]],
    ["lint", ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"]],
  ]);
  const unit = tests("unit", ["core", "web"]);
  const server = tests("server", ["server"]);
  const pages = tests("e2e", ["e2e"]);
  const well = quick && unit && server && pages;
  console.log(`\n${passed} passed, ${failed} failed`);
  process.exitCode = well ? 0 : 1;
} catch (failure) {
  console.error(failure instanceof Error ? failure.message : failure);
  process.exitCode = 1;
} finally {
  rmSync(folder, { recursive: true, force: true });
}
