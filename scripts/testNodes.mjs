// Runs the quick tests, and those of the server's ground, by other versions of Node: npm run test:nodes
import { existsSync } from "node:fs";
import { spawnSync } from "node:child_process";
import { join } from "node:path";
import { ROOT, run } from "./run.mjs";
import { needNode, needPackages } from "./setUp.mjs";

/** The versions beside the one that `npm test` uses, as packages of the npm registry that hold the program alone. */
const VERSIONS = [22, 24];
const PACKAGE = `node-${process.platform}-${process.arch}`;
/** What says most of a version: the database, processes and threads, HTTP, mail in and out, signing, and passwords. */
const SERVER = [
  "server/db",
  "server/http",
  "server/mail/mail.test.ts",
  "server/mail/signSheet",
  "server/desk",
  "server/accounts",
];

needNode();
needPackages();
let failed = false;
for (const version of VERSIONS) {
  const place = join(ROOT, `node_modules/.cache/node-${version}`);
  const node = join(place, "node_modules", PACKAGE, "bin/node");
  if (!existsSync(node))
    run("npm", [
      "install",
      "--prefix",
      place,
      "--no-save",
      "--ignore-scripts",
      `${PACKAGE}@${version}`,
    ]);
  console.log(`\n── Node ${spawnSync(node, ["--version"], { encoding: "utf8" }).stdout.trim()} ──`);
  for (const filter of [
    ["--project", "core", "--project", "web"],
    ["--project", "server", ...SERVER],
  ]) {
    const { status } = spawnSync(
      node,
      ["node_modules/vitest/vitest.mjs", "run", "--reporter=dot", ...filter],
      {
        cwd: ROOT,
        stdio: "inherit",
        env: {
          ...process.env,
          AMIGO_LOG: "silent",
          PATH: `${join(place, "node_modules", PACKAGE, "bin")}:${process.env.PATH}`,
        },
      },
    );
    failed ||= status !== 0;
  }
}
process.exitCode = failed ? 1 : 0;
