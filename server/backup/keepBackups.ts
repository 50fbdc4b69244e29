import { existsSync, mkdirSync, readdirSync, rmSync } from "node:fs";
import { join } from "node:path";
import type { Context } from "../context";
import { loadHouse } from "../db/houseQueries";
import { dayIn } from "@amigo/core/schedule/dayIn";
import { backUp } from "./backUp";

/** A backup that was made by itself, by its day. */
const BY_DAY = /^amigo-(\d{4}-\d{2}-\d{2})\.tar$/;

/**
 * Makes the day's backup in the folder that the settings name, once a day of the house, and removes the oldest beyond how many
 * are kept. One that fails is tried again at the next call, and nothing is removed for it.
 */
export async function keepBackups(
  { db, settings, log }: Pick<Context, "db" | "settings" | "log">,
  now: Date,
): Promise<void> {
  const { backups } = settings;
  const house = backups === undefined ? undefined : await loadHouse(db);
  if (backups === undefined || house === undefined) return;
  mkdirSync(backups.folder, { recursive: true, mode: 0o700 });
  const file = join(backups.folder, `amigo-${dayIn(house.timeZone, now)}.tar`);
  if (!existsSync(file)) {
    const { octets } = await backUp(settings, file, now);
    log.info({ file, octets }, "a backup was made");
  }
  const made = readdirSync(backups.folder).filter((name) => BY_DAY.test(name));
  for (const name of made.sort().slice(0, -backups.keep))
    rmSync(join(backups.folder, name), { force: true });
}
