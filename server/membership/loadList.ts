import { type Refused, noSuch } from "../refused";
import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { foundByStaff } from "./scope";
import { findScopedList, seenByStaff } from "./queries";

/**
 * A list that somebody may see, with its class and season; else a refusal that does not tell whether it exists.
 *
 * @param or what is enough beside that: that the whole staff finds it, as for writing to it, or that it sees who is on it
 */
export async function loadList(db: Queries, id: string, caller: Caller, or?: "found" | "seen") {
  const instead = or === "found" ? foundByStaff : or === "seen" ? seenByStaff : undefined;
  const found = await findScopedList(db, id, instead, caller);
  if (found === undefined) return noSuch("list");
  return found;
}

export type LoadedList = Exclude<Awaited<ReturnType<typeof loadList>>, Refused>;
