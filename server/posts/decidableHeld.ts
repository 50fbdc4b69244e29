import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { listDecidable } from "./queries";

/** Which of some posts somebody may decide on: those of lists that they see, which are the ones that they lead, help with or coordinate. */
export async function decidableHeld(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<Set<string>> {
  if (ids.length === 0) return new Set();
  const rows = await listDecidable(db, ids, caller);
  return new Set(rows.map(({ id }) => id));
}
