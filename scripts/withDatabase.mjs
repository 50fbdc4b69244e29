import { chmodSync, mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { postgresPrograms, startPostgres } from "./postgres.mjs";
import { run } from "./run.mjs";
import { needBundles, needDebian, needNode, needPackages, needPages } from "./setUp.mjs";

/** Runs one of our programs beside a PostgreSQL that is there for it alone, and is gone afterwards. */
export async function withDatabase(program, args = []) {
  needNode();
  needDebian("PostgreSQL", ["postgresql"], () => postgresPrograms() !== undefined);
  needPackages();
  needPages();
  const bundles = needBundles();
  const folder = mkdtempSync(join(tmpdir(), "amigo-for-once-"));
  chmodSync(folder, 0o755);
  const postgres = await startPostgres(join(folder, "postgres"), { quick: true });
  try {
    run(process.execPath, ["--import", "tsx", program, ...args], {
      env: {
        ...process.env,
        ...bundles,
        AMIGO_LOG: "silent",
        AMIGO_TEST_DATABASE_URL: postgres.url("postgres"),
      },
    });
  } finally {
    postgres.remove();
    rmSync(folder, { recursive: true, force: true });
  }
}
