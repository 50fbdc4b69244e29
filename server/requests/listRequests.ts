import { type getRequests } from "@amigo/contract/requests";
import { type Caller, callerMay } from "../callers/caller";
import type { Context } from "../context";
import type { Request, Answer } from "../http/handler";
import { listShownRequests } from "./queries";
import { keptAddresses } from "./keptAddresses";

/** Returns what somebody has asked for beyond the house rules: their own, or all that the asker may decide. */
export async function listRequests(
  { db }: Context,
  { caller }: Request<typeof getRequests>,
): Promise<Answer<typeof getRequests>> {
  const rows = await listShownRequests(db, caller);
  return rows.map(({ request: row, by, listId }) => ({
    id: row.id,
    list: row.list,
    listId,
    title: row.title,
    rule: row.rule,
    wanted: row.wanted,
    sentence: row.sentence,
    why: row.why,
    by,
    mine: row.accountId === caller.id,
    at: row.at.toISOString(),
    state: row.state,
    decidedBy: row.decidedBy,
    until: row.until,
    word: row.word,
    addresses: (row.work.members?.addresses ?? keptAddresses(row.work.edit)).length,
    mayDecide: row.state === "open" && mayDecide(caller, row.siteId),
  }));
}

function mayDecide(caller: Caller, siteId: number | null): boolean {
  return (
    callerMay(caller, "decide requests") &&
    (caller.role === "coordinator" || (siteId !== null && siteId === caller.siteId))
  );
}
