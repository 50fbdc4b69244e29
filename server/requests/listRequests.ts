import { eq, and, or, sql, desc } from "drizzle-orm";
import { type getRequests } from "@amigo/contract/requests";
import { type Caller, callerMay } from "../callers/caller";
import type { Context } from "../context";
import { account } from "../db/schema/accounts";
import { season } from "../db/schema/house";
import { list } from "../db/schema/lists";
import { request } from "../db/schema/requests";
import type { Request, Answer } from "../http/handler";
import { decidable } from "../membership/scope";
import { keptIn } from "./keptIn";

const SHOWN = 200;

export async function listRequests(
  { db }: Context,
  { caller }: Request<typeof getRequests>,
): Promise<Answer<typeof getRequests>> {
  const rows = await db
    .select({ request, by: account.name, listId: list.id })
    .from(request)
    .innerJoin(account, eq(account.id, request.accountId))
    .leftJoin(season, eq(season.current, true))
    .leftJoin(list, and(eq(list.key, request.list), eq(list.seasonId, season.id)))
    .where(or(eq(request.accountId, caller.id), decidable(caller)))
    .orderBy(sql`${request.state} <> 'open'`, desc(request.at))
    .limit(SHOWN);
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
    addresses: (row.work.members?.addresses ?? keptIn(row.work.edit)).length,
    mayDecide: row.state === "open" && mayDecide(caller, row.siteId),
  }));
}

function mayDecide(caller: Caller, siteId: number | null): boolean {
  return (
    callerMay(caller, "decide requests") &&
    (caller.role === "coordinator" || (siteId !== null && siteId === caller.siteId))
  );
}
