import type { Context as HonoContext } from "hono";
import type { Context } from "../context";
import { refused, type Refused } from "../refused";
import { t } from "../texts/t";
import { countOctets } from "./blobQueries";

const GIGA = 1000 * 1000 * 1000;

/** Refuses a file where all shelves together would have more than the settings allow. */
export async function roomFor(
  { db, settings }: Pick<Context, "db" | "settings">,
  http: HonoContext,
): Promise<Refused | undefined> {
  const coming = Number(http.req.header("Content-Length") ?? 0) || 0;
  const most = settings.shelfGigabytes;
  if ((await countOctets(db)) + coming <= most * GIGA) return undefined;
  // What comes is not read, so nothing else can come by this connection.
  http.header("Connection", "close");
  return refused(413, "shelf/full", t("shelf.shelvesAreFull", { most }), "file");
}
