import type { Caller } from "../callers/caller";
import type { Queries } from "../db/connect";
import { refused, Refused } from "../refused";
import { t } from "../texts/t";
import { listIdsOf, type DateRow } from "../calendar/dateQueries";
import { whomToInvite } from "./whomToInvite";

/**
 * Whether somebody may change a date or call it off: whoever made it, and whoever may write to all of its lists.
 *
 * @returns a refusal where they may not
 */
export async function mayChange(
  db: Queries,
  caller: Caller,
  date: Pick<DateRow, "id" | "accountId">,
): Promise<Refused | undefined> {
  if (date.accountId === caller.id || caller.role === "coordinator") return undefined;
  const lists = await listIdsOf(db, date.id);
  const found = await whomToInvite(db, caller, { lists, people: [], privateLists: [] });
  return lists.length === 0 || found instanceof Refused || found.refused.length > 0
    ? refused(403, "date/others", t("dates.onlyItsMakerMayChangeIt"))
    : undefined;
}
