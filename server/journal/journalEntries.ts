import { sql } from "drizzle-orm";
import { type JournalWanted } from "@amigo/contract/house";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { loadHouse } from "../db/houseQueries";
import { journal } from "../db/schema/journal";
import { listJournal } from "./queries";

/** Entries of the journal that somebody may read, newest first, that are by somebody, of a kind, hold a word, and are of some days. */
export async function journalEntries(
  db: Queries,
  caller: Caller,
  { before, actor = "", action = "", q = "", from, to }: JournalWanted,
  most: number,
) {
  const house = await loadHouse(db);
  const zone = house?.timeZone ?? "UTC";
  const day = sql`(${journal.at} at time zone ${zone})::date`;
  return listJournal(db, caller, before, actor, action, q, from, day, to, most);
}
