import type { Context as HonoContext } from "hono";
import type { Context } from "../context";
import type { Queries } from "../db/connect";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { countOctets } from "./blobQueries";

const GIGA = 1000 * 1000 * 1000;
const MB = 1024 * 1024;

/** How many octets one file may have, by the settings. */
export function mostOctets({ shelfFileMegabytes }: Limits): number {
  return shelfFileMegabytes * MB;
}

type Limits = Pick<Context["settings"], "shelfGigabytes" | "shelfFileMegabytes">;

/** Returns the refusal of a file that is larger than a shelf takes. */
export function fileTooLarge({ shelfFileMegabytes: most }: Limits): Refused {
  return refused(413, "too-large", t("shelf.fileIsTooLarge", { most }), "file");
}

/**
 * Refuses a file that is too large, and one where all shelves together would have more than the settings allow. What still comes
 * piece by piece counts as a whole.
 *
 * @param coming how many octets it will have
 */
export async function roomFor(
  { db, settings }: { db: Queries; settings: Limits },
  coming: number,
): Promise<Refused | undefined> {
  const most = settings.shelfGigabytes;
  if (coming > mostOctets(settings)) return fileTooLarge(settings);
  if ((await countOctets(db)) + coming <= most * GIGA) return undefined;
  return refused(413, "shelf/full", t("shelf.shelvesAreFull", { most }), "file");
}

/** Refuses a request with a file for which there is no room, before any of it is read. */
export async function roomForBody(
  context: Pick<Context, "db" | "settings">,
  http: HonoContext,
): Promise<Refused | undefined> {
  const refusal = await roomFor(context, Number(http.req.header("Content-Length") ?? 0) || 0);
  // What comes is not read, so nothing else can come by this connection.
  if (refusal !== undefined) http.header("Connection", "close");
  return refusal;
}
