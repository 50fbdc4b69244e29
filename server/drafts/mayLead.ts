import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import type { LoadedList } from "../membership/loadList";
import { listChangeable } from "./queries";

/** Which of some lists somebody leads or coordinates. */
export async function mayLeadOf(
  db: Queries,
  caller: Caller,
  ids: readonly string[],
): Promise<(of: LoadedList) => boolean> {
  const led = new Set(
    ids.length === 0 ? [] : (await listChangeable(db, ids, caller)).map(({ id }) => id),
  );
  return ({ id }) => led.has(id);
}
