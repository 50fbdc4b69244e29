import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { postgresPrograms, startPostgres } from "./postgres.mjs";
import { run } from "./run.mjs";
import { needDebian, needNode, needPackages, needPages } from "./setUp.mjs";

// Takes the pictures in docs/screenshots/ anew, from the demo house.
needNode();
needDebian("PostgreSQL", ["postgresql"], () => postgresPrograms() !== undefined);
needPackages();
needPages();
const folder = mkdtempSync(join(tmpdir(), "amigo-pictures-"));
chmodSync(folder, 0o755);
const postgres = await startPostgres(join(folder, "postgres"), { quick: true });
try {
  run(process.execPath, ["--import", "tsx", "e2e/takeScreenshots.ts"], { env: { ...process.env, AMIGO_LOG: "silent", AMIGO_TEST_DATABASE_URL: postgres.url("postgres") } });
} finally {
  postgres.remove();
  rmSync(folder, { recursive: true, force: true });
}
