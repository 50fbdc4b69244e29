import type { Context } from "../context";
import { refused, type Refused } from "../refused";
import { scanOctets } from "../scan/clamd";
import { t } from "../texts/t";
import { readBlob, type StoredBlob } from "./blobs";
import { isScanned, storeScanned } from "./blobQueries";

/** What is needed to look at a file before anybody else may see it. */
export type Admitting = Pick<Context, "db" | "objects" | "settings" | "log">;

/** Refuses a file in which the virus scanner finds something, and one that it can't look at. Without a scanner, all are admitted. */
export async function admit(context: Admitting, stored: StoredBlob): Promise<Refused | undefined> {
  const { settings, db, log } = context;
  if (settings.scanner === undefined || stored.size === 0 || (await isScanned(db, stored.id)))
    return undefined;
  const octets = readBlob(context, stored, { first: 0, last: stored.size - 1 });
  const result = await scanOctets(settings.scanner, octets);
  switch (result.outcome) {
    case "clean":
      await storeScanned(db, stored.id);
      return undefined;
    case "found":
      log.warn({ blob: stored.id, found: result.what }, "the virus scanner refused a file");
      return refused(422, "shelf/infected", t("shelf.scannerFound", { what: result.what }), "file");
    case "failed":
      log.error({ blob: stored.id, why: result.why }, "the virus scanner could not look at a file");
      return refused(503, "shelf/not-scanned", t("shelf.scannerFailed"), "file");
  }
}
