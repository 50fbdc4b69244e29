import { copyFileSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { chmod } from "node:fs/promises";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";
import { sql } from "drizzle-orm";
import { knownMigrations } from "../db/knownMigrations";
import { onDatabase } from "../db/onDatabase";
import { house } from "../db/schema/house";
import { record } from "../events/record";
import { keyFile } from "../mail/houseKey";
import { checksumOf, DUMP, KEY, MANIFEST, Manifest } from "./manifest";
import type { BackupSettings } from "./backUp";
import { t } from "../texts/t";
import { runDatabaseTool, runProgram } from "./tools";

/** What was put up again, and what waits in it. */
export interface Restored {
  manifest: Manifest;
  /** Copies that had not gone out when the backup was made; they may have gone out since. */
  waiting: number;
}

/**
 * Puts a house up again from a backup, in an empty database, with its key. No mail goes out until somebody has resumed sending:
 * what waited when the backup was made may have gone out since.
 *
 * @throws Error with a sentence where the archive is damaged or newer than this Amigo, the database isn't empty, or another
 * key is in the place of the house's
 */
export async function restoreBackup(settings: BackupSettings, path: string): Promise<Restored> {
  const file = resolve(path);
  if (!existsSync(file)) throw new Error(`There is no file ${file}.`);
  const folder = mkdtempSync(join(tmpdir(), "amigo-restore-"));
  try {
    const manifest = await unpack(file, folder);
    if (manifest.schema > knownMigrations().last)
      throw new Error(
        `This backup was made by a newer Amigo (${manifest.amigo}) than this one. Restore it with that one.`,
      );
    const key = keyFile(settings);
    const isKeyThere = existsSync(key);
    if (isKeyThere && (await checksumOf(key)) !== manifest.files[KEY])
      throw new Error(
        `${key} holds the key of another house. Use another folder for this house (AMIGO_DATA), or move that file away.`,
      );
    await needEmpty(settings.databaseDirectUrl);
    await runDatabaseTool(
      "pg_restore",
      [
        ...["--no-owner", "--no-privileges", "--no-comments", "--exit-on-error"],
        ...["--single-transaction", `--dbname=${databaseName(settings.databaseDirectUrl)}`],
        join(folder, DUMP),
      ],
      settings.databaseDirectUrl,
    );
    if (!isKeyThere) {
      mkdirSync(dirname(key), { recursive: true });
      copyFileSync(join(folder, KEY), key);
      await chmod(key, 0o600);
    }
    return { manifest, waiting: await pauseSending(settings.databaseDirectUrl, manifest) };
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
}

function databaseName(url: string): string {
  return decodeURIComponent(new URL(url).pathname.slice(1));
}

/** Unpacks an archive, and checks that it holds what it says, unchanged. Nothing but its three files is taken out. */
async function unpack(file: string, folder: string): Promise<Manifest> {
  const damaged = (why: string): Error =>
    new Error(`${file} is no backup of Amigo, or it is damaged: ${why}. Use another backup.`);
  try {
    await runProgram("tar", ["-xf", file, "-C", folder, "--no-same-owner", MANIFEST, DUMP, KEY]);
  } catch {
    throw damaged("it doesn't hold the three files of a backup");
  }
  const { success, data } = Manifest.safeParse(readJson(join(folder, MANIFEST)));
  if (!success) throw damaged("its list of contents can't be read");
  for (const name of [DUMP, KEY])
    if ((await checksumOf(join(folder, name))) !== data.files[name])
      throw damaged(`${name} isn't what was put in`);
  return data;
}

function readJson(path: string): unknown {
  try {
    return JSON.parse(readFileSync(path, "utf8"));
  } catch {
    return undefined;
  }
}

async function needEmpty(url: string): Promise<void> {
  const { rows } = await onDatabase(url, (tx) =>
    tx.execute(
      sql`select 1 from pg_tables where schemaname not in ('pg_catalog', 'information_schema') limit 1`,
    ),
  );
  if (rows.length > 0)
    throw new Error(
      "The database isn't empty. A backup is restored into an empty one: make another database, or use another folder (AMIGO_DATA).",
    );
}

/** Keeps all mail back until somebody resumes sending. Returns how many copies wait. */
function pauseSending(url: string, { at }: Manifest): Promise<number> {
  return onDatabase(url, async (tx) => {
    await tx.update(house).set({ queuePausedBy: t("house.theRestoredBackup") });
    await record(tx, {
      actor: "Amigo",
      action: "restored",
      sentence: () => t("house.restoredFromABackup", { at }),
    });
    const { rows } = await tx.execute<{ count: number }>(
      sql`select count(*)::int as count from delivery where state in ('queued', 'deferred', 'sending')`,
    );
    return rows[0]?.count ?? 0;
  });
}
