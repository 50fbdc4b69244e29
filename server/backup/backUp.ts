import { copyFileSync, existsSync, mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { chmod, rename } from "node:fs/promises";
import { basename, dirname, join, resolve } from "node:path";
import pg from "pg";
import { ownVersion } from "../aboutSettings";
import { lastMigrationIn } from "../db/knownMigrations";
import { keyFile } from "../mail/houseKey";
import type { Settings } from "../settings";
import { checksumOf, DUMP, KEY, MANIFEST, type Manifest } from "./manifest";
import { runDatabaseTool, runProgram } from "./tools";

export type BackupSettings = Pick<
  Settings,
  "databaseDirectUrl" | "data" | "dkimKey" | "shelfStore"
>;

/** A backup that was made. */
export interface Backup {
  file: string;
  octets: number;
  manifest: Manifest;
}

/**
 * Makes one archive of all that a house needs to be put up elsewhere: the database as it is at one moment, the house's key, and
 * what they are. Amigo goes on meanwhile. The archive is a tar file that only its owner may read, and is there whole or not at all.
 *
 * @throws Error with a sentence where the file is there already, or something fails
 */
export async function backUp(settings: BackupSettings, path: string, now: Date): Promise<Backup> {
  const file = resolve(path);
  if (existsSync(file)) throw new Error(`${file} is there already. Name another file.`);
  if (!existsSync(dirname(file))) throw new Error(`There is no folder ${dirname(file)}.`);
  // Beside the archive, so that there is room for it once it is there, and it only needs a new name.
  const folder = mkdtempSync(join(dirname(file), ".amigo-backup-"));
  try {
    const key = keyFile(settings);
    if (!existsSync(key)) throw new Error(`The house's key isn't in ${key}.`);
    copyFileSync(key, join(folder, KEY));
    const { schema, house } = await lookAt(settings.databaseDirectUrl);
    await runDatabaseTool(
      "pg_dump",
      ["--format=custom", "--no-owner", "--no-privileges", `--file=${join(folder, DUMP)}`],
      settings.databaseDirectUrl,
    );
    const manifest: Manifest = {
      ...{ format: 1, amigo: ownVersion(), at: now.toISOString(), house, schema },
      shelfStore: storeName(settings.shelfStore),
      files: Object.fromEntries(
        await Promise.all(
          [DUMP, KEY].map(async (name) => [name, await checksumOf(join(folder, name))] as const),
        ),
      ),
    };
    writeFileSync(join(folder, MANIFEST), `${JSON.stringify(manifest, null, 2)}\n`);
    const made = join(folder, basename(file));
    await runProgram("tar", ["-cf", made, "-C", folder, MANIFEST, DUMP, KEY]);
    await chmod(made, 0o600);
    await rename(made, file);
    return { file, octets: statSync(file).size, manifest };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

/** Returns how far the schema of a database is, and the name of the house in it. */
async function lookAt(url: string): Promise<{ schema: number; house: string }> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    const schema = await lastMigrationIn(client);
    if (schema === 0) throw new Error("There is no Amigo in this database.");
    const { rows } = await client.query<{ name: string }>("select name from house");
    return { schema, house: rows[0]?.name ?? "" };
  } finally {
    await client.end();
  }
}

function storeName(store: BackupSettings["shelfStore"]): string {
  return store === undefined ? "" : `${store.endpoint}/${store.bucket}/${store.prefix}`;
}
