import { existsSync, readFileSync } from "node:fs";
import { join, relative } from "node:path";
import { spawn } from "node:child_process";
import { clear, temporaryFolder } from "./leftovers.mjs";
import { ROOT } from "./run.mjs";
import {
  needCalendarPrograms,
  needMailPrograms,
  needNode,
  needPackages,
  needPooler,
  needSecondMailSystem,
} from "./setUp.mjs";

const steps = process.argv.slice(2);
const folder = await temporaryFolder("amigo-test-");
/** Everything that the checks start puts its temporary files there, so that nothing is left, whenever it ends. */
const env = { ...process.env, TMPDIR: folder };
/** Which tests failed and why, told once more at the end, where it is found. */
const failures = [];
let passed = 0;
let failed = 0;

function isWanted(step) {
  return steps.length === 0 || steps.includes(step);
}

/** Runs one step with its output shown, and says how long it took. */
async function step(name, args) {
  console.log(`\n── ${name} ──`);
  const began = Date.now();
  const child = spawn(process.execPath, args, {
    cwd: ROOT,
    stdio: "inherit",
    env: { ...env, AMIGO_LOG: "silent" },
  });
  const status = await new Promise((resolve) => {
    child.once("close", resolve);
  });
  console.log(closing(name, status, began));
  return status === 0;
}

/** Runs several steps at once, because each uses only one core, and prints what each said once it is done. */
async function together(checks) {
  const wanted = checks.filter(([name]) => isWanted(name));
  const results = await Promise.all(
    wanted.map(async ([name, args]) => {
      const began = Date.now();
      const child = spawn(process.execPath, args, {
        cwd: ROOT,
        env,
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
async function tests(name, projects) {
  const report = join(folder, `${name}.json`);
  const well = await step(name, [
    "node_modules/vitest/vitest.mjs",
    "run",
    ...projects.flatMap((project) => ["--project", project]),
    "--reporter=default",
    "--reporter=json",
    `--outputFile.json=${report}`,
  ]);
  if (!existsSync(report)) return well;
  const { numPassedTests, numFailedTests, testResults } = JSON.parse(readFileSync(report, "utf8"));
  for (const { name: file, status, message, assertionResults } of testResults) {
    if (status === "passed") continue;
    const said = assertionResults
      .filter(({ status: result }) => result === "failed")
      .map(({ fullName, failureMessages }) => `${fullName}\n    ${firstLines(failureMessages[0])}`);
    failures.push(
      `${relative(ROOT, file)}\n  ${said.length > 0 ? said.join("\n  ") : firstLines(message)}`,
    );
  }
  passed += numPassedTests;
  failed += numFailedTests - (well || numFailedTests === 0 ? 0 : 1);
  return well;
}

function firstLines(text = "") {
  return text.split("\n").slice(0, 6).join("\n    ");
}

/** Ends everything at once, as by Ctrl-C. */
async function end() {
  console.log("\nStopping …");
  await clear(folder);
  process.exit(130);
}
process.once("SIGINT", () => void end());
process.once("SIGTERM", () => void end());

try {
  needNode();
  needMailPrograms();
  needCalendarPrograms();
  needPooler();
  needPackages();
  needSecondMailSystem();
  const quick = await together([
    ["format", ["node_modules/prettier/bin/prettier.cjs", "--check", "--log-level=warn", "."]],
    ["types", ["node_modules/typescript/bin/tsc", "-p", "tsconfig.json"]],
    ["lint", ["node_modules/eslint/bin/eslint.js", ".", "--max-warnings", "0"]],
  ]);
  const unit = !isWanted("unit") || (await tests("unit", ["core", "web"]));
  // In one run: while the last long file of one kind goes on, the other kind has work for the other workers.
  const kinds = ["server", "e2e"].filter(isWanted);
  const houses = kinds.length === 0 || (await tests(kinds.join(" and "), kinds));
  const well = quick && unit && houses;
  if (failures.length > 0) console.log(`\nWhat failed:\n${failures.join("\n")}`);
  console.log(`\n${passed} passed, ${failed} failed`);
  process.exitCode = well ? 0 : 1;
} catch (failure) {
  console.error(failure instanceof Error ? failure.message : failure);
  process.exitCode = 1;
} finally {
  await clear(folder);
}
