import type { Context } from "../context";
import type { Database } from "../db/connect";
import { lockRounds } from "../change/roundQueries";
import { findNextToShare, pairRows, removeShared, storeShared } from "./sharedQueries";

/**
 * Stores what older imports have in common with the next one of their source only once: each keeps the rows and faults that differ.
 * Their files go, as only that of the newest is ever read again. The two newest imports are always whole.
 *
 * @returns how many imports were gone through
 */
export async function shareRows({ db }: Pick<Context, "db">): Promise<number> {
  for (let done = 0; ; done++) if (!(await shareNext(db))) return done;
}

/** Goes through the oldest import that still has everything; returns whether there was one. */
async function shareNext(db: Database): Promise<boolean> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    const found = await findNextToShare(tx);
    if (found === undefined) return false;
    await pairRows(tx, found);
    await storeShared(tx, found);
    await removeShared(tx, found.reading);
    return true;
  });
}
