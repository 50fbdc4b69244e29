import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { type byHand } from "../db/schema/people";
import { peopleOf } from "../membership/scope";
import { listManual } from "./manualQueries";
import { needCurrentSeason } from "../facts/needCurrentSeason";

/** What was said by hand and holds, newest first: for a site coordinator what is about somebody whom they see. */
export async function manualChangesOf(
  db: Queries,
  caller: Caller,
): Promise<(typeof byHand.$inferSelect)[]> {
  const seasonId = (await needCurrentSeason(db)).id;
  const within = peopleOf(caller, seasonId);
  return listManual(db, seasonId, within);
}
