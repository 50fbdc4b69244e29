import { backUp } from "../backup/backUp";
import { restoreBackup } from "../backup/restoreBackup";
import { readSettings } from "../settings";

/** Makes a backup, and says what is in it and what isn't. */
export async function backupCommand(env: NodeJS.ProcessEnv, file: string): Promise<string> {
  const { octets, manifest, ...made } = await backUp(readSettings(env), file, new Date());
  return [
    `The backup of ${manifest.house || "this house"} is in ${made.file} (${megabytes(octets)} MB): the database and the house's key.`,
    "Whoever has this file has all data of the house: keep it where only you can read it.",
    ...(manifest.shelfStore === ""
      ? []
      : [`Files on shelves are not in it. Back up ${manifest.shelfStore} as well, after this.`]),
  ].join("\n");
}

/** Restores a backup, and says what to do next. */
export async function restoreCommand(env: NodeJS.ProcessEnv, file: string): Promise<string> {
  const { manifest, waiting } = await restoreBackup(readSettings(env), file);
  return [
    `${manifest.house || "The house"} is restored as it was at ${manifest.at}.`,
    "Sending is paused, and every page says so, until a coordinator resumes it in Settings, Mail.",
    waiting === 0
      ? "No mail was waiting when the backup was made."
      : `${waiting} ${waiting === 1 ? "copy was" : "copies were"} waiting when the backup was made and may have gone out since. Look at them in Mail before you resume.`,
    ...(manifest.shelfStore === ""
      ? []
      : [
          `Files on shelves were in ${manifest.shelfStore}. Give Amigo the same store, or restore it.`,
        ]),
  ].join("\n");
}

function megabytes(octets: number): string {
  return (octets / 1_000_000).toFixed(1);
}
