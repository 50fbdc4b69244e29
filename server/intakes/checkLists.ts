import { refused, type Refused } from "../refused";
import type { Caller } from "../callers/caller";
import type { Database } from "../db/connect";
import { t } from "../texts/t";
import type { Wanted } from "./wantedIntake";
import { listChangeableLists } from "./intakeQueries";

/** A lead makes intakes for the lists that they may change, and for no others; a coordinator for any. */
export async function checkLists(
  db: Database,
  caller: Caller,
  seasonId: number,
  { lists }: Wanted["content"],
): Promise<Refused | undefined> {
  if (caller.role === "coordinator" && lists.length === 0) return;
  const known = new Set(
    (await listChangeableLists(db, seasonId, caller, lists)).map(({ id }) => id),
  );
  if (lists.length === 0 || lists.some((id) => !known.has(id)))
    return refused(403, "intake/lists", t("intakes.chooseTheListsThatYou"), "lists");
}
