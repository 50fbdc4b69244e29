import { constants, open, readdir, realpath, stat } from "node:fs/promises";
import { basename, dirname, join } from "node:path";
import { FILE_LIMITS } from "@amigo/core/sheet/sheet";
import type { Refused } from "../refused";
import { refusal, tooLarge, type Fetched } from "../sandbox/fetchWeb";
import { t } from "../texts/t";
import { BESIDE } from "./answerBeside";

/** Reads a file of the watched folder; a name with a way into another folder is none. */
export async function fetchWatched(
  folder: string | undefined,
  name: string,
  seen: Record<string, string> = {},
): Promise<Fetched | Refused> {
  if (folder === undefined) return refusal("no-folder", t("sources.thisAmigoWatchesNoFolder"));
  if (name !== basename(name) || name === "" || name.startsWith("."))
    return refusal("no-file", t("sources.isNoFileOfThe", { name }));
  const place = await realpath(join(folder, name)).catch(() => undefined);
  if (place !== undefined && dirname(place) !== (await realpath(folder)))
    return refusal("no-file", t("sources.isALinkOutOf", { name }));
  const file =
    place === undefined
      ? undefined
      : await open(place, constants.O_RDONLY | constants.O_NOFOLLOW).catch(() => undefined);
  if (file === undefined) return refusal("no-file", t("sources.theFileIsNotIn", { name }));
  try {
    const found = await file.stat();
    const { size, mtime } = found;
    if (!found.isFile()) return refusal("no-file", t("sources.isNoFile", { name }));
    const now = { size: String(size), written: mtime.toISOString() };
    if (seen.size === now.size && seen.written === now.written) return { changed: false };
    if (size > FILE_LIMITS.bytes) return tooLarge(t("sources.theFile", { name }));
    return {
      changed: true,
      name,
      bytes: new Uint8Array(await file.readFile()),
      writtenAt: now.written,
      seen: now,
    };
  } finally {
    await file.close();
  }
}

/** The files of the watched folder that could be sheets. */
export async function watchedFiles(
  folder: string,
): Promise<{ name: string; writtenAt: string; bytes: number }[]> {
  const names = (await readdir(folder, { withFileTypes: true }).catch(() => []))
    .filter(
      (entry) =>
        entry.isFile() &&
        /\.(xlsx|xls|ods|csv|tsv|txt)$/i.test(entry.name) &&
        !entry.name.startsWith(".") &&
        !BESIDE.test(entry.name),
    )
    .map(({ name }) => name)
    .sort();
  return Promise.all(
    names.map(async (name) => {
      const { mtime, size } = await stat(join(folder, name));
      return { name, writtenAt: mtime.toISOString(), bytes: size };
    }),
  );
}
