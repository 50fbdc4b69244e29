import type { Database } from "../db/connect";
import { openRound } from "../change/openRound";
import { lockRounds } from "../change/roundQueries";

/** Brings the open round up to date: a last day may be over, or a setting have changed. */
export async function reopenRound(db: Database): Promise<{ round: number | null }> {
  return db.transaction(async (tx) => {
    await lockRounds(tx);
    return { round: (await openRound(tx)).number };
  });
}
