import { randomBytes } from "node:crypto";
import { chmodSync, existsSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { postgresPrograms, startPostgres } from "../../scripts/postgres.mjs";
import { needBundles, needDebian, needPages } from "../../scripts/setUp.mjs";

/**
 * Makes ready what tests of the server and of the pages share, once for a run: a PostgreSQL, unless `AMIGO_TEST_DATABASE_URL` names
 * one, the bundles of the server's threads and the built pages. So any test file can be run on its own.
 *
 * @returns how to clear it away
 */
export default async function setUp(): Promise<() => void> {
  process.env.AMIGO_LOG ??= "silent";
  process.env.AMIGO_TEST_RUN = randomBytes(4).toString("hex");
  needDebian("PostgreSQL", ["postgresql"], () => postgresPrograms() !== undefined);
  needDebian(
    "Chromium",
    ["chromium", "chromium-driver"],
    () => existsSync("/usr/bin/chromium") && existsSync("/usr/bin/chromedriver"),
  );
  Object.assign(process.env, needBundles());
  needPages();
  if (process.env.AMIGO_TEST_DATABASE_URL !== undefined) return () => undefined;
  const folder = mkdtempSync(join(tmpdir(), "amigo-test-"));
  // PostgreSQL runs as another user when we are root, and has to be able to enter.
  chmodSync(folder, 0o755);
  const postgres = await startPostgres(join(folder, "postgres"), { quick: true });
  process.env.AMIGO_TEST_DATABASE_URL = postgres.url("postgres");
  return () => {
    postgres.remove();
    rmSync(folder, { recursive: true, force: true });
  };
}
