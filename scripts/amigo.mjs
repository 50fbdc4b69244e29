// Amigo at the command line: npm run -s amigo -- help
import { existsSync } from "node:fs";
import { join, resolve } from "node:path";
import { pathToFileURL } from "node:url";
import { postgresPrograms, startPostgres } from "./postgres.mjs";
import { bundleOf, ROOT } from "./run.mjs";
import { needBundles, needDebian, needNode } from "./setUp.mjs";

/** Those that work on the database itself. */
const ON_DATABASE = ["backup", "restore", "account", "key", "journal"];

needNode();
needBundles();
const [command] = process.argv.slice(2);
const data = resolve(ROOT, process.env.AMIGO_DATA || ".amigo");
const cluster = join(data, "postgres");
// Where no database is named, it is the one that `npm start` keeps in the data folder, running or not.
if (
  ON_DATABASE.includes(command) &&
  !process.env.AMIGO_DATABASE_URL &&
  !process.argv.includes("--help") &&
  (existsSync(cluster) || command === "restore")
) {
  needDebian("PostgreSQL", ["postgresql"], () => postgresPrograms() !== undefined);
  const postgres = await startPostgres(cluster);
  process.on("exit", () => (postgres.wasRunning ? postgres.leave() : postgres.stop()));
  postgres.createDatabase("amigo");
  process.env.AMIGO_DATABASE_URL = postgres.roleUrl("amigo");
  process.env.AMIGO_DATA = data;
}
await import(pathToFileURL(bundleOf("server/commands/main.ts")).href);
