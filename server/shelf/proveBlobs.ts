import type { Context } from "../context";
import { describeFailure } from "../describeFailure";
import { notify } from "../events/events";
import { hashOf } from "./blobs";
import { listUnproved, storeProof } from "./blobQueries";

/** How long octets are believed that were compared with their checksum, in days, and how many are looked at at once. */
const DAYS = 30;
const MOST_AT_ONCE = 500;
const MOST_OCTETS = 2_000_000_000;

/**
 * Compares what is kept with its checksum, each part of it once a month. What is no longer what came is told in the log and on its
 * shelf; whoever puts the same file there again heals it everywhere.
 */
export async function proveBlobs(context: Pick<Context, "db" | "objects" | "log">): Promise<void> {
  const { db, log } = context;
  let octets = 0;
  for (const { id, size, hash, damagedAt } of await listUnproved(db, DAYS, MOST_AT_ONCE)) {
    octets += size;
    if (octets > MOST_OCTETS && octets > size) return;
    let isDamaged: boolean;
    try {
      isDamaged = (await hashOf(context, { id, size })) !== hash;
    } catch (failure) {
      // It couldn't be read, as the store is away: that says nothing of the file, and the others are looked at.
      log.error({ failure: describeFailure(failure), blob: id }, "a file could not be proved");
      continue;
    }
    // What was removed while it was read has lost nothing.
    if (!(await storeProof(db, id, isDamaged))) continue;
    if (isDamaged) log.error({ blob: id }, "a file on a shelf is not what was put there");
    if (isDamaged !== (damagedAt !== null)) await notify(db, "shelf");
  }
}
